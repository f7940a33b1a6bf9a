import * as z from "zod";
import { Name, RuleSetIdSchema, SensorIdSchema, TargetIdSchema } from "../names";
import { cameraFaults, cameraParts } from "./cameraSchema";
import { Optics } from "./opticsSchema";
import { CHANNELS } from "./report";
import { REPORT_KINDS, type Report } from "./reportKinds";
import { WIRE_ORDER, type WireOrder } from "./wireOrder";

const Span = z
  .tuple([z.number(), z.number()])
  .refine(([min, max]) => max > min, "the scale's end must lie above its start");

/** A raw channel's name in files. */
export const ChannelSchema = z.enum(CHANNELS);

/** One of the kinds of reports, as many as there are. */
const Reports = z
  .string()
  .refine((key) => REPORT_KINDS.find(key) !== undefined, {
    error: () => `is none of ${REPORT_KINDS.keys.join(", ")}`,
    abort: true,
  })
  .meta({ enum: REPORT_KINDS.keys }) as unknown as z.ZodType<Report>;

/** What was read over white and in the dark, a raw value for each channel of the report. */
const WhiteAndDark = z.strictObject({ dark: z.array(z.number()).max(4), white: z.array(z.number()).max(4) });

export { Clean, MOST_CLEAN, MOST_FRAME, Strip } from "./cameraSchema";

/** What gives readings. Its raw channels arrive in `order`; scale and reference are in raw values. */
export const Sensor = z
  .strictObject({
    id: SensorIdSchema,
    name: Name,
    ruleSet: RuleSetIdSchema,
    reports: Reports,
    scale: z.partialRecord(ChannelSchema, Span),
    order: z.enum(Object.keys(WIRE_ORDER) as [WireOrder, ...WireOrder[]]).optional(),
    periodMs: z.number().min(1).max(10_000),
    reference: WhiteAndDark.optional(),
    codes: z
      .record(z.string().regex(/^(0|[1-9]\d{0,2})$/, "a code is a whole number from 0 to 999"), TargetIdSchema)
      .optional(),
    ...cameraParts,
    optics: Optics,
  })
  .superRefine((sensor, context) => {
    const { reports, scale, reference, order, codes } = sensor;
    const kind = REPORT_KINDS.get(reports);
    const say = (message: string, ...path: string[]) => context.addIssue({ code: "custom", message, path });
    if (!kind.coded) {
      for (const channel of kind.channels)
        if (scale[channel] === undefined) say(`the scale of channel ${channel} is missing`, "scale", channel);
    }
    for (const channel of Object.keys(scale))
      if (!(kind.channels as readonly string[]).includes(channel))
        say(`a sensor that reports ${reports} has no channel ${channel}`, "scale", channel);
    if (order !== undefined && !kind.ordered) say("only red, green and blue come in an order", "order");
    if (codes !== undefined && !kind.coded) say("only a sensor that reports codes has codes", "codes");
    for (const { message, path } of cameraFaults(sensor, kind.ofPixels === true)) say(message, ...path);
    if (reference === undefined) return;
    if (!kind.referenced) return say(`a sensor that reports ${reports} has no white and dark`, "reference");
    for (const side of ["dark", "white"] as const)
      if (reference[side].length !== kind.channels.length)
        return say(`${side} needs ${kind.channels.length} values, one a channel`, "reference", side);
    if (!reference.white.every((white, i) => white > reference.dark[i]))
      say("white must lie above dark in every channel", "reference");
  });

export type Sensor = z.infer<typeof Sensor>;
