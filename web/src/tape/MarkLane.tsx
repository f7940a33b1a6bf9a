import { nextId } from "@perceptum/core/names";
import type { Mark, ReadingBlock, TapeHead } from "@perceptum/core/readings";
import { useState } from "react";
import styled from "styled-components";
import { targetsFirst, useEdit, useSettledProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { type Gesture, gestureEnded } from "../model/store/document";
import { markChosen, playheadMoved } from "../model/store/view";
import { arrowStep } from "../ui/arrows";
import { usePointerDrag } from "../ui/usePointerDrag";
import { LANE, LANES_LEFT, LANES_RIGHT } from "./LanePen";
import type { TapeWindow } from "./useTapeWindow";

const Lane = styled.div`
  position: absolute;
  left: ${LANES_LEFT}px;
  right: ${LANES_RIGHT}px;
  top: ${LANE.truth[0] - 2}px;
  height: ${LANE.truth[1] - LANE.truth[0] + 4}px;
  cursor: crosshair;
  touch-action: none;
  overflow: hidden;
`;
const Chosen = styled.div`
  position: absolute;
  top: 0;
  bottom: 0;
  border: 2px solid ${({ theme }) => theme.ink};
  pointer-events: none;
`;
const Handle = styled.div`
  position: absolute;
  top: 0;
  bottom: 0;
  width: 10px;
  margin-left: -5px;
  cursor: ew-resize;
  &::before { content: ""; position: absolute; left: 3px; right: 3px; top: 3px; bottom: 3px; background: ${({ theme }) => theme.ink}; }
`;

type Stretch = Pick<Mark, "from" | "to">;

/** What a drag along the lane began with: where, and the mark or the end of one that it holds. */
interface Held {
  x: number;
  t: number;
  side: "from" | "to" | "both" | "new";
  /** The mark that is held; of a new stretch the one that was under the pointer. */
  mark: Mark | undefined;
  /** The new stretch that was drawn so far. */
  drawn?: Stretch;
}

/** A pointer that moved less is a press, not a drag; in pixels. */
const STILL = 4;

/**
 * The lane of the truth as something to work on: dragging along it marks a stretch with the chosen target, a press
 * chooses a mark, and the chosen mark’s ends and the mark itself can be dragged, or its ends moved by the arrow keys.
 */
export function MarkLane(props: {
  tape: TapeHead;
  block: ReadingBlock;
  part: TapeWindow;
  timeAt: (clientX: number) => number;
}) {
  const { tape, block, part, timeAt } = props;
  const { targets } = useSettledProject();
  const chosen = useAppSelector((state) => state.view.mark);
  const target = useAppSelector((state) => state.view.target);
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const [fresh, setFresh] = useState<Stretch | null>(null);
  const mark = tape.marks.find(({ id }) => id === chosen);

  const share = (t: number) => (part.to === part.from ? 0 : ((t - part.from) / (part.to - part.from)) * 100);
  /** The time of the reading nearest to a time. */
  const snapped = (t: number) => {
    const i = block.indexAt(t);
    if (i < 0) return t;
    const next = Math.min(block.length - 1, i + 1);
    return t - block.t[i] <= block.t[next] - t ? block.t[i] : block.t[next];
  };
  const change = (of: Mark, to: Partial<Stretch>, by: Gesture) =>
    edit("changeMark", { tape: tape.id, mark: of.id, change: to }, by);
  const addMark = (from: number, to: number) => {
    const known = target ?? targetsFirst(targets)[0]?.id;
    if (known === undefined) return;
    // Light and height are most probably those of the marks beside.
    const { light, height } = tape.marks.findLast((m) => m.from <= from) ?? tape.marks[0] ?? {};
    const made: Mark = {
      id: nextId("mark", tape.marks),
      from,
      to,
      target: known,
      ...(light !== undefined && { light }),
      ...(height !== undefined && { height }),
    };
    edit("addMark", { tape: tape.id, mark: made });
    dispatch(markChosen(made.id));
  };
  const drag = usePointerDrag<Held>({
    move(event, held) {
      if (Math.abs(event.clientX - held.x) < STILL) return;
      const t = snapped(timeAt(event.clientX));
      const { side, mark: from } = held;
      if (side === "new") {
        held.drawn = { from: Math.min(held.t, t), to: Math.max(held.t, t) };
        setFresh(held.drawn);
      } else if (from && side === "both") {
        const by = Math.max(-from.from, Math.min(block.t[block.length - 1] - from.to, t - held.t));
        change(from, { from: from.from + by, to: from.to + by }, "drag");
      } else if (from && side === "from") change(from, { from: Math.min(t, from.to) }, "drag");
      else if (from) change(from, { to: Math.max(t, from.from) }, "drag");
    },
    end(held) {
      const { drawn } = held;
      if (drawn !== undefined && drawn.to > drawn.from) addMark(drawn.from, drawn.to);
      else if (held.side === "new" && drawn === undefined) {
        dispatch(markChosen(held.mark?.id ?? null));
        dispatch(playheadMoved({ source: tape.id, t: held.t }));
      }
      setFresh(null);
      dispatch(gestureEnded());
    },
  });
  return (
    <Lane
      role="group"
      aria-label="Marks of the tape"
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.stopPropagation();
        const t = snapped(timeAt(event.clientX));
        const under = tape.marks.findLast((m) => m.from <= t && t <= m.to);
        const side = event.target instanceof HTMLElement ? event.target.dataset.side : undefined;
        if (mark !== undefined && (side === "from" || side === "to"))
          drag.begin(event, { x: event.clientX, t, side, mark });
        else if (mark !== undefined && under === mark) drag.begin(event, { x: event.clientX, t, side: "both", mark });
        else drag.begin(event, { x: event.clientX, t, side: "new", mark: under });
      }}
      {...drag.handlers}
    >
      {fresh && (
        <Chosen
          style={{
            left: `${share(fresh.from)}%`,
            width: `${share(fresh.to) - share(fresh.from)}%`,
            borderStyle: "dashed",
          }}
        />
      )}
      {mark && (
        <>
          <Chosen style={{ left: `${share(mark.from)}%`, width: `max(3px, ${share(mark.to) - share(mark.from)}%)` }} />
          {(["from", "to"] as const).map((side) => (
            <Handle
              key={side}
              data-side={side}
              role="slider"
              tabIndex={0}
              aria-label={side === "from" ? "Start of the mark" : "End of the mark"}
              aria-valuemin={0}
              aria-valuemax={block.t[block.length - 1] ?? 0}
              aria-valuenow={Math.round(mark[side])}
              aria-valuetext={`${(mark[side] / 1000).toFixed(2)} seconds`}
              style={{ left: `${share(mark[side])}%` }}
              onKeyDown={(event) => {
                const step = arrowStep(event.key);
                if (step === 0) return;
                event.preventDefault();
                event.stopPropagation();
                const next = block.indexAt(mark[side]) + step * (event.shiftKey ? 10 : 1);
                const t = block.t[Math.max(0, Math.min(block.length - 1, next))];
                change(mark, side === "from" ? { from: Math.min(t, mark.to) } : { to: Math.max(t, mark.from) }, "keys");
              }}
              onBlur={() => dispatch(gestureEnded())}
            />
          ))}
        </>
      )}
    </Lane>
  );
}
