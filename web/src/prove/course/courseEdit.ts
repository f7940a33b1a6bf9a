import type { PartThing } from "@perceptum/core/edits";
import { nextId, type TargetId, unusedName } from "@perceptum/core/names";
import type { Target } from "@perceptum/core/rules";
import { type Course, type CoursePart, courseKindOf, type Shape, THINGS } from "@perceptum/core/world";
import type { CourseThing } from "../../model/store/prove";
import { nearestOn } from "../rail/railEdit";

/** All things of a part of a course. */
export const thingsOf = (course: Course, part: CoursePart): PartThing[] =>
  course[part].map((thing) => ({ part, thing }) as PartThing);

/** The thing of a course that is meant; undefined where it has gone. */
export function thingIn(course: Course, { part, id }: CourseThing): PartThing | undefined {
  const thing = (course[part] as readonly { id: string }[]).find((one) => one.id === id);
  return thing && ({ part, thing } as PartThing);
}

/** Where a part of a course is and how it is turned; undefined for what has no place, as cards and presses. */
export interface Placed {
  x: number;
  y: number;
  angle: number;
  /** Its extent along and across, where it can be sized by a corner. */
  size?: [number, number];
}

const shapeSize = (shape: Shape): [number, number] | undefined =>
  "rect" in shape ? shape.rect : "disc" in shape ? [shape.disc, shape.disc] : undefined;

export function placedOf(course: Course, of: PartThing): Placed | undefined {
  switch (of.part) {
    case "patches":
    case "zones": {
      const { at, angle, shape } = of.thing;
      const size = shapeSize(shape);
      return { x: at[0], y: at[1], angle, ...(size && { size }) };
    }
    case "signs": {
      const { at, angle, width } = of.thing;
      return { x: at[0], y: at[1], angle, size: [24, width] };
    }
    case "starts": {
      const { x, y, heading } = courseKindOf(course).begins(course, of.thing as Course["starts"][number]);
      return { x, y, angle: heading };
    }
    case "shade": {
      const { from: a, to: b } = of.thing;
      const size: [number, number] = [Math.abs(b[0] - a[0]), Math.abs(b[1] - a[1])];
      return { x: (a[0] + b[0]) / 2, y: (a[1] + b[1]) / 2, angle: 0, size };
    }
    case "lines": {
      const [[x, y]] = of.thing.points;
      return { x, y, angle: 0 };
    }
    default:
      return undefined;
  }
}

/** The points of a line or the corners of a polygon where they are on the floor; none for anything else. */
export function pointsOf(of: PartThing): [number, number][] {
  if (of.part === "lines") return of.thing.points;
  if (of.part !== "patches" && of.part !== "zones") return [];
  const { thing } = of;
  return "polygon" in thing.shape ? thing.shape.polygon.map((p) => onFloor(p, thing)) : [];
}

interface Turned {
  at: [number, number];
  angle: number;
}

function onFloor([x, y]: readonly [number, number], { at, angle }: Turned): [number, number] {
  const a = (angle * Math.PI) / 180;
  return [at[0] + x * Math.cos(a) - y * Math.sin(a), at[1] + x * Math.sin(a) + y * Math.cos(a)];
}

function offFloor([x, y]: readonly [number, number], { at, angle }: Turned): [number, number] {
  const a = (-angle * Math.PI) / 180;
  const [dx, dy] = [x - at[0], y - at[1]];
  return [tidy(dx * Math.cos(a) - dy * Math.sin(a)), tidy(dx * Math.sin(a) + dy * Math.cos(a))];
}

const tidy = (x: number) => Math.round(x * 10) / 10 || 0;

/** A thing of a course moved by so many mm; as it is where it has no place. */
export function movedBy(course: Course, of: PartThing, dx: number, dy: number): PartThing {
  const shift = ([x, y]: [number, number]): [number, number] => [tidy(x + dx), tidy(y + dy)];
  switch (of.part) {
    case "lines":
      return { ...of, thing: { ...of.thing, points: of.thing.points.map(shift) } };
    case "shade":
      return { ...of, thing: { ...of.thing, from: shift(of.thing.from), to: shift(of.thing.to) } };
    case "patches":
      return { ...of, thing: { ...of.thing, at: shift(of.thing.at) } };
    case "zones":
      return { ...of, thing: { ...of.thing, at: shift(of.thing.at) } };
    case "signs":
      return { ...of, thing: { ...of.thing, at: shift(of.thing.at) } };
    case "starts": {
      const { thing } = of;
      if ("x" in thing) return { ...of, thing: { ...thing, x: tidy(thing.x + dx), y: tidy(thing.y + dy) } };
      if (!("rail" in course && "at" in thing)) return of;
      const { x, y } = courseKindOf(course).begins(course, thing);
      return { ...of, thing: { ...thing, at: nearestOn(course.rail, [x + dx, y + dy]) } };
    }
    default:
      return of;
  }
}

/** A thing turned to an angle in degrees; as it is where it cannot be turned. */
export function turnedTo(of: PartThing, angle: number): PartThing {
  if (of.part === "patches") return { ...of, thing: { ...of.thing, angle } };
  if (of.part === "zones") return { ...of, thing: { ...of.thing, angle } };
  if (of.part === "signs") return { ...of, thing: { ...of.thing, angle } };
  if (of.part === "starts" && "x" in of.thing) return { ...of, thing: { ...of.thing, heading: angle } };
  return of;
}

/** The least extent that a thing can be given, in mm. */
const LEAST = 5;

/** A thing made so large around its middle; as it is where it has no size. */
export function sizedTo(of: PartThing, along: number, across: number): PartThing {
  const [a, b] = [Math.max(LEAST, tidy(along)), Math.max(LEAST, tidy(across))];
  const sized = (shape: Shape): Shape =>
    "rect" in shape ? { rect: [a, b] } : "disc" in shape ? { disc: Math.max(a, b) } : shape;
  if (of.part === "patches") return { ...of, thing: { ...of.thing, shape: sized(of.thing.shape) } };
  if (of.part === "zones") return { ...of, thing: { ...of.thing, shape: sized(of.thing.shape) } };
  if (of.part === "signs") return { ...of, thing: { ...of.thing, width: Math.min(2000, b) } };
  if (of.part !== "shade") return of;
  const { from, to } = of.thing;
  const [x, y] = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
  return { ...of, thing: { ...of.thing, from: [x - a / 2, y - b / 2], to: [x + a / 2, y + b / 2] } };
}

/** A line or polygon with one point where it shall be. */
export const pointMoved = (of: PartThing, k: number, to: [number, number]): PartThing =>
  withPoints(of, (points) => points.map((p, i) => (i === k ? to : p)));

/** A line or polygon with another point half-way after point `k`. */
export const pointAdded = (of: PartThing, k: number): PartThing =>
  withPoints(of, (points) => {
    const [a, b] = [points[k], points[(k + 1) % points.length]];
    return points.toSpliced(k + 1, 0, [tidy((a[0] + b[0]) / 2), tidy((a[1] + b[1]) / 2)]);
  });

/** A line or polygon without one point, if enough are left. */
export const pointRemoved = (of: PartThing, k: number): PartThing =>
  withPoints(of, (points) => (points.length > (of.part === "lines" ? 2 : 3) ? points.toSpliced(k, 1) : points));

function withPoints(of: PartThing, change: (points: [number, number][]) => [number, number][]): PartThing {
  const points = change(pointsOf(of));
  if (of.part === "lines") return { ...of, thing: { ...of.thing, points } };
  if (of.part !== "patches" && of.part !== "zones") return of;
  const shape: Shape = { polygon: points.map((p) => offFloor(p, of.thing)) };
  return of.part === "patches" ? { ...of, thing: { ...of.thing, shape } } : { ...of, thing: { ...of.thing, shape } };
}

/** A copy of a thing a little beside it, of an id and a name of its own. */
export function duplicated(course: Course, of: PartThing): PartThing {
  const part = of.part as CoursePart;
  const things = course[part] as readonly { id: string; name?: string }[];
  const name = "name" in of.thing && { name: unusedName(of.thing.name, things) };
  const copy = { part, thing: { ...of.thing, ...name, id: nextId(THINGS[part], things) } } as PartThing;
  return movedBy(course, copy, 40, -40);
}

/** What can be added to a course, and to which of its parts. */
export const ADDABLE = {
  rect: { text: "patch, rectangle", part: "patches" },
  disc: { text: "patch, disc", part: "patches" },
  polygon: { text: "patch, polygon", part: "patches" },
  line: { text: "line", part: "lines" },
  sign: { text: "sign", part: "signs" },
  zone: { text: "zone", part: "zones" },
  shade: { text: "shade", part: "shade" },
  start: { text: "start", part: "starts" },
  card: { text: "card held up", part: "cards" },
  press: { text: "button pressed", part: "presses" },
} as const satisfies Record<string, { text: string; part: CoursePart }>;
export type Addable = keyof typeof ADDABLE;

/** Which targets each part is made of, the likeliest first; what is laid on the ground is never the ground itself. */
const LIKELY: Partial<Record<CoursePart, readonly Target["kind"][]>> = {
  patches: ["tag", "piece", "card", "background"],
  signs: ["tag", "card", "piece", "background"],
  lines: ["background", "tag", "piece", "card"],
  cards: ["card", "piece", "tag", "background"],
};

/** What something new is painted with: the target that was chosen last if it is likely, else the first that is. */
function likelyTarget(part: CoursePart, ground: TargetId, targets: readonly Target[], last: TargetId | null): TargetId {
  const [best, ...others] = LIKELY[part] ?? [];
  const seen = targets.filter((target) => target.id !== ground);
  const chosen = seen.find((target) => target.id === last);
  if (chosen !== undefined && (chosen.kind === best || (best === "tag" && chosen.kind !== "background")))
    return chosen.id;
  const kinds = [best, ...others];
  return kinds.flatMap((kind) => seen.filter((target) => target.kind === kind))[0]?.id ?? ground;
}

/** Something new for a course, in its middle; undefined where the robot has nothing for it. */
export function added(
  course: Course,
  what: Addable,
  targets: readonly Target[],
  last: TargetId | null,
  button: string | undefined,
): PartThing | undefined {
  const at: [number, number] = [Math.round(course.size[0] / 20) * 10, Math.round(course.size[1] / 20) * 10];
  const [x, y] = at;
  const { part } = ADDABLE[what];
  const target = likelyTarget(part, course.ground, targets, last);
  const of = (thing: object) => ({ part, thing: { id: nextId(THINGS[part], course[part]), ...thing } }) as PartThing;
  const patch = (shape: Shape) => of({ shape, target, at, angle: 0 });
  switch (what) {
    case "rect":
      return patch({ rect: [100, 150] });
    case "disc":
      return patch({ disc: 120 });
    case "polygon":
      return patch({
        polygon: [
          [-70, -50],
          [70, -50],
          [0, 80],
        ],
      });
    case "line":
      return of({
        points: [
          [x - 300, y],
          [x, y],
          [x + 300, y],
        ],
        width: 24,
        target,
      });
    case "sign":
      return of({ target, at, angle: -90, width: 100, height: 150 });
    case "zone":
      return of({ name: unusedName("Zone 1", course.zones), shape: { rect: [300, 300] }, at, angle: 0 });
    case "shade":
      return of({ from: [x - 200, y - 200], to: [x + 200, y + 200], level: 0.5 });
    case "start":
      return of({
        name: unusedName("Start 1", course.starts),
        ...("x" in course.starts[0] ? { x, y, heading: 0 } : { at: 0, facing: "forward" as const }),
      });
    case "card":
      return of({ target, atMs: lastEnd(course) + 500, forMs: 1000 });
    case "press":
      return button === undefined ? undefined : of({ button, atMs: 1000, forMs: 300 });
  }
}

const lastEnd = ({ cards }: Course) => Math.max(0, ...cards.map((c) => c.atMs + c.forMs));

/** A number of mm or degrees on the grid that is snapped to. */
export const snapped = (value: number, grid: number) => Math.round(value / grid) * grid;
