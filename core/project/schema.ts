import * as z from "zod";
import { Behaviour } from "../behaviour/schema";
import { Feature } from "../readings/featureSchema";
import { MAX_READINGS } from "../readings/limits";
import { CHANNELS, REPORT_KINDS, REPORTS } from "../readings/report";
import { Course, Optics, Robot } from "../world/schema";
import { LightId, RuleId, RuleSetId, SensorId, TapeId, TargetId } from "./idSchemas";
import { missingNames } from "./missingNames";

const Name = z.string().trim().min(1, "a name is needed").max(80, "a name has at most 80 characters");
export const HexColour = z.string().regex(/^#[0-9a-f]{6}$/, "a colour is written #rrggbb in lower case");

/** A named lighting condition: linear, 1 = the room's norm. */
export const Light = z.strictObject({
  id: LightId,
  name: Name,
  rgb: z.tuple([z.number().min(0).max(20), z.number().min(0).max(20), z.number().min(0).max(20)]),
  level: z.number().min(0).max(100),
});

const Span = z
  .tuple([z.number(), z.number()])
  .refine(([min, max]) => max > min, "the scale's end must lie above its start");

/** A raw channel's name in files. */
const Channel = z.enum(CHANNELS);

/** What was read over white and in the dark, a raw value for each channel of the report. */
const WhiteAndDark = z.strictObject({ dark: z.array(z.number()).max(4), white: z.array(z.number()).max(4) });

/** What gives readings. Its raw channels arrive in `order`; scale and reference are in raw values. */
export const Sensor = z
  .strictObject({
    id: SensorId,
    name: Name,
    ruleSet: RuleSetId,
    reports: z.enum(REPORTS),
    scale: z.partialRecord(Channel, Span),
    order: z.enum(["rgb", "bgr", "grb"]).optional(),
    periodMs: z.number().min(1).max(10_000),
    reference: WhiteAndDark.optional(),
    codes: z.record(z.string().regex(/^\d{1,3}$/, "a code is a whole number from 0 to 999"), TargetId).optional(),
    optics: Optics,
  })
  .superRefine(({ reports, scale, reference, order, codes }, context) => {
    const kind = REPORT_KINDS[reports];
    const say = (message: string, ...path: string[]) => context.addIssue({ code: "custom", message, path });
    if (kind.scaled) {
      for (const channel of kind.channels)
        if (scale[channel] === undefined) say(`the scale of channel ${channel} is missing`, "scale", channel);
    }
    for (const channel of Object.keys(scale))
      if (!(kind.channels as readonly string[]).includes(channel))
        say(`a sensor that reports ${reports} has no channel ${channel}`, "scale", channel);
    if (order !== undefined && !kind.ordered) say("only red, green and blue come in an order", "order");
    if (codes !== undefined && reports !== "code") say("only a sensor that reports codes has codes", "codes");
    if (reference === undefined) return;
    if (!kind.referenced) return say(`a sensor that reports ${reports} has no white and dark`, "reference");
    for (const side of ["dark", "white"] as const)
      if (reference[side].length !== kind.channels.length)
        return say(`${side} needs ${kind.channels.length} values, one a channel`, "reference", side);
    if (!reference.white.every((white, i) => white > reference.dark[i]))
      say("white must lie above dark in every channel", "reference");
  });

export const TARGET_KINDS = ["tag", "piece", "card", "background"] as const;
/** Something to recognise, or a background that must not be mistaken for one. */
export const Target = z.strictObject({
  id: TargetId,
  code: z.string().regex(/^[A-Za-z]{2}$/, "a code is two letters"),
  name: Name,
  kind: z.enum(TARGET_KINDS),
  paint: HexColour,
});

/** A band: inclusive, a missing end is open; from > to only for hue, which then wraps through 0. */
export const Test = z
  .strictObject({
    feature: Feature,
    from: z.number().optional(),
    to: z.number().optional(),
    not: z.boolean().optional(),
  })
  .refine(
    (t) => t.feature === "hue" || t.from === undefined || t.to === undefined || t.from <= t.to,
    "only a hue band may start above its end",
  );

export const Rule = z.strictObject({
  id: RuleId,
  target: TargetId,
  on: z.boolean(),
  any: z.array(z.strictObject({ all: z.array(Test).max(12) })).max(12),
});

/** k of n: when a label becomes what is seen, and when it is given up. */
export const Steady = z
  .strictObject({
    hits: z.number().int().min(1).max(50),
    of: z.number().int().min(1).max(50),
    release: z.number().int().min(1).max(50),
    rejoinMs: z.number().min(0).max(60_000),
  })
  .refine((s) => s.hits <= s.of, "hits cannot exceed the readings they are counted among");

const Share = z.number().min(0).max(1);

/** A stored colour that the nearest method compares with; for a hue-only or a reflected-light sensor one number. */
export const Reference = z.strictObject({
  target: TargetId,
  hue: z.number().min(0).lt(360).optional(),
  sat: Share.optional(),
  val: Share.optional(),
  reflected: Share.optional(),
  light: LightId.optional(),
});

export const RuleSet = z.strictObject({
  id: RuleSetId,
  name: Name,
  method: z.enum(["bands", "nearest"]),
  rules: z.array(Rule).max(100),
  nearest: z
    .strictObject({ references: z.array(Reference).max(500), reject: z.number().positive().max(2) })
    .default({ references: [], reject: 0.25 }),
  steady: Steady,
});

export const Mark = z
  .strictObject({
    from: z.number(),
    to: z.number(),
    target: TargetId,
    light: LightId.optional(),
    height: z.number().min(0).max(1000).optional(),
  })
  .refine((m) => m.to >= m.from, "a mark must not end before it starts");

const tapeHead = {
  id: TapeId,
  name: Name,
  sensor: SensorId,
  origin: z.enum(["live", "import", "run", "bench"]),
  marks: z.array(Mark).max(5000),
};

/** A tape without its readings, which are kept apart because they are large. */
export const TapeHead = z.strictObject(tapeHead);

const Numbers = z.array(z.number()).max(MAX_READINGS);
export const Readings = z
  .strictObject({ t: Numbers, channels: z.partialRecord(Channel, Numbers) })
  .refine(
    ({ t, channels }) => Object.values(channels).every((c) => c.length === t.length),
    "every channel needs one value for each time",
  )
  .refine(({ t }) => t.every((x, i) => i === 0 || x >= t[i - 1]), "times must not go backwards");

export const Tape = z.strictObject({ ...tapeHead, readings: Readings });

const projectShape = {
  format: z.literal("perceptum-project"),
  version: z.literal(1),
  name: Name,
  sensors: z.array(Sensor).max(20),
  lights: z.array(Light).max(50),
  targets: z.array(Target).max(100),
  ruleSets: z.array(RuleSet).max(20),
  behaviour: Behaviour,
  robot: Robot,
  courses: z.array(Course).max(50),
};

/** A project as it is kept and edited: all but the tapes' readings. */
export const ProjectDocument = z
  .strictObject({ ...projectShape, tapes: z.array(TapeHead).max(200) })
  .superRefine((project, context) => {
    for (const gap of missingNames(project)) context.addIssue({ code: "custom", ...gap });
  });

/** A project file, `*.perceptum.json`: the document with its readings. */
export const Project = z
  .strictObject({ ...projectShape, tapes: z.array(Tape).max(200) })
  .superRefine((project, context) => {
    for (const gap of missingNames(project)) context.addIssue({ code: "custom", ...gap });
    project.tapes.forEach((tape, i) => {
      const sensor = project.sensors.find((s) => s.id === tape.sensor);
      if (sensor === undefined) return;
      const wanted: readonly string[] = REPORT_KINDS[sensor.reports].channels;
      const held = Object.keys(tape.readings.channels);
      if (held.length === wanted.length && wanted.every((channel) => held.includes(channel))) return;
      context.addIssue({
        code: "custom",
        message: `the tape holds the channels ${held.join(", ") || "none"}; its sensor reports ${wanted.join(", ")}`,
        path: ["tapes", i, "readings", "channels"],
      });
    });
  });

export type Light = z.infer<typeof Light>;
export type Sensor = z.infer<typeof Sensor>;
export type Target = z.infer<typeof Target>;
export type Test = z.infer<typeof Test>;
export type Rule = z.infer<typeof Rule>;
export type Steady = z.infer<typeof Steady>;
export type Reference = z.infer<typeof Reference>;
export type RuleSet = z.infer<typeof RuleSet>;
export type Mark = z.infer<typeof Mark>;
export type TapeHead = z.infer<typeof TapeHead>;
export type Readings = z.infer<typeof Readings>;
export type Tape = z.infer<typeof Tape>;
export type ProjectDocument = z.infer<typeof ProjectDocument>;
export type Project = z.infer<typeof Project>;
