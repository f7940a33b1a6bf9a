import { type ComponentType, useEffect, useState } from "react";

/** A part of a screen whose code comes when it is first shown, or is fetched before. */
export type Lazily<P extends object> = ComponentType<P> & { fetch(): Promise<unknown> };

/**
 * A part of a screen whose code comes when it is first shown: screens, sheets, and what not every visit needs.
 *
 * It comes by a plain state change and not by Suspense: React puts a suspended part off for as long as more urgent
 * updates arrive, and beside the streaming bench they never stop; and it holds back for 300 ms what has come soon.
 */
export function lazily<P extends object>(load: () => Promise<ComponentType<P>>): Lazily<P> {
  let known: ComponentType<P> | undefined;
  let coming: Promise<ComponentType<P>> | undefined;
  const fetch = () => {
    coming ??= load().then(
      (part) => {
        known = part;
        return part;
      },
      (wrong) => {
        coming = undefined;
        throw wrong;
      },
    );
    return coming;
  };
  function Part(props: P) {
    const [came, setCame] = useState<{ part?: ComponentType<P>; wrong?: unknown }>({ part: known });
    useEffect(() => {
      if (came.part !== undefined) return;
      let here = true;
      fetch().then(
        (part) => here && setCame({ part }),
        (wrong: unknown) => here && setCame({ wrong }),
      );
      return () => {
        here = false;
      };
    }, [came.part]);
    if (came.wrong !== undefined) throw came.wrong;
    return came.part === undefined ? null : <came.part {...props} />;
  }
  return Object.assign(Part, { fetch });
}
