import type { CameraSensor } from "@perceptum/core/readings";
import { stripIn } from "@perceptum/core/vision";
import { useRef } from "react";
import styled from "styled-components";
import { useEdit } from "../hooks/project";
import { useAppDispatch } from "../hooks/store";
import { type Gesture, gestureEnded } from "../model/store/document";
import { arrowStep } from "../ui/arrows";
import { usePointerDrag } from "../ui/usePointerDrag";
import type { FrameLayout } from "./frameLayout";
import { movedSide, type Side } from "./movedSide";

const Handle = styled.div<{ $level: boolean }>`
  position: absolute;
  ${({ $level }) => ($level ? "height: 11px; cursor: ns-resize;" : "width: 11px; cursor: ew-resize;")}
  touch-action: none;
  &::before {
    content: "";
    position: absolute;
    ${({ $level }) => ($level ? "left: 0; right: 0; top: 4px; height: 1px;" : "top: 0; bottom: 0; left: 4px; width: 1px;")}
    background: #000;
    outline: 1px solid rgb(255 255 255 / 85%);
  }
`;

const SIDES = [
  { side: "top", name: "First row that counts", level: true },
  { side: "bottom", name: "First row below the strip", level: true },
  { side: "left", name: "First column that counts", level: false },
  { side: "right", name: "First column right of the strip", level: false },
] as const;

/** The four sides of the strip as lines to be dragged, or moved by the arrow keys. */
export function StripHandles({ sensor, laid }: { sensor: CameraSensor; laid: FrameLayout }) {
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const ground = useRef<HTMLDivElement>(null);
  const strip = stripIn(sensor.frame, sensor.strip);
  const move = (side: Side, to: number, by: Gesture) =>
    edit("setStrip", { sensor: sensor.id, strip: movedSide(sensor, side, to) ?? null }, by);
  const drag = usePointerDrag<Side>({
    move({ clientX, clientY }, side) {
      const box = ground.current?.parentElement?.getBoundingClientRect();
      if (box === undefined) return;
      const level = side === "top" || side === "bottom";
      const to = level ? (clientY - box.top - laid.top) / laid.scale : (clientX - box.left - laid.left) / laid.scale;
      move(side, to, "drag");
    },
    end: () => dispatch(gestureEnded()),
  });
  return (
    <div ref={ground}>
      {SIDES.map(({ side, name, level }) => {
        const at = level ? laid.top + strip[side] * laid.scale : laid.left + strip[side] * laid.scale;
        return (
          <Handle
            key={side}
            $level={level}
            role="slider"
            tabIndex={0}
            aria-label={name}
            aria-orientation={level ? "vertical" : "horizontal"}
            aria-valuemin={0}
            aria-valuemax={level ? sensor.frame.height : sensor.frame.width}
            aria-valuenow={strip[side]}
            aria-valuetext={`${strip[side]} px`}
            style={
              level
                ? { top: at - 5, left: laid.left, width: sensor.frame.width * laid.scale }
                : { left: at - 5, top: laid.top, height: sensor.frame.height * laid.scale }
            }
            onPointerDown={(event) => {
              if (event.button !== 0) return;
              event.stopPropagation();
              drag.begin(event, side);
            }}
            {...drag.handlers}
            onKeyDown={(event) => {
              // Rows count downwards.
              const step = level ? -arrowStep(event.key) : arrowStep(event.key);
              if (step === 0) return;
              event.preventDefault();
              event.stopPropagation();
              move(side, strip[side] + step * (event.shiftKey ? 10 : 1), "keys");
            }}
            onBlur={() => dispatch(gestureEnded())}
          />
        );
      })}
    </div>
  );
}
