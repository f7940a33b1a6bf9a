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

export const LOOKS = ["down", "left", "right", "ahead"] as const;

/**
 * A sensor's place: mm from the axle's middle, x ahead, y left, z above the floor. One that looks down may be tilted
 * forward by `tilt` degrees; the others see signs.
 */
export const Mount = z.strictObject({
  sensor: SensorId,
  x: z.number().min(-1000).max(1000),
  y: z.number().min(-1000).max(1000),
  z: z.number().min(0).max(500),
  looks: z.enum(LOOKS),
  tilt: z.number().min(-60).max(60).optional(),
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

/** A servo with its range and where it stands at the start, in degrees. */
export const Servo = z
  .strictObject({
    id: Id,
    from: z.number().min(-360).max(360),
    to: z.number().min(-360).max(360),
    at: z.number().min(-360).max(360),
  })
  .refine((s) => s.from <= s.at && s.at <= s.to, "a servo stands within its range at the start");

const onAnyRobot = {
  id: Id,
  name: Name,
  mounts: z.array(Mount).min(1).max(8),
  lamps: z.array(Id).max(20),
  buttons: z.array(Id).max(20).default([]),
  servos: z.array(Servo).max(20).default([]),
};

/** Two driven wheels, the left motor first. */
export const CartRobot = z.strictObject({
  ...onAnyRobot,
  kind: z.literal("cart"),
  motors: z.tuple([Motor, Motor]),
  trackMm: Positive.max(2000),
  wheelMm: Positive.max(1000),
  tractionMmS2: Positive.max(100_000),
});

/** No motion: cards come under its sensor one after another. */
export const HandRobot = z.strictObject({ ...onAnyRobot, kind: z.literal("hand") });

/** The simulated machine. Another kind is another entry. */
export const Robot = z.discriminatedUnion("kind", [CartRobot, HandRobot]);

export const Shape = z.union([
  z.strictObject({ rect: z.tuple([Positive.max(100_000), Positive.max(100_000)]) }),
  z.strictObject({ disc: Positive.max(100_000) }),
  z.strictObject({
    polygon: z
      .array(z.tuple([Mm, Mm]))
      .min(3)
      .max(200),
  }),
]);

/** A target, or one drawn from several by the seed: the student's program must cope with any. */
export const Painted = z.union([TargetId, z.strictObject({ oneOf: z.array(TargetId).min(2).max(20) })]);

const At = z.tuple([Mm, Mm]);
/**
 * A patch of paint on the floor: a rectangle [along, across], a disc by its diameter or a polygon by its corners
 * around `at`, in mm, turned by `angle`°.
 */
export const Patch = z.strictObject({ shape: Shape, target: Painted, at: At, angle: z.number() });
/** An upright board beside the way, facing `angle`°, seen by sensors that look to a side or ahead below its height. */
export const Sign = z.strictObject({
  target: Painted,
  at: At,
  angle: z.number(),
  width: Positive.max(2000),
  height: Positive.max(2000),
});
/** A named part of the floor, for checks. */
export const Zone = z.strictObject({ name: Name, shape: Shape, at: At, angle: z.number() });
/** A rectangle from one corner to the other in which the room's light is `level` times as strong. */
export const Shade = z.strictObject({ from: At, to: At, level: z.number().min(0).max(10) });
const Moment = z.number().min(0).max(3_600_000);
/** A thing held before a sensor (the first, unless named) for a while; without a height, at the sensor's best. */
export const Card = z.strictObject({
  target: Painted,
  atMs: Moment,
  forMs: Positive.max(3_600_000),
  sensor: SensorId.optional(),
  heightMm: z.number().min(0).max(500).optional(),
});
/** A button of the robot held down for a while. */
export const Press = z.strictObject({ button: Id, atMs: Moment, forMs: Positive.max(3_600_000) });
/** How steady cards are held: from card to card by `jitterMm`, and from moment to moment by `trembleMm`. */
export const Steadiness = z.strictObject({
  jitterMm: z.number().min(0).max(50),
  trembleMm: z.number().min(0).max(20),
});
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
  kind: z.enum(["floor", "hand"]),
  size: z.tuple([Positive.max(100_000), Positive.max(100_000)]),
  ground: TargetId,
  patches: z.array(Patch).max(5000),
  lines: z.array(Line).max(500),
  signs: z.array(Sign).max(500).default([]),
  zones: z.array(Zone).max(100).default([]),
  shade: z.array(Shade).max(50).default([]),
  cards: z.array(Card).max(1000).default([]),
  presses: z.array(Press).max(1000).default([]),
  held: Steadiness.default({ jitterMm: 2, trembleMm: 0.4 }),
  starts: z.array(Start).min(1).max(50),
  checks: z.array(Check).max(100),
});

export type Optics = z.infer<typeof Optics>;
export type Mount = z.infer<typeof Mount>;
export type Motor = z.infer<typeof Motor>;
export type Servo = z.infer<typeof Servo>;
export type CartRobot = z.infer<typeof CartRobot>;
export type Robot = z.infer<typeof Robot>;
export type Painted = z.infer<typeof Painted>;
export type Sign = z.infer<typeof Sign>;
export type Zone = z.infer<typeof Zone>;
export type Shade = z.infer<typeof Shade>;
export type Card = z.infer<typeof Card>;
export type Press = z.infer<typeof Press>;
export type Steadiness = z.infer<typeof Steadiness>;
export type Shape = z.infer<typeof Shape>;
export type Patch = z.infer<typeof Patch>;
export type Line = z.infer<typeof Line>;
export type Start = z.infer<typeof Start>;
export type Course = z.infer<typeof Course>;
