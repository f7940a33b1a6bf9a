import { useEffect } from "react";
import { takesKeys } from "../ui/takesKeys";
import { stopsIn } from "./panes";

/**
 * Keeps the keyboard's place when what has the focus goes away, as something that is deleted does: the focus goes to
 * the control that now stands in its place in the pane, or to the last one there. While a key is down it waits: what
 * has the focus when Enter is let go would be pressed by it. Whoever did not type goes to no field: the keys that mark
 * and play would be typed there.
 */
export function useKeptFocus(): void {
  useEffect(() => {
    let held: { element: Element; pane: Element; place: number } | null = null;
    const down = new Set<string>();
    const restore = () => {
      if (held === null || held.element.isConnected || document.activeElement !== document.body) return;
      if (down.size > 0) return;
      const { pane, place, element } = held;
      held = null;
      if (!pane.isConnected) return;
      const stops = stopsIn(pane);
      const at = Math.max(0, Math.min(place, stops.length - 1));
      const fit = takesKeys(element) ? stops : stops.filter((stop) => !takesKeys(stop));
      const distance = (stop: HTMLElement) => Math.abs(stops.indexOf(stop) - at);
      fit
        .reduce<HTMLElement | undefined>(
          (best, stop) => (best === undefined || distance(stop) < distance(best) ? stop : best),
          undefined,
        )
        ?.focus();
    };
    const listeners: [string, (event: never) => void][] = [
      [
        "focusin",
        ({ target }: FocusEvent) => {
          const pane = target instanceof Element ? target.closest("[data-pane]") : null;
          held =
            pane === null
              ? null
              : { element: target as Element, pane, place: stopsIn(pane).indexOf(target as HTMLElement) };
        },
      ],
      ["keydown", ({ code }: KeyboardEvent) => down.add(code)],
      [
        "keyup",
        ({ code }: KeyboardEvent) => {
          down.delete(code);
          setTimeout(restore);
        },
      ],
      // Of the window alone: a key that goes up elsewhere is not heard of.
      ["blur", ({ target }: FocusEvent) => target === window && down.clear()],
    ];
    const observer = new MutationObserver(() => setTimeout(restore));
    for (const [event, listener] of listeners) window.addEventListener(event, listener as EventListener, true);
    observer.observe(document.body, { childList: true, subtree: true });
    return () => {
      for (const [event, listener] of listeners) window.removeEventListener(event, listener as EventListener, true);
      observer.disconnect();
    };
  }, []);
}
