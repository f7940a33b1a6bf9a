import * as z from "zod";
import { CourseId, Id, SensorId, TargetId } from "../project/idSchemas";
import { Check } from "./checks/schema";

const Positive = z.number().positive();
const Triple = z.tuple([z.number().min(0).max(100), z.number().min(0).max(100), z.number().min(0).max(100)]);
const Name = z.string().trim().min(1, "a name is needed").max(80);
const Mm = z.number().min(-100_000).max(100_000);

/** How a simulated sensor turns paint, light and height into readings; see `optics.ts` for the formulas. */
export const Optics = z.strictObject({
  spotMm: Positive.max(200),
  lampRgb: Triple,
  bestMm: Positive.max(500),
  depthMm: Positive.max(500),
  minMm: z.number().min(0).max(500),
  /** Share of the room's light that reaches the spot, per mm of height. */
  leakPerMm: z.number().min(0).max(1),
  gain: Triple,
  glare: Triple,
  read: z.number().min(0).max(1),
  shot: z.number().min(0).max(1),
  integrationMs: Positive.max(1000),
  bits: z.number().int().min(4).max(16),
});

/** A sensor's place: mm from the axle's middle, x ahead, y left, z above the floor. */
export const Mount = z.strictObject({
  sensor: SensorId,
  x: z.number().min(-1000).max(1000),
  y: z.number().min(-1000).max(1000),
  z: z.number().min(0).max(500),
  looks: z.literal("down"),
});

export const Motor = z.strictObject({
  id: Id,
  mountedReversed: z.boolean(),
  invert: z.boolean(),
  regulated: z.boolean(),
  topSpeed: Positive.max(5000),
  lagMs: z.number().min(0).max(2000),
  deadBand: z.number().min(0).max(1),
});

/** A cart: two driven wheels, the left motor first. */
export const Robot = z.strictObject({
  id: Id,
  name: Name,
  kind: z.literal("cart"),
  mounts: z.array(Mount).min(1).max(8),
  motors: z.tuple([Motor, Motor]),
  trackMm: Positive.max(2000),
  wheelMm: Positive.max(1000),
  tractionMmS2: Positive.max(100_000),
  lamps: z.array(Id).max(20),
});

export const Shape = z.union([
  z.strictObject({ rect: z.tuple([Positive.max(100_000), Positive.max(100_000)]) }),
  z.strictObject({ disc: Positive.max(100_000) }),
]);

/** A patch of paint on the floor: a rectangle [along, across] or a disc by its diameter, in mm, turned by `angle`°. */
export const Patch = z.strictObject({ shape: Shape, target: TargetId, at: z.tuple([Mm, Mm]), angle: z.number() });
export const Line = z.strictObject({
  points: z
    .array(z.tuple([Mm, Mm]))
    .min(2)
    .max(500),
  width: Positive.max(1000),
  target: TargetId,
});
export const Start = z.strictObject({ name: Name, x: Mm, y: Mm, heading: z.number() });

/** Where a run takes place. Later patches lie on top of earlier ones, patches on top of lines. */
export const Course = z.strictObject({
  id: CourseId,
  name: Name,
  kind: z.literal("floor"),
  size: z.tuple([Positive.max(100_000), Positive.max(100_000)]),
  ground: TargetId,
  patches: z.array(Patch).max(5000),
  lines: z.array(Line).max(500),
  starts: z.array(Start).min(1).max(50),
  checks: z.array(Check).max(100),
});

export type Optics = z.infer<typeof Optics>;
export type Mount = z.infer<typeof Mount>;
export type Motor = z.infer<typeof Motor>;
export type Robot = z.infer<typeof Robot>;
export type Shape = z.infer<typeof Shape>;
export type Patch = z.infer<typeof Patch>;
export type Line = z.infer<typeof Line>;
export type Start = z.infer<typeof Start>;
export type Course = z.infer<typeof Course>;
