import { type CourseId, numbered, type TargetId } from "../../names";

/** What a bare course of any kind holds, in the order of a file; its kind comes beside it. */
export const bareCourse = (id: CourseId, name: string, ground: TargetId) => ({
  id,
  name,
  kind: "",
  size: [2000, 1200] as [number, number],
  ground,
  patches: [],
  lines: [],
  signs: [],
  zones: [],
  shade: [],
  cards: [],
  presses: [],
  held: { jitterMm: 2, trembleMm: 0.4 },
  starts: numbered("start", [{ name: "Gate", x: 150, y: 600, heading: 0 }]),
  checks: [],
});
