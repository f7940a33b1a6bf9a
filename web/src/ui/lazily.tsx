import { type ComponentType, lazy, Suspense } from "react";

/** A part of a screen whose code comes when it is first shown: sheets, and what not every visit needs. */
export function lazily<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  const Loaded = lazy(() => load().then((found) => ({ default: found as ComponentType<object> })));
  return (props: P) => (
    <Suspense fallback={null}>
      <Loaded {...props} />
    </Suspense>
  );
}
