import type * as z from "zod";
import type { CourseId, TargetId } from "../../names";
import type { Body } from "../body";
import type { DrawnCourse } from "../drawn";
import type { Ending } from "../trace";

/** One kind of course, whole: how it is kept, a bare one, how long a run takes on it, and what ends it. */
export interface CourseKind<C extends { kind: string } = { kind: string }> {
  key: C["kind"];
  schema: z.ZodType<C>;
  /** A bare one with one start. */
  fresh(id: CourseId, name: string, ground: TargetId): C;
  /** How long a run may take that does not finish, in ms. */
  limitMs(course: DrawnCourse): number;
  /** What ends a run where the body now is; undefined while it goes on. */
  ends(course: DrawnCourse, body: Body): Ending | undefined;
  /** Whether a robot may be too wide to turn on it. */
  hasRoom: boolean;
}
