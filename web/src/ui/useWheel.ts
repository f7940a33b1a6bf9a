import { type RefObject, useEffect, useRef } from "react";

/** The wheel over an element, which then does not scroll the page: React's own listener may not keep it from that. */
export function useWheel(element: RefObject<Element | null>, onWheel: (event: WheelEvent, box: DOMRect) => void): void {
  const latest = useRef(onWheel);
  useEffect(() => {
    latest.current = onWheel;
  });
  useEffect(() => {
    const { current } = element;
    const wheel = (event: Event) => {
      event.preventDefault();
      latest.current(event as WheelEvent, (event.currentTarget as Element).getBoundingClientRect());
    };
    current?.addEventListener("wheel", wheel, { passive: false });
    return () => current?.removeEventListener("wheel", wheel);
  }, [element]);
}
