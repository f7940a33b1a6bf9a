import type { PartThing } from "@perceptum/core/edits";
import type { Course, CoursePart } from "@perceptum/core/world";
import { useRef } from "react";
import { useDispatch } from "react-redux";
import styled from "styled-components";
import { useEdit, useTargets } from "../../hooks/project";
import { gestureEnded } from "../../model/store/document";
import { focusBeside } from "../../ui/focusBeside";
import { type PointerAt, usePointerDrag } from "../../ui/usePointerDrag";
import { useSize } from "../../ui/useSize";
import { CourseShapes, CourseWords, groundInk, Outline, ScaleBar } from "../CourseShapes";
import { CourseRoom, fitted } from "../CourseView";
import type { CourseEditProps } from "../courseProps";
import { movedBy, placedOf, pointMoved, pointsOf, sizedTo, snapped, thingsOf, turnedTo } from "./courseEdit";
import { thingWords } from "./thingWords";

const Ground = styled.svg`
  touch-action: none;
  & :is(.part, .along) { cursor: move; outline: none; }
  & .part :is(rect, circle, polygon, polyline) { fill: transparent; stroke: transparent; }
  & .along rect:not(.handle) { fill: transparent; }
  & .along:focus-visible .handle { stroke-width: 4; }
  & :is(.part:is(:focus-visible, [aria-pressed="true"]), .along:focus-visible) :is(rect:not(.handle), .part circle, polygon, polyline) { stroke: #fff; stroke-width: 2; stroke-dasharray: 5 3; vector-effect: non-scaling-stroke; }
  & .handle { fill: #fff; stroke: #161616; stroke-width: 1.5; vector-effect: non-scaling-stroke; pointer-events: none; }
  & .hold { fill: transparent; cursor: pointer; }
`;

/** The side of a handle, in CSS pixels. */
const HANDLE = 9;
/** How far around its middle it can be taken hold of: a finger is wide. */
const HOLD = 12;
/** How far the handle that turns a thing stands off, in CSS pixels. */
const OFF = 22;

/** Parts as they lie on one another, the lowest first: of what lies at one place the upper one is taken. */
const FROM_BELOW: readonly CoursePart[] = ["shade", "zones", "lines", "patches", "signs", "starts"];

type Grip = "move" | "size" | "turn" | { point: number };

/** What is drawn over the parts of a course in its own units: mm for each CSS pixel, and where a pointer is on it. */
export type Layer = (px: number, onFloor: (event: PointerAt) => [number, number]) => React.ReactNode;

/** The course to scale with every part to be chosen, dragged, sized by its corner, turned and moved point by point. */
export function EditableCourse(props: CourseEditProps & { layer?: Layer }) {
  const { course, thing, onChoose, onRemove, onDuplicate, layer } = props;
  const edit = useEdit();
  const { ref, width, height } = useSize<HTMLDivElement>();
  const targets = useTargets();
  const dispatch = useDispatch();
  const svg = useRef<SVGSVGElement>(null);
  const [long, high] = course.size;
  const { scale, w, h } = fitted(course.size, width, height);
  const px = 1 / scale;

  const onFloor = (event: PointerAt): [number, number] => {
    const box = svg.current?.getBoundingClientRect();
    return box === undefined ? [0, 0] : [(event.clientX - box.left) / scale, (box.bottom - event.clientY) / scale];
  };
  const drag = usePointerDrag<{ thing: PartThing; grip: Grip; at: [number, number]; from: Course }>({
    move(event, held) {
      const of = dragged(held.from, held.thing, held.grip, held.at, onFloor(event), event.altKey);
      edit("setThing", { course: course.id, of }, "drag");
    },
    end: () => dispatch(gestureEnded()),
  });
  const grab = (which: PartThing, grip: Grip) => (event: React.PointerEvent) => {
    event.stopPropagation();
    onChoose(which);
    drag.begin(event, { thing: which, grip, at: onFloor(event), from: course });
  };
  const onKeyDown = (which: PartThing) => (event: React.KeyboardEvent) => {
    const step = event.altKey ? 1 : event.shiftKey ? 100 : 10;
    const arrows: Record<string, [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, step],
      ArrowDown: [0, -step],
    };
    const arrow = arrows[event.key];
    const set = (of: PartThing) => edit("setThing", { course: course.id, of }, "keys");
    if (arrow !== undefined) set(movedBy(course, which, ...arrow));
    else if (event.key === "Delete" || event.key === "Backspace") {
      if (onRemove(which)) focusBeside(event.currentTarget, ".part");
    } else if (event.key === "Enter" || event.key === " ") onChoose(which);
    else if (event.key === "d" && (event.ctrlKey || event.metaKey)) onDuplicate(which);
    else if (event.key === "PageUp" || event.key === "PageDown") {
      const next = parts.findIndex(isChosen) + (event.key === "PageDown" ? 1 : -1);
      if (parts[next] !== undefined) {
        onChoose(parts[next]);
        svg.current?.querySelectorAll<SVGElement>(".part")[next]?.focus();
      }
    } else if (event.key === "," || event.key === ".") {
      const place = placedOf(course, which);
      if (place) set(turnedTo(which, place.angle + (event.key === "," ? 5 : -5)));
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const parts = FROM_BELOW.flatMap((part) => thingsOf(course, part));
  const isChosen = (which: PartThing) => thing?.part === which.part && thing.thing.id === which.thing.id;
  // Tab comes to one part only: there may be thousands.
  const stop = parts.find(isChosen) ?? parts[0];
  return (
    <CourseRoom ref={ref}>
      {width > 0 && (
        <Ground
          ref={svg}
          width={w}
          height={h}
          viewBox={`0 0 ${long} ${high}`}
          role="application"
          aria-label={`${course.name}, to be edited`}
          onPointerDown={() => onChoose(null)}
          {...drag.handlers}
        >
          <g transform={`translate(0 ${high}) scale(1 -1)`}>
            <CourseShapes course={course} start="" />
            <CourseWords course={course} mmPerPixel={px} />
            {parts.map((which) => {
              return (
                // biome-ignore lint/a11y/useSemanticElements: a button element cannot stand in a drawing
                <g
                  key={`${which.part} ${which.thing.id}`}
                  className="part"
                  role="button"
                  tabIndex={which === stop ? 0 : -1}
                  aria-pressed={isChosen(which)}
                  aria-label={thingWords(course, which, targets)}
                  onPointerDown={grab(which, "move")}
                  onKeyDown={onKeyDown(which)}
                  onKeyUp={() => dispatch(gestureEnded())}
                >
                  <PartOutline course={course} of={which} px={px} />
                </g>
              );
            })}
            {layer?.(px, onFloor)}
            {thing !== null && <Handles course={course} of={thing} px={px} grab={grab} />}
          </g>
          <ScaleBar mmPerPixel={px} high={high} ink={groundInk(targets.get(course.ground)?.paint)} />
        </Ground>
      )}
    </CourseRoom>
  );
}

/** What a drag makes of the course as it was when the drag began. */
function dragged(
  from: Course,
  of: PartThing,
  grip: Grip,
  [x0, y0]: readonly [number, number],
  [x, y]: readonly [number, number],
  fine: boolean,
): PartThing {
  const grid = fine ? 1 : 10;
  const place = placedOf(from, of);
  if (place === undefined) return of;
  if (typeof grip === "object") return pointMoved(of, grip.point, [snapped(x, grid), snapped(y, grid)]);
  if (grip === "move")
    return movedBy(from, of, snapped(place.x + x - x0, grid) - place.x, snapped(place.y + y - y0, grid) - place.y);
  const [dx, dy] = [x - place.x, y - place.y];
  if (grip === "turn") {
    const angle = (Math.atan2(dy, dx) * 180) / Math.PI;
    return turnedTo(of, snapped(angle, fine ? 1 : 5));
  }
  const a = (-place.angle * Math.PI) / 180;
  const along = 2 * Math.abs(dx * Math.cos(a) - dy * Math.sin(a));
  const across = 2 * Math.abs(dx * Math.sin(a) + dy * Math.cos(a));
  return sizedTo(of, snapped(along, grid), snapped(across, grid));
}

/** Where a part can be taken hold of. */
function PartOutline({ course, of, px }: { course: Course; of: PartThing; px: number }) {
  const place = placedOf(course, of);
  if (place === undefined) return null;
  if (of.part === "lines") {
    const { points, width } = of.thing;
    return (
      <polyline
        points={points.map((p) => p.join(",")).join(" ")}
        style={{ fill: "none" }}
        strokeWidth={Math.max(width, 12 * px)}
        pointerEvents="stroke"
      />
    );
  }
  const at = `translate(${place.x} ${place.y}) rotate(${place.angle})`;
  if (of.part === "patches" || of.part === "zones") {
    const isZone = of.part === "zones";
    return (
      <g transform={at}>
        <Outline
          shape={of.thing.shape}
          fill={isZone ? "none" : "transparent"}
          pointerEvents={isZone ? "stroke" : "all"}
          strokeWidth={12 * px}
        />
      </g>
    );
  }
  const [along, across] = of.part === "starts" ? [80, 80] : (place.size ?? [40, 40]);
  return <rect transform={at} x={-along / 2} y={-across / 2} width={along} height={across} pointerEvents="all" />;
}

/** Where the chosen part is sized, turned, and moved point by point. */
function Handles(props: {
  course: Course;
  of: PartThing;
  px: number;
  grab: (of: PartThing, grip: Grip) => (event: React.PointerEvent) => void;
}) {
  const { course, of, px, grab } = props;
  const place = placedOf(course, of);
  if (place === undefined) return null;
  const side = HANDLE * px;
  const square = (x: number, y: number, grip: Grip, name: string) => (
    <g key={name} onPointerDown={grab(of, grip)}>
      <title>{name}</title>
      <rect className="handle" x={x - side / 2} y={y - side / 2} width={side} height={side} />
      <circle className="hold" cx={x} cy={y} r={HOLD * px} />
    </g>
  );
  const points = pointsOf(of);
  const turns = of.part !== "lines" && of.part !== "shade";
  const reach = (place.size?.[0] ?? 80) / 2 + OFF * px;
  return (
    <>
      {points.map(([x, y], k) => square(x, y, { point: k }, `point ${k + 1}`))}
      <g transform={`translate(${place.x} ${place.y}) rotate(${place.angle})`}>
        {place.size && square(place.size[0] / 2, place.size[1] / 2, "size", "size")}
        {turns && (
          <g onPointerDown={grab(of, "turn")}>
            <title>turn</title>
            <circle className="handle" cx={reach} r={side / 2} />
            <circle className="hold" cx={reach} r={HOLD * px} />
          </g>
        )}
      </g>
    </>
  );
}
