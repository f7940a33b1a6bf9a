import * as z from "zod";
import { sinCos } from "../../arithmetic";
import { Id, Name, SensorIdSchema } from "../../names";

const Positive = z.number().positive();

export const LOOKS = ["down", "left", "right", "ahead"] as const;

/**
 * A sensor's place: mm from the axle's middle, x ahead, y left, z above the floor. One that looks down may be tilted
 * forward by `tilt` degrees; the others see signs.
 */
export const Mount = z.strictObject({
  sensor: SensorIdSchema,
  x: z.number().min(-1000).max(1000),
  y: z.number().min(-1000).max(1000),
  z: z.number().min(0).max(500),
  looks: z.enum(LOOKS),
  tilt: z.number().min(-60).max(60).optional(),
});

/** How far ahead of a mount its sensor looks, in mm: one that is tilted sees the floor there. */
export function looksAhead({ looks, z, tilt = 0 }: Pick<Mount, "looks" | "z" | "tilt">): number {
  const { sin, cos } = sinCos(looks === "down" ? tilt : 0);
  return (z * sin) / cos;
}

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

/** What every kind of robot has. */
export const onAnyRobot = {
  id: Id,
  name: Name,
  mounts: z.array(Mount).min(1).max(8),
  lamps: z.array(Id).max(20),
  buttons: z.array(Id).max(20).default([]),
  servos: z.array(Servo).max(20).default([]),
};

export type Mount = z.infer<typeof Mount>;
export type Motor = z.infer<typeof Motor>;
export type Servo = z.infer<typeof Servo>;

/** What the kinds share, as it is kept when one becomes another. */
export interface AnyRobot {
  id: string;
  name: string;
  mounts: Mount[];
  lamps: string[];
  buttons: string[];
  servos: Servo[];
}

/** A motor as it is unless one says otherwise. */
export const newMotor = (id: string): Motor => ({
  id,
  mountedReversed: false,
  invert: false,
  regulated: true,
  topSpeed: 400,
  lagMs: 60,
  deadBand: 0.06,
});
