import type { ThingId } from "@perceptum/core/names";
import { type Card, heldAtMm, paintsOf } from "@perceptum/core/world";
import { useDispatch } from "react-redux";
import styled from "styled-components";
import { useEdit, useProject, useTargets } from "../../hooks/project";
import { type Gesture, gestureEnded } from "../../model/store/document";
import { focusBeside } from "../../ui/focusBeside";
import { Empty } from "../../ui/layout";
import { usePointerDrag } from "../../ui/usePointerDrag";
import { useSize } from "../../ui/useSize";
import { snapped, thingsOf } from "../course/courseEdit";
import { thingWords } from "../course/thingWords";
import type { CourseEditProps } from "../courseProps";
import { bestOf, reachOf } from "./before";
import { heldAt, heldFor, heldFrom, SNAP_MS } from "./cardEdit";
import { type Grip, type HeldThing, HeldTimes } from "./HeldTimes";
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
  of: HeldThing;
  grip: Grip | "height";
  x: number;
  y: number;
  perPixel: number;
}

/** The cards and presses of a course by hand: the chosen card before its sensor, and all of them over time. */
export function EditableHand({ course, thing, onChoose, onRemove, onDuplicate }: CourseEditProps) {
  const edit = useEdit();
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
  const placeOf = (id: ThingId) => course.cards.findIndex((one) => one.id === id);
  const index = thing?.part === "cards" ? Math.max(0, placeOf(thing.thing.id)) : 0;
  const card = course.cards[index];
  const sensorId = card?.sensor ?? project.robot.mounts[0].sensor;
  const sensor = project.sensors.find((s) => s.id === sensorId);

  const bars = (["cards", "presses"] as const).flatMap((part) => thingsOf(course, part) as HeldThing[]);
  const set = (of: HeldThing, by: Gesture) => edit("setThing", { course: course.id, of }, by);
  const drag = usePointerDrag<Held>({
    move({ clientX, clientY, altKey }, { of, grip, x, y, perPixel }) {
      const grid = altKey ? 5 : SNAP_MS;
      const ms = (clientX - x) / scale.perMs;
      if (of.part === "presses") {
        set({ ...of, thing: heldFrom(of.thing, snapped(of.thing.atMs + ms, grid)) }, "drag");
        return;
      }
      const card = of.thing;
      const put = (thing: Card) => void set({ ...of, thing }, "drag");
      const mm = (card.heightMm ?? best(placeOf(card.id))) + (clientY - y) * perPixel;
      if (grip === "height") return put(heldAt(card, mm));
      if (grip === "end") return put(heldFor(card, snapped(card.forMs + ms, grid)));
      const later = heldFrom(card, snapped(card.atMs + ms, grid));
      // A card that says no height keeps to its sensor's best until it is clearly moved away from it.
      const moved = Math.abs(clientY - y) > 6 || card.heightMm !== undefined;
      put(moved ? heldAt(later, mm) : later);
    },
    end: () => dispatch(gestureEnded()),
  });
  const grab =
    (of: HeldThing, grip: Held["grip"], perPixel = 1 / scale.perMm) =>
    (event: React.PointerEvent) => {
      event.stopPropagation();
      onChoose(of);
      drag.begin(event, { of, grip, x: event.clientX, y: event.clientY, perPixel });
    };
  const onKeyDown = (of: HeldThing) => (event: React.KeyboardEvent) => {
    const ms = event.altKey ? 10 : event.shiftKey ? 1000 : 100;
    const across = { ArrowLeft: -ms, ArrowRight: ms }[event.key];
    const down = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (across !== undefined) {
      const { atMs } = of.thing;
      if (of.part === "cards") set({ ...of, thing: heldFrom(of.thing, atMs + across) }, "keys");
      else set({ ...of, thing: heldFrom(of.thing, atMs + across) }, "keys");
    } else if (down !== undefined && of.part === "cards") {
      const by = event.shiftKey ? 10 : 1;
      set({ ...of, thing: heldAt(of.thing, heightOf(placeOf(of.thing.id)) + down * by) }, "keys");
    } else if (event.key === "Delete" || event.key === "Backspace") {
      if (onRemove(of)) focusBeside(event.currentTarget, '[role="button"]');
    } else if (event.key === "PageUp" || event.key === "PageDown") {
      const all = bars.findIndex((bar) => bar.part === of.part && bar.thing.id === of.thing.id);
      const next = all + (event.key === "PageDown" ? 1 : -1);
      if (bars[next] !== undefined) {
        onChoose(bars[next]);
        times.ref.current?.querySelectorAll<SVGElement>('[role="button"]')[next]?.focus();
      }
    } else if (event.key === "Enter" || event.key === " ") onChoose(of);
    else if (event.key === "d" && (event.ctrlKey || event.metaKey)) onDuplicate(of);
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
                onGrab={(event, mmPerPixel) => grab({ part: "cards", thing: card }, "height", mmPerPixel)(event)}
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
            grab={grab}
            keys={onKeyDown}
            wordsOf={(of) => thingWords(course, of, targets)}
          />
        </svg>
      </div>
    </Room>
  );
}
