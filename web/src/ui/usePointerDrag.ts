import { type RefObject, useEffect, useRef } from "react";

/** Where a pointer is, and what is held down with it. */
export type PointerAt = Pick<PointerEvent, "clientX" | "clientY" | "altKey">;

/**
 * A drag by a captured pointer. `begin` takes hold of something; `move` is told of each move with what is held, `end`
 * once, however the drag ends; `idle` of the moves while nothing is held. The handlers go on the element that begins
 * the drag, or on one around it. What a move has for the end it writes into what is held: a state that it sets may not
 * be drawn before the drag ends.
 *
 * With `raw` the moves of that element come as soon as they are known: browsers hold `pointermove` back until the next
 * frame, `pointerrawupdate` does not wait, so that the judgement of a move can stand in that very frame.
 */
export function usePointerDrag<Held>(does: {
  move: (at: PointerAt, held: Held) => void;
  end?: (held: Held, at: PointerAt) => void;
  idle?: (event: React.PointerEvent) => void;
  raw?: RefObject<Element | null>;
}) {
  const { raw } = does;
  const held = useRef<{ thing: Held } | null>(null);
  const latest = useRef(does.move);
  useEffect(() => {
    latest.current = does.move;
  });
  useEffect(() => {
    const element = raw?.current;
    if (!element) return;
    const kind = "onpointerrawupdate" in window ? "pointerrawupdate" : "pointermove";
    const listener = (event: Event) => {
      if (held.current !== null) latest.current(event as PointerEvent, held.current.thing);
    };
    element.addEventListener(kind, listener);
    return () => element.removeEventListener(kind, listener);
  }, [raw]);
  return {
    begin(event: React.PointerEvent, thing: Held) {
      event.currentTarget.setPointerCapture(event.pointerId);
      held.current = { thing };
    },
    handlers: {
      onPointerMove(event: React.PointerEvent) {
        if (held.current === null) does.idle?.(event);
        else if (raw === undefined) does.move(event, held.current.thing);
      },
      onLostPointerCapture(event: React.PointerEvent) {
        const ended = held.current;
        held.current = null;
        if (ended !== null) does.end?.(ended.thing, event);
      },
    },
  };
}
