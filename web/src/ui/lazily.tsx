import { type ComponentType, useEffect, useState } from "react";
import { Button } from "./Button";
import { Empty } from "./layout";

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
    coming ??= load().then((part) => {
      known = part;
      return part;
    });
    return coming;
  };
  function Part(props: P) {
    const [came, setCame] = useState<{ part?: ComponentType<P>; failed?: true }>({ part: known });
    useEffect(() => {
      if (came.part !== undefined) return;
      let here = true;
      fetch().then(
        (part) => here && setCame({ part }),
        () => here && setCame({ failed: true }),
      );
      return () => {
        here = false;
      };
    }, [came.part]);
    if (came.failed)
      return (
        <Empty as="div" role="alert" style={{ padding: 20 }}>
          <p style={{ marginBottom: 8 }}>
            This part of the page could not be fetched; is the server still running? What you changed is kept.
          </p>
          {/* A browser that failed to fetch a module does not try again before the page is loaded anew. */}
          <Button onPress={() => location.reload()}>Load the page again</Button>
        </Empty>
      );
    return came.part === undefined ? null : <came.part {...props} />;
  }
  // A failure is told by the part itself, when it is shown.
  return Object.assign(Part, { fetch: () => fetch().catch(() => undefined) });
}
