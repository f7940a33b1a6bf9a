import * as z from "zod";
import { type CourseId, Table, type TargetId } from "../../names";
import type { CourseKind } from "./CourseKind";
import { type FloorCourse, floor } from "./floor";
import { type HandCourse, hand } from "./hand";

export type { CourseKind } from "./CourseKind";
export { RUN_LIMIT_MS } from "./floor";
export type { Card, Line, Painted, Patch, Press, Shade, Shape, Sign, Start, Steadiness, Zone } from "./shapes";
export { paintsOf } from "./shapes";

/** Where a run takes place. */
export type Course = FloorCourse | HandCourse;

/** Every kind of course. */
export const COURSES = new Table<CourseKind<Course>>([floor, hand] as unknown as CourseKind<Course>[]);
export const Course: z.ZodType<Course> = z.union(COURSES.schemas as unknown as [z.ZodType<Course>, z.ZodType<Course>]);

/** The table entry of a course. */
export const courseKindOf = (course: { kind: string }): CourseKind<Course> => COURSES.get(course.kind);

/** A bare course of a kind with one start. */
export const emptyCourse = (id: CourseId, name: string, ground: TargetId, kind = "floor"): Course =>
  COURSES.get(kind).fresh(id, name, ground);
