import * as z from "zod";
import { Id, Name, SensorIdSchema, type TargetId, TargetIdSchema, ThingIdSchema } from "../../names";

const Positive = z.number().positive();
const Mm = z.number().min(-100_000).max(100_000);

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
export const Painted = z.union([TargetIdSchema, z.strictObject({ oneOf: z.array(TargetIdSchema).min(2).max(20) })]);

const At = z.tuple([Mm, Mm]);
/**
 * A patch of paint on the floor: a rectangle [along, across], a disc by its diameter or a polygon by its corners
 * around `at`, in mm, turned by `angle`°.
 */
export const Patch = z.strictObject({ id: ThingIdSchema, shape: Shape, target: Painted, at: At, angle: z.number() });
/** An upright board beside the way, facing `angle`°, seen by sensors that look to a side or ahead below its height. */
export const Sign = z.strictObject({
  id: ThingIdSchema,
  target: Painted,
  at: At,
  angle: z.number(),
  width: Positive.max(2000),
  height: Positive.max(2000),
});
/** A named part of the floor, for checks. */
export const Zone = z.strictObject({ id: ThingIdSchema, name: Name, shape: Shape, at: At, angle: z.number() });
/** A rectangle from one corner to the other in which the room's light is `level` times as strong. */
export const Shade = z.strictObject({ id: ThingIdSchema, from: At, to: At, level: z.number().min(0).max(10) });
const Moment = z.number().min(0).max(3_600_000);
/** A thing held before a sensor (the first, unless named) for a while; without a height, at the sensor's best. */
export const Card = z.strictObject({
  id: ThingIdSchema,
  target: Painted,
  atMs: Moment,
  forMs: Positive.max(3_600_000),
  sensor: SensorIdSchema.optional(),
  heightMm: z.number().min(0).max(500).optional(),
});
/** A button of the robot held down for a while. */
export const Press = z.strictObject({ id: ThingIdSchema, button: Id, atMs: Moment, forMs: Positive.max(3_600_000) });
/** How steady cards are held: from card to card by `jitterMm`, and from moment to moment by `trembleMm`. */
export const Steadiness = z.strictObject({
  jitterMm: z.number().min(0).max(50),
  trembleMm: z.number().min(0).max(20),
});
export const Line = z.strictObject({
  id: ThingIdSchema,
  points: z
    .array(z.tuple([Mm, Mm]))
    .min(2)
    .max(500),
  width: Positive.max(1000),
  target: TargetIdSchema,
});
export const Start = z.strictObject({ id: ThingIdSchema, name: Name, x: Mm, y: Mm, heading: z.number() });

export type Painted = z.infer<typeof Painted>;

/** What a thing may be painted with: one target, or several of which the seed draws one. */
export const paintsOf = (target: Painted): readonly TargetId[] =>
  typeof target === "string" ? [target] : target.oneOf;

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
