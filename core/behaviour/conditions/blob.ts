import * as z from "zod";
import { SensorIdSchema, type TargetId, TargetIdSchema } from "../../names";
import { BLOB_MEASURES, BLOB_ORDER } from "../../vision";
import { inRange } from "../engine/ask";
import { BLOB_X } from "../engine/Engine";
import { blobOf } from "../engine/eyes";
import { visitedSensor } from "../Visitor";
import type { ConditionKind } from "./ConditionKind";
import type { Condition } from "./condition";
import { prefix, toldBy } from "./prefix";
import { parseRange, printRange, rangeArgs, rangeShape, sayable } from "./range";

type Measured = Extract<Condition, { measure: unknown }>;
type Beside = Extract<Condition, { side: unknown }>;

const written = (condition: Measured) => printRange(condition, String, " px");

/** A measure of a target's largest blob lies in a range. */
export const measure: ConditionKind<Measured> = {
  key: "measure",
  schema: z
    .strictObject({
      blob: TargetIdSchema,
      measure: z.enum(BLOB_MEASURES),
      ...rangeShape,
      sensor: SensorIdSchema.optional(),
    })
    .superRefine(sayable(() => false)) as z.ZodType<Measured>,
  parseAfterTarget(reader, target, of) {
    if (reader.hasCameras) reader.offer(BLOB_MEASURES);
    const measure = BLOB_MEASURES.find((m) => m === reader.peekWord());
    if (measure === undefined) return undefined;
    reader.take(measure);
    return { blob: target, measure, ...parseRange(reader, (shown) => shown, "px"), ...of };
  },
  print: (c) => `${prefix(c.sensor)}${c.blob} ${c.measure} ${written(c)}`,
  tell: (c, name) => `${name(c.blob)} ${c.measure} ${written(c)}${toldBy(c.sensor, name)}`,
  asks: {
    measure: {
      takes: ["eye", "label", "cell", "from", "to", "how"],
      ask: (e, eye, label, cell, from, to, how) => inRange(blobOf(e, eye, label, cell), from, to, how),
    },
  },
  rows: (c, to) => [
    {
      act: "measure",
      args: [to.camera(c.sensor), to.label(c.blob), BLOB_ORDER.indexOf(c.measure), ...rangeArgs(c)],
    },
  ],
  looksFor: ({ blob, sensor }) => ({ targets: [blob], sensor }),
  named: ({ blob, sensor, ...rest }, visit) => ({
    blob: visit("target", blob, "blob"),
    ...rest,
    ...visitedSensor(sensor, visit),
  }),
};

/** One target's blob lies left or right of another's, by their middles. */
export const side: ConditionKind<Beside> = {
  key: "side",
  schema: z.strictObject({
    blob: TargetIdSchema,
    side: z.enum(["left", "right"]),
    of: TargetIdSchema,
    sensor: SensorIdSchema.optional(),
  }) as z.ZodType<Beside>,
  parseAfterTarget(reader, target, of) {
    for (const side of ["left", "right"] as const) {
      // Offered only where there is a camera: nothing else has blobs.
      if ((!reader.hasCameras && reader.peekWord() !== side) || !reader.skip(side)) continue;
      reader.take("of");
      return { blob: target, side, of: reader.takeName("targets") as TargetId, ...of };
    }
    return undefined;
  },
  print: ({ blob, side, of, sensor }) => `${prefix(sensor)}${blob} ${side} of ${of}`,
  tell: ({ blob, side, of, sensor }, name) => `${name(blob)} is ${side} of ${name(of)}${toldBy(sensor, name)}`,
  asks: {
    side: {
      takes: ["eye", "label", "otherLabel"],
      ask: (e, eye, label, other) => blobOf(e, eye, label, BLOB_X) < blobOf(e, eye, other, BLOB_X),
    },
  },
  // Right of another: that lies left of it.
  rows({ blob, side, of, sensor }, to) {
    const [left, right] = side === "left" ? [blob, of] : [of, blob];
    return [{ act: "side", args: [to.camera(sensor), to.label(left), to.label(right)] }];
  },
  looksFor: ({ blob, of, sensor }) => ({ targets: [blob, of], sensor }),
  named: ({ blob, side, of, sensor }, visit) => ({
    blob: visit("target", blob, "blob"),
    side,
    of: visit("target", of, "of"),
    ...visitedSensor(sensor, visit),
  }),
};
