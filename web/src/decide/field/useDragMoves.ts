import { type RefObject, useEffect, useRef } from "react";

/**
 * Moves of a captured pointer as soon as they come in. Browsers hold `pointermove` back until the next frame;
 * `pointerrawupdate` does not wait, so that the judgement of a move can stand in that very frame.
 */
export function useDragMoves(element: RefObject<Element | null>, onMove: (event: PointerEvent) => void): void {
  const latest = useRef(onMove);
  useEffect(() => {
    latest.current = onMove;
  });
  useEffect(() => {
    const { current } = element;
    if (current === null) return;
    const kind = "onpointerrawupdate" in window ? "pointerrawupdate" : "pointermove";
    const listener = (event: Event) => latest.current(event as PointerEvent);
    current.addEventListener(kind, listener);
    return () => current.removeEventListener(kind, listener);
  }, [element]);
}
