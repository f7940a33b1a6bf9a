import * as z from "zod";
import { Motor, onAnyRobot } from "./parts";

const Positive = z.number().positive();

/** One motor, two bogies on a rail. */
export const CarrierRobot = z.strictObject({
  ...onAnyRobot,
  kind: z.literal("carrier"),
  motor: Motor,
  wheelMm: Positive.max(1000),
  /** Between the pivots of the two bogies. */
  bogieMm: Positive.max(2000),
  tractionMmS2: Positive.max(100_000),
  /** How fast it slows down with the power off. */
  coastMmS2: Positive.max(100_000),
});
export type CarrierRobot = z.infer<typeof CarrierRobot>;
