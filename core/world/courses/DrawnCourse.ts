import type { CourseId, TargetId, Unlisted } from "../../names";
import type { Rail } from "../rail/railWay";
import type { Card, Line, Patch, Press, Shade, Sign, Start, Steadiness, Zone } from "./shapes";

type Drawn<T extends { target: unknown }> = Omit<T, "id" | "target"> & { target: TargetId };

/** A course as a run takes place on it: every `oneOf` has been drawn, and what is held and pressed live is there. */
export interface DrawnCourse {
  id: CourseId;
  name: string;
  kind: string;
  size: [number, number];
  ground: TargetId;
  /** A plate lies along a rail, a piece on a belt. */
  patches: (Drawn<Patch> & { as?: "plate" | "piece" })[];
  /** The points of a line that is `apart` are pairs: each is a stretch of its own, and all are one thing. */
  lines: (Unlisted<Line> & { apart?: true })[];
  signs: Drawn<Sign>[];
  zones: Unlisted<Zone>[];
  shade: Unlisted<Shade>[];
  cards: Drawn<Card>[];
  presses: Unlisted<Press>[];
  held: Steadiness;
  starts: Unlisted<Start>[];
  /** The rail that runs through it. */
  rail?: Rail;
  /** The course's checks; what each is, the table of checks knows. */
  checks: readonly object[];
}
