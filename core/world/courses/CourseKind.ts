import type * as z from "zod";
import type { CourseId, TargetId } from "../../names";
import type { Body } from "../body";
import type { Ending } from "../ending";

type Held = { atMs: number; forMs: number };

/** What of a course decides how long a run takes and where it ends. */
export interface Laid {
  size: readonly [number, number];
  cards: readonly Held[];
  presses: readonly Held[];
}

/** One kind of course, whole: how it is kept, a bare one, how long a run takes on it, and what ends it. */
export interface CourseKind<C extends { kind: string } = { kind: string }> {
  key: C["kind"];
  schema: z.ZodType<C>;
  /** A bare one with one start. */
  fresh(id: CourseId, name: string, ground: TargetId): C;
  /** How long a run may take that does not finish, in ms. */
  limitMs(course: Laid): number;
  /** What ends a run where the body now is; undefined while it goes on. */
  ends(course: Laid, body: Body): Ending | undefined;
  /** Whether a robot may be too wide to turn on it. */
  hasRoom: boolean;
}
