import * as z from "zod";
import { bareCourse } from "./bareCourse";
import type { CourseKind } from "./CourseKind";
import { onAnyCourse } from "./parts";

/** A run by hand goes on this long after the last card. */
const AFTER_CARDS_MS = 5_000;

export const HandCourse = z.strictObject({ ...onAnyCourse, kind: z.literal("hand") });
export type HandCourse = z.infer<typeof HandCourse>;

/** Where a robot that does not move is shown cards. */
export const hand: CourseKind<HandCourse> = {
  key: "hand",
  schema: HandCourse,
  fresh: (id, name, ground) => ({ ...bareCourse(id, name, ground), kind: "hand" }),
  limitMs: ({ cards, presses }) =>
    Math.max(0, ...[...cards, ...presses].map((held) => held.atMs + held.forMs)) + AFTER_CARDS_MS,
  begins: (_, { x, y, heading }) => ({ x, y, heading }),
  ends: () => undefined,
  hasFloor: false,
  parts: ["cards", "presses"],
  axes: ["light", "height", "noise"],
};
