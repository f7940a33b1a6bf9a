import { type Course, heldAtMm, paintsOf } from "@perceptum/core/world";
import { useDispatch } from "react-redux";
import styled from "styled-components";
import { useProject, useTargets } from "../../session/project";
import { DRAG, gestureEnded } from "../../state/document";
import type { CourseThing } from "../../state/prove";
import { Empty } from "../../ui/layout";
import { usePointerDrag } from "../../ui/usePointerDrag";
import { useSize } from "../../ui/useSize";
import { snapped } from "../course/courseEdit";
import { thingWords } from "../course/thingWords";
import type { CourseEditProps } from "../courseProps";
import { bestOf, reachOf } from "./before";
import { cardAt, cardFor, cardHeight, pressAt, SNAP_MS } from "./cardEdit";
import { type Grip, HeldTimes } from "./HeldTimes";
import { SensorSide } from "./SensorSide";
import { timesScale } from "./timesScale";

const Room = styled.div`
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-rows: minmax(0, 1fr) minmax(0, 1fr);
  gap: 1px;
  background: ${({ theme }) => theme.rule};
  border: 1px solid ${({ theme }) => theme.rule};
  & > * { background: ${({ theme }) => theme.sheet}; min-width: 0; min-height: 0; position: relative; overflow: hidden; }
  & > div > svg { position: absolute; touch-action: none; }
`;
const Say = styled(Empty)`
  padding: 16px;
`;

interface Held {
  thing: CourseThing;
  grip: Grip | "height";
  x: number;
  y: number;
  perPixel: number;
  from: Course;
}

/** The cards and presses of a course by hand: the chosen card before its sensor, and all of them over time. */
export function EditableHand({ course, thing, onChoose, onChange, onRemove, onDuplicate }: CourseEditProps) {
  const project = useProject();
  const targets = useTargets();
  const dispatch = useDispatch();
  const side = useSize<HTMLDivElement>();
  const times = useSize<HTMLDivElement>();
  const best = bestOf(course, project.robot, project.sensors);
  const still = { cards: course.cards, held: { jitterMm: 0, trembleMm: 0 } };
  const heightOf = (index: number) => heldAtMm(still, index, 1, best(index));
  const reach = reachOf(course.cards.map((_, i) => heightOf(i)));
  const scale = timesScale(course, reach, times.width, times.height);
  const index = thing?.part === "cards" ? thing.index : 0;
  const card = course.cards[index];
  const sensorId = card?.sensor ?? project.robot.mounts[0].sensor;
  const sensor = project.sensors.find((s) => s.id === sensorId);

  const bars = (["cards", "presses"] as const).flatMap((part) =>
    course[part].map((_, i): CourseThing => ({ part, index: i })),
  );
  const drag = usePointerDrag<Held>({
    move({ clientX, clientY, altKey }, { thing: which, grip, x, y, perPixel, from }) {
      const grid = altKey ? 5 : SNAP_MS;
      const ms = (clientX - x) / scale.perMs;
      const gesture = `${DRAG}course ${which.part} ${which.index}`;
      const what = `moving ${thingWords(from, which, targets)}`;
      if (which.part === "presses") {
        const { atMs } = from.presses[which.index];
        return onChange(what, pressAt(from, which.index, snapped(atMs + ms, grid)), gesture);
      }
      const old = from.cards[which.index];
      const mm = (old.heightMm ?? best(which.index)) + (clientY - y) * perPixel;
      if (grip === "height") return onChange(what, cardHeight(from, which.index, mm), gesture);
      if (grip === "end") return onChange(what, cardFor(from, which.index, snapped(old.forMs + ms, grid)), gesture);
      const later = cardAt(from, which.index, snapped(old.atMs + ms, grid));
      // A card that says no height keeps to its sensor's best until it is clearly moved away from it.
      const moved = Math.abs(clientY - y) > 6 || old.heightMm !== undefined;
      onChange(what, moved ? cardHeight(later, which.index, mm) : later, gesture);
    },
    end: () => dispatch(gestureEnded()),
  });
  const grab =
    (which: CourseThing, grip: Held["grip"], perPixel = 1 / scale.perMm) =>
    (event: React.PointerEvent) => {
      event.stopPropagation();
      onChoose(which);
      drag.begin(event, { thing: which, grip, x: event.clientX, y: event.clientY, perPixel, from: course });
    };
  const onKeyDown = (which: CourseThing) => (event: React.KeyboardEvent) => {
    const ms = event.altKey ? 10 : event.shiftKey ? 1000 : 100;
    const across = { ArrowLeft: -ms, ArrowRight: ms }[event.key];
    const down = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    const gesture = `${which.part} ${which.index} by keys`;
    const i = which.index;
    if (across !== undefined)
      onChange(
        "moving what is held up",
        which.part === "cards"
          ? cardAt(course, i, course.cards[i].atMs + across)
          : pressAt(course, i, course.presses[i].atMs + across),
        gesture,
      );
    else if (down !== undefined && which.part === "cards") {
      const by = event.shiftKey ? 10 : 1;
      onChange("a card’s height", cardHeight(course, i, heightOf(i) + down * by), gesture);
    } else if (event.key === "Delete" || event.key === "Backspace") onRemove(which);
    else if (event.key === "PageUp" || event.key === "PageDown") {
      const all = bars.findIndex((bar) => bar.part === which.part && bar.index === which.index);
      const next = all + (event.key === "PageDown" ? 1 : -1);
      if (bars[next] !== undefined) {
        onChoose(bars[next]);
        times.ref.current?.querySelectorAll<SVGElement>('[role="button"]')[next]?.focus();
      }
    } else if (event.key === "Enter" || event.key === " ") onChoose(which);
    else if (event.key === "d" && (event.ctrlKey || event.metaKey)) onDuplicate(which);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Room>
      <div ref={side.ref} {...drag.handlers}>
        {card === undefined || sensor === undefined ? (
          <Say>Nothing is held up yet. Press “Add …” and choose a card; it comes before {sensor?.name}.</Say>
        ) : (
          <svg
            width={side.width}
            height={side.height}
            role="img"
            aria-label={`${targets.get(paintsOf(card.target)[0])?.name} ${heightOf(index)} mm before ${sensor.name}`}
          >
            <g transform={`translate(${side.width / 2} 0)`}>
              <SensorSide
                sensor={sensor}
                reach={reach}
                width={side.width}
                height={side.height}
                before={{ target: targets.get(paintsOf(card.target)[0]), mm: heightOf(index) }}
                onGrab={(event, mmPerPixel) => grab({ part: "cards", index }, "height", mmPerPixel)(event)}
              />
            </g>
          </svg>
        )}
      </div>
      <div ref={times.ref} {...drag.handlers}>
        <svg
          width={times.width}
          height={times.height}
          role="application"
          aria-label={`${course.name}, to be edited`}
          onPointerDown={() => onChoose(null)}
          onKeyUp={() => dispatch(gestureEnded())}
        >
          <HeldTimes
            course={course}
            bestOf={best}
            reach={reach}
            width={times.width}
            height={times.height}
            thing={thing}
            grab={(which, grip) => grab(which, grip)}
            keys={onKeyDown}
            wordsOf={(which) => thingWords(course, which, targets)}
          />
        </svg>
      </div>
    </Room>
  );
}
