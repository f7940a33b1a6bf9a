import type { CourseId, TargetId } from "../../names";
import type { Card, Line, Patch, Press, Shade, Sign, Start, Steadiness, Zone } from "./shapes";

type Drawn<T extends { target: unknown }> = Omit<T, "target"> & { target: TargetId };

/** A course as a run takes place on it: every `oneOf` has been drawn, and what is held and pressed live is there. */
export interface DrawnCourse {
  id: CourseId;
  name: string;
  kind: string;
  size: [number, number];
  ground: TargetId;
  patches: Drawn<Patch>[];
  lines: Line[];
  signs: Drawn<Sign>[];
  zones: Zone[];
  shade: Shade[];
  cards: Drawn<Card>[];
  presses: Press[];
  held: Steadiness;
  starts: Start[];
  /** The course's checks; what each is, the table of checks knows. */
  checks: readonly object[];
}
