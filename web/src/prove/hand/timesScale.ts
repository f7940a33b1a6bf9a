import { type Course, courseKindOf, type DrawnCourse } from "@perceptum/core/world";

/** Room around the drawing, the height of a bar and of a row of presses, in CSS pixels. */
export const LEFT = 44;
export const RIGHT = 12;
export const FOOT = 20;
export const BAR = 18;
export const ROW = 22;

/** Where a time and a height are drawn, in CSS pixels. */
export interface TimesScale {
  endMs: number;
  perMs: number;
  perMm: number;
}

/** How the times of a course are drawn in so much room. */
export function timesScale(course: Course | DrawnCourse, reach: number, width: number, height: number): TimesScale {
  const endMs = courseKindOf(course).limitMs(course);
  const rows = ROW * new Set(course.presses.map((press) => press.button)).size;
  return {
    endMs,
    perMs: Math.max(0, width - LEFT - RIGHT) / endMs,
    perMm: Math.max(0.01, (height - FOOT - rows - BAR) / reach),
  };
}
