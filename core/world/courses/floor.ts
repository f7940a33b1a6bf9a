import * as z from "zod";
import { numbered } from "../../names";
import { AXES } from "../sweepGrid";
import { bareCourse } from "./bareCourse";
import type { CourseKind } from "./CourseKind";
import { COURSE_PARTS, onAnyCourse } from "./parts";

/** A run that never finishes is ended after this long, and kept. */
export const RUN_LIMIT_MS = 120_000;
/** Farther than this no step alone goes, in mm. */
export const ROOM_MM = 20_000;

export const FloorCourse = z.strictObject({ ...onAnyCourse, kind: z.literal("floor") });
export type FloorCourse = z.infer<typeof FloorCourse>;

/** A floor with patches, lines and signs, which a robot can leave. */
export const floor: CourseKind<FloorCourse> = {
  key: "floor",
  schema: FloorCourse,
  fresh: (id, name, ground) => ({ ...bareCourse(id, name, ground), kind: "floor" }),
  roomy: (bare) => ({
    ...bare,
    size: [2 * ROOM_MM, 2 * ROOM_MM],
    starts: numbered("start", [{ name: "here", x: ROOM_MM, y: ROOM_MM, heading: 0 }]),
  }),
  limitMs: () => RUN_LIMIT_MS,
  begins: (_, { x, y, heading }) => ({ x, y, heading }),
  ends: ({ size }, { x, y }) => (x < 0 || y < 0 || x > size[0] || y > size[1] ? "left the course" : undefined),
  hasFloor: true,
  parts: COURSE_PARTS,
  axes: AXES,
};
