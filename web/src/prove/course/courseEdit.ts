import { nextId, type TargetId, type Unlisted, unusedName } from "@perceptum/core/names";
import type { Target } from "@perceptum/core/rules";
import { type Course, type CoursePart, courseKindOf, type Shape, THINGS } from "@perceptum/core/world";
import type { CourseThing } from "../../state/prove";
import { nearestOn } from "../rail/railEdit";

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

export function placedOf(course: Course, { part, index }: CourseThing): Placed | undefined {
  if (part === "patches" || part === "zones") {
    const thing = course[part][index];
    if (thing === undefined) return undefined;
    const size = shapeSize(thing.shape);
    return { x: thing.at[0], y: thing.at[1], angle: thing.angle, ...(size && { size }) };
  }
  if (part === "signs") {
    const sign = course.signs[index];
    return sign && { x: sign.at[0], y: sign.at[1], angle: sign.angle, size: [24, sign.width] };
  }
  if (part === "starts") {
    const start = course.starts[index];
    if (start === undefined) return undefined;
    const { x, y, heading } = courseKindOf(course).begins(course, start);
    return { x, y, angle: heading };
  }
  if (part === "shade") {
    const shade = course.shade[index];
    if (shade === undefined) return undefined;
    const [a, b] = [shade.from, shade.to];
    return {
      x: (a[0] + b[0]) / 2,
      y: (a[1] + b[1]) / 2,
      angle: 0,
      size: [Math.abs(b[0] - a[0]), Math.abs(b[1] - a[1])],
    };
  }
  if (part === "lines") {
    const points = course.lines[index]?.points;
    return points && { x: points[0][0], y: points[0][1], angle: 0 };
  }
  return undefined;
}

/** The points of a line or the corners of a polygon where they are on the floor; none for anything else. */
export function pointsOf(course: Course, { part, index }: CourseThing): [number, number][] {
  if (part === "lines") return course.lines[index]?.points ?? [];
  if (part !== "patches" && part !== "zones") return [];
  const thing = course[part][index];
  if (thing === undefined || !("polygon" in thing.shape)) return [];
  return thing.shape.polygon.map((p) => onFloor(p, thing));
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

/** Changes one part in place. */
function changed<P extends CoursePart>(
  course: Course,
  part: P,
  index: number,
  change: (thing: Course[P][number]) => Course[P][number],
): Course {
  const things = course[part] as Course[P][number][];
  return { ...course, [part]: things.map((thing, i) => (i === index ? change(thing) : thing)) };
}

/** The course with a part moved by so many mm. */
export function movedBy(course: Course, { part, index }: CourseThing, dx: number, dy: number): Course {
  const shift = ([x, y]: [number, number]): [number, number] => [tidy(x + dx), tidy(y + dy)];
  if (part === "lines") return changed(course, part, index, (l) => ({ ...l, points: l.points.map(shift) }));
  if (part === "starts")
    return changed(course, part, index, (s) => {
      if ("x" in s) return { ...s, x: tidy(s.x + dx), y: tidy(s.y + dy) };
      if (!("rail" in course && "at" in s)) return s;
      const { x, y } = courseKindOf(course).begins(course, s);
      return { ...s, at: nearestOn(course.rail, [x + dx, y + dy]) };
    });
  if (part === "shade") return changed(course, part, index, (s) => ({ ...s, from: shift(s.from), to: shift(s.to) }));
  if (part === "patches") return changed(course, part, index, (p) => ({ ...p, at: shift(p.at) }));
  if (part === "zones") return changed(course, part, index, (z) => ({ ...z, at: shift(z.at) }));
  if (part === "signs") return changed(course, part, index, (s) => ({ ...s, at: shift(s.at) }));
  return course;
}

/** The course with a part turned to an angle in degrees. */
export function turnedTo(course: Course, { part, index }: CourseThing, angle: number): Course {
  if (part === "patches") return changed(course, part, index, (p) => ({ ...p, angle }));
  if (part === "zones") return changed(course, part, index, (z) => ({ ...z, angle }));
  if (part === "signs") return changed(course, part, index, (s) => ({ ...s, angle }));
  if (part === "starts") return changed(course, part, index, (s) => ("x" in s ? { ...s, heading: angle } : s));
  return course;
}

/** The least extent that a part can be given, in mm. */
const LEAST = 5;

/** The course with a part made so large around its middle. */
export function sizedTo(course: Course, { part, index }: CourseThing, along: number, across: number): Course {
  const [a, b] = [Math.max(LEAST, tidy(along)), Math.max(LEAST, tidy(across))];
  const sized = (shape: Shape): Shape =>
    "rect" in shape ? { rect: [a, b] } : "disc" in shape ? { disc: Math.max(a, b) } : shape;
  if (part === "patches") return changed(course, part, index, (p) => ({ ...p, shape: sized(p.shape) }));
  if (part === "zones") return changed(course, part, index, (z) => ({ ...z, shape: sized(z.shape) }));
  if (part === "signs") return changed(course, part, index, (s) => ({ ...s, width: Math.min(2000, b) }));
  if (part === "shade")
    return changed(course, part, index, (s) => {
      const [x, y] = [(s.from[0] + s.to[0]) / 2, (s.from[1] + s.to[1]) / 2];
      return { ...s, from: [x - a / 2, y - b / 2], to: [x + a / 2, y + b / 2] };
    });
  return course;
}

/** The course with one point of a line or one corner of a polygon where it shall be. */
export function pointMoved(course: Course, thing: CourseThing, k: number, to: [number, number]): Course {
  return withPoints(course, thing, (points) => points.map((p, i) => (i === k ? to : p)));
}

/** The course with another point half-way after point `k`. */
export function pointAdded(course: Course, thing: CourseThing, k: number): Course {
  return withPoints(course, thing, (points) => {
    const [a, b] = [points[k], points[(k + 1) % points.length]];
    return points.toSpliced(k + 1, 0, [tidy((a[0] + b[0]) / 2), tidy((a[1] + b[1]) / 2)]);
  });
}

/** The course without one point, if enough are left. */
export function pointRemoved(course: Course, thing: CourseThing, k: number): Course {
  const least = thing.part === "lines" ? 2 : 3;
  return withPoints(course, thing, (points) => (points.length > least ? points.toSpliced(k, 1) : points));
}

function withPoints(
  course: Course,
  thing: CourseThing,
  change: (points: [number, number][]) => [number, number][],
): Course {
  const { part, index } = thing;
  const points = change(pointsOf(course, thing));
  if (part === "lines") return changed(course, part, index, (l) => ({ ...l, points }));
  if (part !== "patches" && part !== "zones") return course;
  const { at, angle } = course[part][index];
  const shape: Shape = { polygon: points.map((p) => offFloor(p, { at, angle })) };
  return part === "patches"
    ? changed(course, part, index, (p) => ({ ...p, shape }))
    : changed(course, part, index, (z) => ({ ...z, shape }));
}

/** The course without a part; the last start stays. */
export function removed(course: Course, { part, index }: CourseThing): Course {
  if (part === "starts" && course.starts.length === 1) return course;
  const things = course[part] as unknown[];
  return { ...course, [part]: things.filter((_, i) => i !== index) };
}

/** The course with a copy of a part a little beside it, and which part that is. */
export function duplicated(course: Course, { part, index }: CourseThing): { course: Course; thing: CourseThing } {
  const things = course[part] as { name?: string }[];
  const one = things[index];
  const copy = one.name === undefined ? one : { ...one, name: unusedName(one.name, things) };
  const thing = { part, index: things.length };
  const made = { ...course, [part]: [...things, copy] };
  return { course: movedBy(made, thing, 40, -40), thing };
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

/** The course with something new in its middle, and which part that is. */
export function added(
  course: Course,
  what: Addable,
  targets: readonly Target[],
  last: TargetId | null,
  button: string | undefined,
): { course: Course; thing: CourseThing } | undefined {
  const at: [number, number] = [Math.round(course.size[0] / 20) * 10, Math.round(course.size[1] / 20) * 10];
  const [x, y] = at;
  const target = likelyTarget(ADDABLE[what].part, course.ground, targets, last);
  const put = <P extends CoursePart>(part: P, thing: Unlisted<Course[P][number]>) => ({
    course: { ...course, [part]: [...course[part], { id: nextId(THINGS[part], course[part]), ...thing }] },
    thing: { part, index: course[part].length },
  });
  const patch = (shape: Shape) => put("patches", { shape, target, at, angle: 0 });
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
      return put("lines", {
        points: [
          [x - 300, y],
          [x, y],
          [x + 300, y],
        ],
        width: 24,
        target,
      });
    case "sign":
      return put("signs", { target, at, angle: -90, width: 100, height: 150 });
    case "zone":
      return put("zones", { name: unusedName("Zone 1", course.zones), shape: { rect: [300, 300] }, at, angle: 0 });
    case "shade":
      return put("shade", { from: [x - 200, y - 200], to: [x + 200, y + 200], level: 0.5 });
    case "start":
      return put("starts", {
        name: unusedName("Start 1", course.starts),
        ...("x" in course.starts[0] ? { x, y, heading: 0 } : { at: 0, facing: "forward" as const }),
      });
    case "card":
      return put("cards", { target, atMs: lastEnd(course) + 500, forMs: 1000 });
    case "press":
      return button === undefined ? undefined : put("presses", { button, atMs: 1000, forMs: 300 });
  }
}

const lastEnd = ({ cards }: Course) => Math.max(0, ...cards.map((c) => c.atMs + c.forMs));

/** A number of mm or degrees on the grid that is snapped to. */
export const snapped = (value: number, grid: number) => Math.round(value / grid) * grid;
