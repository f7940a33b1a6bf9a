import { nextId, type TargetId } from "@perceptum/core/names";
import type { Target } from "@perceptum/core/rules";
import {
  meetsItself,
  type OnRail,
  type Plate,
  type RailCourse,
  type RailSection,
  RailWay,
  railGap,
} from "@perceptum/core/world";

/** The rail of a course. */
export type CourseRail = RailCourse["rail"];

/** What an open rail has to be before it can be closed: its end has to come near its beginning, and lead there. */
const NEAR = 1e-6;

/** A rail with other sections. A closed one that does not meet itself any more is open from then on. */
export function withWay(rail: CourseRail, way: RailSection[]): CourseRail {
  if (way.length === 0) return rail;
  const { mm, degrees } = railGap({ ...rail, way });
  return { ...rail, way, closed: rail.closed && mm <= 1 && Math.abs(degrees) <= 0.1 };
}

/**
 * A rail closed by a last straight, or as it is where it meets itself already. A sentence where no straight closes it.
 */
export function closed(rail: CourseRail): CourseRail | string {
  const { way, from, heading } = rail;
  const { mm, degrees } = railGap(rail);
  if (mm <= 1 && Math.abs(degrees) <= 0.1) return { ...rail, closed: true };
  const { end } = new RailWay({ ...rail, closed: false });
  const [dx, dy] = [from[0] - end.x, from[1] - end.y];
  const ahead = dx * end.cos + dy * end.sin;
  const aside = Math.abs(dy * end.cos - dx * end.sin);
  if (Math.abs(degrees) <= 0.1 && aside <= 1 && ahead > NEAR)
    return { ...rail, way: [...way, { straight: ahead }], closed: true };
  return `Its end is ${(mm / 10).toFixed(1)} cm from its beginning and leads ${Math.abs(degrees).toFixed(1)}° elsewhere than ${heading}°. Lead it back until a straight closes it.`;
}

/** Where on the rail a point is nearest, to 1 mm along it. */
export function nearestOn(rail: CourseRail, [x, y]: readonly [number, number]): number {
  const way = new RailWay(rail);
  const nearest = (from: number, to: number, step: number): number => {
    let best = from;
    let least = Number.POSITIVE_INFINITY;
    for (let mm = from; mm <= to; mm += step) {
      const at = way.at(mm);
      const off = (at.x - x) ** 2 + (at.y - y) ** 2;
      if (off < least) [best, least] = [mm, off];
    }
    return best;
  };
  const near = nearest(0, way.length, COARSE);
  return nearest(Math.max(0, near - COARSE), Math.min(way.length, near + COARSE), 1);
}

/** A place on a rail is looked for at such a step first, in mm. */
const COARSE = 10;
/** What lies no farther aside of straight on than this is led to by a straight, in degrees. */
const STRAIGHT_ON = 4;
/** The shortest straight and the smallest radius that a pointer makes, in mm. */
const SHORTEST = 10;
const SMALLEST = 50;

const aheadAndLeft = (start: OnRail, [x, y]: readonly [number, number]): [number, number] => {
  const [dx, dy] = [x - start.x, y - start.y];
  return [dx * start.cos + dy * start.sin, dy * start.cos - dx * start.sin];
};
const inSteps = (value: number, step: number) => Math.round(value / step) * step;

/** The straight that ends nearest to a point; lengths to 1 cm, finely to 1 mm. */
function straightTo(start: OnRail, to: readonly [number, number], fine: boolean): RailSection {
  const [ahead] = aheadAndLeft(start, to);
  return { straight: Math.max(SHORTEST, inSteps(ahead, fine ? 1 : 10)) };
}

/**
 * The bend that leads through a point: of all circles that leave the rail straight on one goes through it. Its radius is
 * rounded to 1 cm and its angle to 5°, finely to 1 mm and 1°.
 */
function bendTo(start: OnRail, to: readonly [number, number], fine: boolean): RailSection {
  const [ahead, left] = aheadAndLeft(start, to);
  const step = fine ? 1 : 5;
  const turn = (2 * Math.atan2(Math.abs(left), ahead) * 180) / Math.PI;
  const arc = Math.max(step, Math.min(360 - step, inSteps(turn, step))) * (left < 0 ? -1 : 1);
  const radius = (ahead ** 2 + left ** 2) / (2 * Math.max(1e-9, Math.abs(left)));
  return { arc, radius: Math.min(100_000, Math.max(SMALLEST, inSteps(radius, fine ? 1 : 10))) };
}

/** The section that leads to a point: a straight to what lies about straight on, else a bend. */
export function pieceTo(start: OnRail, to: readonly [number, number], fine: boolean): RailSection {
  const [ahead, left] = aheadAndLeft(start, to);
  const isAhead = ahead > 0 && Math.abs(left) <= ahead * Math.tan((STRAIGHT_ON * Math.PI) / 180);
  return (isAhead ? straightTo : bendTo)(start, to, fine);
}

/** A rail with the end of one section dragged to a point; what follows goes along. */
export function endDragged(rail: CourseRail, index: number, to: readonly [number, number], fine: boolean): CourseRail {
  const { way } = rail;
  const { section, start } = new RailWay(rail).sections[index];
  const made = ("straight" in section ? straightTo : bendTo)(start, to, fine);
  return withWay(rail, [...way.with(index, made)]);
}

/** A rail with one more section, which leads from its end to a point; it is closed where it meets itself. */
export function drawnOn(rail: CourseRail, to: readonly [number, number], fine: boolean): CourseRail {
  const { end } = new RailWay(rail);
  const way = [...rail.way, pieceTo(end, to, fine)];
  return { ...rail, way, closed: meetsItself({ ...rail, way }) };
}

/** A rail with one section longer, or bent farther, by so many steps of 1 cm or 5°. */
export function pieceBy(rail: CourseRail, index: number, steps: number): CourseRail {
  const section = rail.way[index];
  if ("straight" in section) {
    const straight = Math.max(SHORTEST, section.straight + 10 * steps);
    return withWay(rail, rail.way.with(index, { straight }));
  }
  const side = section.arc < 0 ? -1 : 1;
  const turn = Math.max(5, Math.min(355, Math.abs(section.arc) + 5 * steps));
  return withWay(rail, rail.way.with(index, { ...section, arc: side * turn }));
}

/** Another plate behind the last one, of a target that is likely. */
export function newPlate(course: RailCourse, targets: readonly Target[]): Plate {
  const { length } = new RailWay(course.rail);
  const last = Math.max(0, ...course.plates.map((plate) => plate.at));
  const target = targets.find((t) => t.kind !== "background" && t.id !== course.ground)?.id ?? course.ground;
  return {
    id: nextId("plate", course.plates),
    at: Math.min(length, last + 200),
    length: 60,
    width: 60,
    aside: 0,
    target: target as TargetId,
  };
}

/** A plate moved along a rail: around a closed one, to the ends of an open one. */
export function plateAt(rail: CourseRail, plate: Plate, at: number): Plate {
  const { length } = new RailWay(rail);
  const on = rail.closed ? ((at % length) + length) % length : Math.max(0, Math.min(length, at));
  return { ...plate, at: Math.round(on) };
}
