import type { TargetId, Unlisted } from "../names";
import { chance } from "./chance";
import { type Card, type Course, courseKindOf, type Painted, type Press } from "./courses";
import type { DrawnCourse } from "./courses/DrawnCourse";
import type { Rail } from "./rail/railWay";
import type { Beginning } from "./robots";

/** What a person held and pressed while a run played. */
export interface Live {
  cards: readonly Unlisted<Card>[];
  presses: readonly Unlisted<Press>[];
}

/** Draws the tiles that the seed decides. What is drawn for one thing does not depend on how many others there are. */
export function drawn(course: Course, seed: number, live: Live = { cards: [], presses: [] }): DrawnCourse {
  const draw = (what: string) => {
    return <T extends { target: Painted }>(thing: T, i: number): T & { target: TargetId } => {
      const { target } = thing;
      if (typeof target === "string") return thing as T & { target: TargetId };
      const at = Math.floor(chance(seed, `${what} ${i}`).uniform() * target.oneOf.length);
      return { ...thing, target: target.oneOf[at] };
    };
  };
  const kind = courseKindOf(course);
  const laid = kind.lays?.(course, draw, seed);
  const lines = laid === undefined ? course.lines : [...course.lines, ...laid.lines];
  const patches: DrawnCourse["patches"] = course.patches.map(draw("patch"));
  return {
    ...withoutOwn(course),
    starts: course.starts.map((start) => ({ name: start.name, ...placeOf(kind.begins(course, start)) })),
    lines,
    patches: laid === undefined ? patches : [...patches, ...laid.patches],
    signs: course.signs.map(draw("sign")),
    cards: [...course.cards, ...live.cards].map(draw("card")),
    presses: [...course.presses, ...live.presses],
  };
}

/**
 * What lies on a course as one draws it before a run: what is laid along a rail stands among its patches and lines, with
 * all that it may be painted with.
 */
export function laidOut<T extends Course | DrawnCourse>(
  course: T,
): Pick<T, "patches"> & { lines: DrawnCourse["lines"]; rail?: Rail } {
  const own = ownPart(course as Course);
  if (own === undefined || !(own in course)) return course as never;
  const asPainted = () => (thing: unknown) => thing as never;
  const { patches, lines } = courseKindOf(course).lays?.(course as never, asPainted) ?? { patches: [], lines: [] };
  return { ...course, patches: [...course.patches, ...patches], lines: [...course.lines, ...lines] } as never;
}

/** Names the part that only a course's kind has: it is laid out as patches and lines. */
const ownPart = (course: Course): string | undefined => courseKindOf(course).own?.part;

/** A course without that. */
function withoutOwn(course: Course): Course {
  const own = ownPart(course);
  return own === undefined
    ? course
    : (Object.fromEntries(Object.entries(course).filter(([key]) => key !== own)) as Course);
}

const placeOf = ({ x, y, heading }: Beginning) => ({ x, y, heading });

export type { DrawnCourse } from "./courses/DrawnCourse";
