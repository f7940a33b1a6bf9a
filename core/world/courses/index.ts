import * as z from "zod";
import { type CourseId, Table, type TargetId } from "../../names";
import { type BeltCourse, belt } from "./belt";
import type { CourseKind } from "./CourseKind";
import { type FloorCourse, floor } from "./floor";
import { type HandCourse, hand } from "./hand";
import { type RailCourse, rail } from "./rail";

export { type BeltCourse, countOf, leastGap, lengthOf, Pieces } from "./belt";
export type { CourseKind } from "./CourseKind";
export type { FloorCourse } from "./floor";
export { RUN_LIMIT_MS } from "./floor";
export { COURSE_PARTS, type CoursePart, onAnyCourse, THINGS } from "./parts";
export type { RailCourse } from "./rail";
export { Plate, RailSchema, RailStart, Sleepers } from "./rail";
export type { Painted, Shape, Steadiness } from "./shapes";
export { Card, Line, Patch, Press, paintsOf, Shade, Sign, Start, Zone } from "./shapes";

/** Where a run takes place. */
export type Course = FloorCourse | HandCourse | RailCourse | BeltCourse;
/** A course whose starts are places on a floor. */
export type FloorLike = FloorCourse | HandCourse;

/** Every kind of course. */
export const COURSES = new Table<CourseKind<Course>>([floor, hand, rail, belt] as unknown as CourseKind<Course>[]);
export const Course: z.ZodType<Course> = z.union(COURSES.schemas as unknown as [z.ZodType<Course>, z.ZodType<Course>]);

/** The table entry of a course. */
export const courseKindOf = (course: { kind: string }): CourseKind<Course> => COURSES.get(course.kind);

/** A bare course of a kind with one start; a floor where no kind is named. */
export function emptyCourse(id: CourseId, name: string, ground: TargetId): FloorCourse;
export function emptyCourse(id: CourseId, name: string, ground: TargetId, kind: string): Course;
export function emptyCourse(id: CourseId, name: string, ground: TargetId, kind = "floor"): Course {
  return COURSES.get(kind).fresh(id, name, ground);
}
