import * as z from "zod";
import {
  BoxIdSchema,
  LightIdSchema,
  MAX_READINGS,
  MarkIdSchema,
  Name,
  SensorIdSchema,
  TapeIdSchema,
  TargetIdSchema,
} from "../names";
import { ChannelSchema } from "./sensorSchema";

export const Mark = z
  .strictObject({
    id: MarkIdSchema,
    from: z.number(),
    to: z.number(),
    target: TargetIdSchema,
    light: LightIdSchema.optional(),
    height: z.number().min(0).max(1000).optional(),
  })
  .refine((m) => m.to >= m.from, "a mark must not end before it starts");

/** A frame's name: the SHA-256 of its PNG, in hexadecimal. */
export const FrameName = z.string().regex(/^[0-9a-f]{64}$/, "a frame is named by 64 hexadecimal digits");
/** The most frames that one tape may hold. */
export const MAX_FRAMES = 3000;

const Px = z.number().int().min(0);
/** A rectangle of a frame that shows nothing but one target, in px of the frame as it stands upright. */
export const Box = z.strictObject({
  id: BoxIdSchema,
  /** The time of its frame. */
  t: z.number(),
  target: TargetIdSchema,
  left: Px,
  top: Px,
  width: Px.min(1),
  height: Px.min(1),
  light: LightIdSchema.optional(),
});

const tapeHead = {
  id: TapeIdSchema,
  name: Name,
  sensor: SensorIdSchema,
  origin: z.enum(["live", "import", "run", "bench"]),
  marks: z.array(Mark).max(5000),
  /** Of a camera's tape: its frames, in the order of the times, and what was boxed on them. */
  frames: z.array(FrameName).max(MAX_FRAMES).optional(),
  boxes: z.array(Box).max(5000).optional(),
};

/** A tape without its readings, which are kept apart because they are large. */
export const TapeHead = z.strictObject(tapeHead);

/** A column of readings. It is looked through and kept as it is: a copy of millions of numbers would cost memory and time. */
const Numbers = z
  .unknown()
  .superRefine((value, context) => {
    // A check of several columns together is left out then: it could not go through one that is no list.
    const say = (message: string, ...path: number[]) =>
      context.addIssue({ code: "custom", message, path, continue: false });
    if (!Array.isArray(value)) return say("must be a list");
    if (value.length > MAX_READINGS) return say(`must have at most ${MAX_READINGS} entries`);
    const strange = value.findIndex((x) => typeof x !== "number" || !Number.isFinite(x));
    if (strange >= 0) say("must be a number", strange);
  })
  .meta({ type: "array", items: { type: "number" }, maxItems: MAX_READINGS }) as unknown as z.ZodType<number[]>;
export const Readings = z
  .strictObject({ t: Numbers, channels: z.partialRecord(ChannelSchema, Numbers) })
  .refine(
    ({ t, channels }) => Object.values(channels).every((c) => c.length === t.length),
    "every channel needs one value for each time",
  )
  .refine(({ t }) => t.every((x, i) => i === 0 || x >= t[i - 1]), "times must not go backwards");

export const Tape = z.strictObject({ ...tapeHead, readings: Readings });

export type Mark = z.infer<typeof Mark>;
export type Box = z.infer<typeof Box>;
export type TapeHead = z.infer<typeof TapeHead>;
export type Readings = z.infer<typeof Readings>;
export type Tape = z.infer<typeof Tape>;
