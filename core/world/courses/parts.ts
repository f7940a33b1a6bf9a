import * as z from "zod";
import { CourseIdSchema, type ListKind, Name, TargetIdSchema } from "../../names";
import { ListedCheck } from "../checks/schema";
import { Card, Line, Patch, Press, Shade, Sign, Start, Steadiness, Zone } from "./shapes";

/** The parts of a course that can be chosen and edited, in the order in which they are listed. */
export const COURSE_PARTS = ["patches", "lines", "signs", "zones", "shade", "starts", "cards", "presses"] as const;
export type CoursePart = (typeof COURSE_PARTS)[number];

/** The kind of thing that each part of a course lists. */
export const THINGS = {
  patches: "patch",
  lines: "line",
  signs: "sign",
  zones: "zone",
  shade: "shade",
  starts: "start",
  cards: "card",
  presses: "press",
} as const satisfies Record<CoursePart, ListKind>;

const Positive = z.number().positive();

/** What every kind of course has. Later patches lie on top of earlier ones, patches on top of lines. */
export const onAnyCourse = {
  id: CourseIdSchema,
  name: Name,
  size: z.tuple([Positive.max(100_000), Positive.max(100_000)]),
  ground: TargetIdSchema,
  patches: z.array(Patch).max(5000),
  lines: z.array(Line).max(500),
  signs: z.array(Sign).max(500).default([]),
  zones: z.array(Zone).max(100).default([]),
  shade: z.array(Shade).max(50).default([]),
  cards: z.array(Card).max(1000).default([]),
  presses: z.array(Press).max(1000).default([]),
  held: Steadiness.default({ jitterMm: 2, trembleMm: 0.4 }),
  starts: z.array(Start).min(1).max(50),
  checks: z.array(ListedCheck).max(100),
};
