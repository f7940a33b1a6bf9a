import { type Plate, paintsOf, type RailCourse, RailWay } from "@perceptum/core/world";
import { useState } from "react";
import { useDispatch } from "react-redux";
import { useEdit, useTargets } from "../../hooks/project";
import { type Gesture, gestureEnded } from "../../model/store/document";
import { type PointerAt, usePointerDrag } from "../../ui/usePointerDrag";
import { EditableCourse } from "../course/EditableCourse";
import type { CourseEditProps } from "../courseProps";
import { type CourseRail, drawnOn, endDragged, nearestOn, pieceBy, plateAt, withWay } from "./railEdit";

/** The side of a handle and how far around it it can be taken hold of, in CSS pixels. */
const HANDLE = 9;
const HOLD = 12;

/** A course on a rail that is edited: beside what every floor has, its plates and the ends of its sections are dragged. */
export function EditableRail(props: CourseEditProps) {
  const { course } = props;
  return (
    <EditableCourse
      {...props}
      layer={(px, onFloor) => "rail" in course && <RailLayer course={course} px={px} onFloor={onFloor} />}
    />
  );
}

/** What can be taken hold of: a plate, the end of a section, or the end of the rail to go on from. */
type Hold = { plate: Plate } | { end: number } | "on";

function RailLayer(props: { course: RailCourse; px: number; onFloor: (event: PointerAt) => [number, number] }) {
  const { course, px, onFloor } = props;
  const edit = useEdit();
  const targets = useTargets();
  const dispatch = useDispatch();
  const [stop, setStop] = useState(0);
  const way = new RailWay(course.rail);
  const setRail = (rail: CourseRail, by?: Gesture) => edit("setRail", { course: course.id, rail }, by);
  const setPlate = (thing: Plate, by: Gesture) =>
    edit("setThing", { course: course.id, of: { part: "plates", thing } }, by);
  const drag = usePointerDrag<{ hold: Hold; from: CourseRail }>({
    move(event, { hold, from }) {
      const to = onFloor(event);
      if (hold === "on") setRail(drawnOn(from, to, event.altKey), "drag");
      else if ("end" in hold) setRail(endDragged(from, hold.end, to, event.altKey), "drag");
      else {
        const at = nearestOn(from, to);
        setPlate(plateAt(from, hold.plate, event.altKey ? at : Math.round(at / 10) * 10), "drag");
      }
    },
    end: () => dispatch(gestureEnded()),
  });

  const byKey = (hold: Hold, steps: number) => {
    if (hold === "on") return;
    if ("end" in hold) setRail(pieceBy(course.rail, hold.end, steps), "keys");
    else setPlate(plateAt(course.rail, hold.plate, hold.plate.at + 10 * steps), "keys");
  };
  const remove = (hold: Hold) => {
    if (hold === "on") return;
    if ("end" in hold) setRail(withWay(course.rail, course.rail.way.toSpliced(hold.end, 1)));
    else edit("deleteThing", { course: course.id, part: "plates", thing: hold.plate.id });
  };
  const onKeyDown = (hold: Hold, i: number) => (event: React.KeyboardEvent) => {
    const steps = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (steps !== undefined) byKey(hold, event.shiftKey ? 10 * steps : steps);
    else if (event.key === "Delete" || event.key === "Backspace") remove(hold);
    else if (event.key === "Enter" && hold === "on")
      setRail(withWay(course.rail, [...course.rail.way, { straight: 300 }]));
    else if (event.key === "PageUp" || event.key === "PageDown") {
      const next = i + (event.key === "PageDown" ? 1 : -1);
      const all = event.currentTarget.parentElement?.querySelectorAll<SVGElement>(".along");
      if (all?.[next] === undefined) return;
      setStop(next);
      all[next].focus();
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const holds: readonly Hold[] = [
    ...course.plates.map((plate) => ({ plate })),
    ...course.rail.way.map((_, end) => ({ end })),
    ...(course.rail.closed ? [] : ["on" as const]),
  ];
  const wordsOf = (hold: Hold): string => {
    if (hold === "on") return "Go on from the end of the rail";
    if ("end" in hold) return `End of section ${hold.end + 1}`;
    const { target, at } = hold.plate;
    const names = paintsOf(target).map((id) => targets.get(id)?.name ?? id);
    return `Plate ${course.plates.indexOf(hold.plate) + 1}: ${names.join(" or ")}, ${Math.round(at) / 10} cm along the rail`;
  };
  return (
    <g {...drag.handlers}>
      {holds.map((hold, i) => (
        // biome-ignore lint/a11y/useSemanticElements: a button element cannot stand in a drawing
        <g
          key={wordsOf(hold).split(":")[0]}
          className="along"
          role="button"
          tabIndex={i === Math.min(stop, holds.length - 1) ? 0 : -1}
          aria-label={wordsOf(hold)}
          onFocus={() => setStop(i)}
          onPointerDown={(event) => {
            event.stopPropagation();
            drag.begin(event, { hold, from: course.rail });
          }}
          onKeyDown={onKeyDown(hold, i)}
          onKeyUp={() => dispatch(gestureEnded())}
        >
          <Grip way={way} hold={hold} px={px} />
        </g>
      ))}
    </g>
  );
}

/** Where something along the rail is taken hold of. */
function Grip({ way, hold, px }: { way: RailWay; hold: Hold; px: number }) {
  if (hold !== "on" && "plate" in hold) {
    const { at, aside, length, width } = hold.plate;
    const { x, y, heading } = way.at(at);
    const [long, wide] = [Math.max(length, HOLD * px), Math.max(width, HOLD * px)];
    return (
      <g transform={`translate(${x} ${y}) rotate(${heading})`}>
        <rect x={-long / 2} y={aside - wide / 2} width={long} height={wide} pointerEvents="all" />
      </g>
    );
  }
  const side = HANDLE * px;
  // The ring stands off the end, in the direction in which the rail would go on.
  const { x, y, heading } = hold === "on" ? way.end : (way.sections[hold.end + 1]?.start ?? way.end);
  return (
    <g transform={`translate(${x} ${y}) rotate(${heading})`}>
      {hold === "on" ? (
        <circle className="handle" cx={2 * HOLD * px} r={0.7 * side} />
      ) : (
        <rect className="handle" x={-side / 2} y={-side / 2} width={side} height={side} />
      )}
      <circle className="hold" cx={hold === "on" ? 2 * HOLD * px : 0} r={HOLD * px} />
    </g>
  );
}
