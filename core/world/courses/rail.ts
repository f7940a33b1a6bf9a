import * as z from "zod";
import { type CourseId, Name, numbered, type TargetId, TargetIdSchema, ThingIdSchema } from "../../names";
import { meetsItself, RailWay, railGap } from "../rail/railWay";
import { AXES } from "../sweepGrid";
import { bareCourse } from "./bareCourse";
import type { CourseKind } from "./CourseKind";
import { ROOM_MM, RUN_LIMIT_MS } from "./floor";
import { COURSE_PARTS, onAnyCourse } from "./parts";
import { Painted } from "./shapes";

const Positive = z.number().positive();
const Mm = z.number().min(-100_000).max(100_000);

/** A straight by its length in mm, or a bend by its degrees (left positive) and radius in mm. */
const RailSection = z.union([
  z.strictObject({ straight: Positive.max(100_000) }),
  z.strictObject({
    arc: z
      .number()
      .min(-360)
      .max(360)
      .refine((degrees) => degrees !== 0, "a bend of 0° leads nowhere"),
    radius: Positive.max(100_000),
  }),
]);

export const RailSchema = z
  .strictObject({
    from: z.tuple([Mm, Mm]),
    heading: z.number(),
    closed: z.boolean(),
    way: z.array(RailSection).min(1).max(500),
  })
  .superRefine((rail, context) => {
    if (!rail.closed || meetsItself(rail)) return;
    const { mm, degrees } = railGap(rail);
    context.addIssue({
      code: "custom",
      path: ["way"],
      message: `the rail is closed, but its end lies ${mm.toFixed(1)} mm and ${Math.abs(degrees).toFixed(1)}° from its beginning; it must meet it within 1 mm and 0.1°`,
    });
  });

/** A plate lies along the rail: its middle `at` mm from the beginning, `aside` mm to the left. */
export const Plate = z.strictObject({
  id: ThingIdSchema,
  at: z.number().min(0).max(1_000_000),
  length: Positive.max(10_000),
  width: Positive.max(10_000),
  aside: z.number().min(-1000).max(1000),
  target: Painted,
});
export type Plate = z.infer<typeof Plate>;

/** What lies across under the rail, every so many mm. */
export const Sleepers = z.strictObject({
  everyMm: z.number().min(5).max(10_000),
  lengthMm: Positive.max(2000),
  widthMm: Positive.max(2000),
  target: TargetIdSchema,
});

/** Where a run begins: mm along the rail, with the nose along the way or against it. */
export const RailStart = z.strictObject({
  id: ThingIdSchema,
  name: Name,
  at: z.number().min(0).max(1_000_000),
  facing: z.enum(["forward", "back"]),
});
export type RailStart = z.infer<typeof RailStart>;

export const RailCourse = z
  .strictObject({
    ...onAnyCourse,
    kind: z.literal("rail"),
    rail: RailSchema,
    sleepers: Sleepers.optional(),
    plates: z.array(Plate).max(1000),
    starts: z.array(RailStart).min(1).max(50),
  })
  .superRefine(({ rail, plates, starts }, context) => {
    const { length } = new RailWay(rail);
    const off = (at: number, what: string, ...path: (string | number)[]) => {
      if (at > length)
        context.addIssue({
          code: "custom",
          path: [...path, "at"],
          message: `${what} lies ${at} mm along the rail, which is ${Math.round(length)} mm long`,
        });
    };
    plates.forEach((plate, i) => off(plate.at, "the plate", "plates", i));
    starts.forEach((start, i) => off(start.at, "the start", "starts", i));
  });
export type RailCourse = z.infer<typeof RailCourse>;

/** A loop of two straights and two half circles. */
const LOOP: RailCourse["rail"] = {
  from: [600, 350],
  heading: 0,
  closed: true,
  way: [{ straight: 800 }, { arc: 180, radius: 250 }, { straight: 800 }, { arc: 180, radius: 250 }],
};

/** A rail on a floor, for a carrier. */
export const rail: CourseKind<RailCourse> = {
  key: "rail",
  schema: RailCourse,
  fresh: (id: CourseId, name: string, ground: TargetId) => ({
    ...bareCourse(id, name, ground),
    kind: "rail",
    rail: LOOP,
    plates: [],
    starts: numbered("start", [{ name: "Depot", at: 100, facing: "forward" }]),
  }),
  roomy: (bare) => ({
    ...bare,
    rail: { from: [0, 0], heading: 0, closed: false, way: [{ straight: 2 * ROOM_MM }] },
    starts: numbered("start", [{ name: "here", at: ROOM_MM, facing: "forward" }]),
  }),
  limitMs: () => RUN_LIMIT_MS,
  begins(course, { at, facing }) {
    const way = new RailWay(course.rail);
    const { x, y, heading } = way.at(at);
    return { x, y, heading: facing === "back" ? heading + 180 : heading, rail: { way, at, facing } };
  },
  lays({ rail: laid, plates, sleepers }, draw) {
    const way = new RailWay(laid);
    return {
      patches: plates.map(draw<Plate>("plate")).map(({ at, length, width, aside, target }) => {
        const { x, y, heading, sin, cos } = way.at(at);
        const shape = { rect: [length, width] as [number, number] };
        return { as: "plate", shape, target, at: [x - aside * sin, y + aside * cos], angle: heading };
      }),
      lines: sleepers === undefined ? [] : [sleepersOf(way, sleepers)],
    };
  },
  repainted: (course, visit) => ({
    ...course,
    plates: course.plates.map((plate, i) => ({ ...plate, target: visit(plate.target, "plates", i, "target") })),
    ...(course.sleepers !== undefined && {
      sleepers: { ...course.sleepers, target: visit(course.sleepers.target, "sleepers", "target") },
    }),
  }),
  own: { part: "plates", one: "plate", count: ({ plates }) => plates.length },
  ends: (_, { hitEnd }) => (hitEnd ? "ran into the end" : undefined),
  hasFloor: true,
  parts: COURSE_PARTS,
  axes: AXES,
};

/** All sleepers of a rail as one line of many stretches. */
function sleepersOf(way: RailWay, { everyMm, lengthMm, widthMm, target }: z.infer<typeof Sleepers>) {
  const count = Math.floor(way.length / everyMm) + (way.closed ? 0 : 1);
  const points = Array.from({ length: count }, (_, i) => way.at(i * everyMm)).flatMap(({ x, y, sin, cos }) =>
    [0.5, -0.5].map((side): [number, number] => [x - side * lengthMm * sin, y + side * lengthMm * cos]),
  );
  return { points, width: widthMm, target, apart: true as const };
}
