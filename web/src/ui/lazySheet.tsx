import { type ComponentType, lazy, Suspense } from "react";

/** A sheet whose code comes when it is first opened. */
export function lazySheet<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  const Loaded = lazy(() => load().then((found) => ({ default: found as ComponentType<object> })));
  return (props: P) => (
    <Suspense fallback={null}>
      <Loaded {...props} />
    </Suspense>
  );
}
