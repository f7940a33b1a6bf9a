import type { TargetId } from "../names";
import { chance } from "./chance";
import type { Card, Course, Painted, Press } from "./courses";
import type { DrawnCourse } from "./courses/DrawnCourse";

/** What a person held and pressed while a run played. */
export interface Live {
  cards: readonly Card[];
  presses: readonly Press[];
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
  return {
    ...course,
    patches: course.patches.map(draw("patch")),
    signs: course.signs.map(draw("sign")),
    cards: [...course.cards, ...live.cards].map(draw("card")),
    presses: [...course.presses, ...live.presses],
  };
}

export type { DrawnCourse } from "./courses/DrawnCourse";
