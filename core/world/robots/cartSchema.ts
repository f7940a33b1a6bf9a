import * as z from "zod";
import { Motor, onAnyRobot } from "./parts";

const Positive = z.number().positive();

/** Two driven wheels, the left motor first. */
export const CartRobot = z.strictObject({
  ...onAnyRobot,
  kind: z.literal("cart"),
  motors: z.tuple([Motor, Motor]),
  trackMm: Positive.max(2000),
  wheelMm: Positive.max(1000),
  tractionMmS2: Positive.max(100_000),
});
export type CartRobot = z.infer<typeof CartRobot>;
