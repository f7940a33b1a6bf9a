import { type ComponentType, useEffect, useState } from "react";

/**
 * A part of a screen whose code comes when it is first shown: sheets, and what not every visit needs.
 *
 * It comes by a plain state change and not by Suspense: React puts a suspended part off for as long as more urgent
 * updates arrive, and beside the streaming bench they never stop.
 */
export function lazily<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  let known: ComponentType<P> | undefined;
  return function Part(props: P) {
    const [came, setCame] = useState<{ part?: ComponentType<P>; wrong?: unknown }>({ part: known });
    useEffect(() => {
      if (known !== undefined) return;
      let here = true;
      load().then(
        (part) => {
          known = part;
          if (here) setCame({ part });
        },
        (wrong: unknown) => here && setCame({ wrong }),
      );
      return () => {
        here = false;
      };
    }, []);
    if (came.wrong !== undefined) throw came.wrong;
    return came.part === undefined ? null : <came.part {...props} />;
  };
}
