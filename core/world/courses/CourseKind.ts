import type * as z from "zod";
import type { CourseId, TargetId } from "../../names";
import type { Body } from "../body";
import type { Ending } from "../ending";
import type { Beginning } from "../robots";
import type { Axis } from "../sweepGrid";
import type { DrawnCourse } from "./DrawnCourse";
import type { CoursePart } from "./parts";
import type { Painted } from "./shapes";

type Held = { atMs: number; forMs: number };

/** What of a course decides how long a run takes and where it ends. */
export interface CourseExtent {
  size: readonly [number, number];
  cards: readonly Held[];
  presses: readonly Held[];
}

interface Kept {
  kind: string;
  starts: readonly { name: string }[];
}

/** Gives a thing of a course, by what it is and its number, the target that the seed draws for it. */
export type Draw = <T extends { target: Painted }>(what: string) => (thing: T, i: number) => T & { target: TargetId };

/** Gives what shall stand where a course names a target, by its place in the course. */
export type Repaint = <T extends Painted>(target: T, ...path: (string | number)[]) => T;

/** One kind of course, whole: how it is kept, a bare one, how long a run takes on it, and what ends it. */
export interface CourseKind<C extends Kept = Kept> {
  key: C["kind"];
  schema: z.ZodType<C>;
  /** A bare one with one start. */
  fresh(id: CourseId, name: string, ground: TargetId): C;
  /** A bare one with room for whatever a step alone does; missing where a bare one has that. */
  roomy?(bare: C): C;
  /** How long a run may take that does not finish, in ms. */
  limitMs(course: CourseExtent): number;
  /** Where a run begins from one of its starts. */
  begins(course: C, start: C["starts"][number]): Beginning;
  /**
   * What lies on it beside its patches and lines: what is laid along a rail or comes along a belt. `draw` lets the seed
   * decide its paint; the seed is missing where it is not to decide anything.
   */
  lays?(course: C, draw: Draw, seed?: number): Pick<DrawnCourse, "patches" | "lines">;
  /** The same with every target that it names beside ground, patches, lines, signs and cards as `visit` gives it. */
  repainted?(course: C, visit: Repaint): C;
  /** What of it no other kind has: what it is called, and how many there are. */
  own?: { part: string; one: string; count(course: C): number };
  /** What ends a run where the body now is; undefined while it goes on. */
  ends(course: CourseExtent, body: Body): Ending | undefined;
  /** Whether it has a floor of some size: a robot may be too wide to turn on it. */
  hasFloor: boolean;
  /** Its size means something else than that of other kinds. */
  ownSize?: true;
  /** What can lie on it, stand beside it or happen on it. */
  parts: readonly CoursePart[];
  /** What a sweep can vary that matters on it. */
  axes: readonly Axis[];
}
