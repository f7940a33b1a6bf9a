import type { TargetId } from "@perceptum/core/names";
import type { Target } from "@perceptum/core/rules";
import { type Plate, type RailCourse, type RailPiece, RailWay, railGap } from "@perceptum/core/world";

/** What an open rail has to be before it can be closed: its end has to come near its beginning, and lead there. */
const NEAR = 1e-6;

const onRail = (course: RailCourse, way: RailPiece[], closed = course.rail.closed): RailCourse => {
  const rail = { ...course.rail, way, closed };
  const { length } = new RailWay(rail);
  // What lay beyond a rail that is shorter now goes to its end.
  const within = <T extends { at: number }>(thing: T): T => (thing.at > length ? { ...thing, at: length } : thing);
  return { ...course, rail, plates: course.plates.map(within), starts: course.starts.map(within) };
};

/** The course with its rail's pieces changed. A closed rail that does not meet itself any more is open from then on. */
export function withWay(course: RailCourse, way: RailPiece[]): RailCourse {
  if (way.length === 0) return course;
  const { mm, degrees } = railGap({ ...course.rail, way });
  return onRail(course, way, course.rail.closed && mm <= 1 && Math.abs(degrees) <= 0.1);
}

/**
 * The course with its rail closed by a last straight, or as it is where the rail meets itself already. A sentence where
 * no straight closes it.
 */
export function closed(course: RailCourse): RailCourse | string {
  const { way, from, heading } = course.rail;
  const { mm, degrees } = railGap(course.rail);
  if (mm <= 1 && Math.abs(degrees) <= 0.1) return onRail(course, [...way], true);
  const { end } = new RailWay({ ...course.rail, closed: false });
  const [dx, dy] = [from[0] - end.x, from[1] - end.y];
  const ahead = dx * end.cos + dy * end.sin;
  const aside = Math.abs(dy * end.cos - dx * end.sin);
  if (Math.abs(degrees) <= 0.1 && aside <= 1 && ahead > NEAR)
    return onRail(course, [...way, { straight: ahead }], true);
  return `Its end is ${(mm / 10).toFixed(1)} cm from its beginning and leads ${Math.abs(degrees).toFixed(1)}° elsewhere than ${heading}°. Lead it back until a straight closes it.`;
}

/** The course with another plate behind the last one, of a target that is likely. */
export function plateAdded(course: RailCourse, targets: readonly Target[]): RailCourse {
  const { length } = new RailWay(course.rail);
  const last = Math.max(0, ...course.plates.map((plate) => plate.at));
  const target = targets.find((t) => t.kind !== "background" && t.id !== course.ground)?.id ?? course.ground;
  const plate: Plate = {
    at: Math.min(length, last + 200),
    length: 60,
    width: 60,
    aside: 0,
    target: target as TargetId,
  };
  return { ...course, plates: [...course.plates, plate] };
}

/** The course with a plate moved along the rail: around a closed one, to the ends of an open one. */
export function plateAt(course: RailCourse, index: number, at: number): RailCourse {
  const { length } = new RailWay(course.rail);
  const on = course.rail.closed ? ((at % length) + length) % length : Math.max(0, Math.min(length, at));
  return {
    ...course,
    plates: course.plates.map((plate, i) => (i === index ? { ...plate, at: Math.round(on) } : plate)),
  };
}
