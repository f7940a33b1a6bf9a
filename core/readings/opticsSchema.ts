import * as z from "zod";

const Positive = z.number().positive();
const Triple = z.tuple([z.number().min(0).max(100), z.number().min(0).max(100), z.number().min(0).max(100)]);

/** How a simulated sensor turns paint, light and height into readings; the formulas stand with the world. */
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

export type Optics = z.infer<typeof Optics>;
