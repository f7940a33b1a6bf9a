import * as z from "zod";
import type { int, num } from "../../arithmetic";
import { Id } from "../../names";
import { type PhraseReader, printTime, timeIn } from "../../phrases";
import type { Engine } from "../engine/Engine";
import { lightLamp } from "../engine/outputs";
import { MAIN_LAMP } from "../outputs/lamp";
import { stepKind } from "./StepKind";

const Paint = z.union([z.string().regex(/^#[0-9a-f]{6}$/), Id]);
const schema = z.strictObject({
  step: z.literal("lamp"),
  lamp: Id.optional(),
  colour: z.union([z.literal("off"), Paint]),
  blinkHz: z.number().positive().max(20).optional(),
  /** So long, and then it goes off. */
  ms: z.number().positive().max(3_600_000).optional(),
  in: timeIn,
});

/** Puts out a lamp that was lit for a time. */
function goOut(e: Engine, lamp: int, _colour: int, _blinkHz: num, ms: num): void {
  if (ms > 0) lightLamp(e, lamp, -1, 0);
}

/** Every lamp of the machine goes out. */
function allOut(e: Engine): void {
  for (let lamp = 0; lamp < e.p.machine.ownLamps; lamp++) lightLamp(e, lamp, -1, 0);
}

/**
 * Lights a lamp in a target's paint or a colour, or switches it off. With a time it goes off after that, and only then
 * the next step follows.
 */
export const lamp = stepKind<z.infer<typeof schema>>({
  key: "lamp",
  schema,
  opening: "lamp",
  templates: [
    "lamp {targets}",
    "lamp {targets} for {time 1} s",
    "lamp {targets} blink {rate 2} Hz",
    "lamp {lamps} {targets}",
    "lamp off",
    "lamp {lamps} off",
  ],
  parse(reader) {
    const named = reader.skipName("lamps");
    const ofLamp = named === undefined ? {} : { lamp: named };
    if (reader.skip("off")) return { step: "lamp", ...ofLamp, colour: "off" };
    // One name alone that is a target's as well is the colour: `lamp green`.
    const isOver = reader.peekIs("end") || ["blink", "for"].includes(reader.peekWord());
    const alone = named !== undefined && isOver ? reader.lastNameAs("targets") : undefined;
    const head = { step: "lamp" as const, ...(alone === undefined && ofLamp) };
    const colour = alone ?? reader.skipColour() ?? reader.takeName("targets");
    const blink = reader.skip("blink") ? { blinkHz: takeHertz(reader) } : {};
    const time = reader.skip("for") ? reader.takeTime("a time") : {};
    return { ...head, colour, ...blink, ...time };
  },
  print: ({ lamp, colour, blinkHz, ms, in: unit }) =>
    `lamp ${lamp ? `${lamp} ` : ""}${colour}${blinkHz ? ` blink ${blinkHz} Hz` : ""}${ms ? ` for ${printTime(ms, unit)}` : ""}`,
  tell({ lamp, colour, blinkHz, ms, in: unit }, name) {
    const which = lamp === undefined ? "the lamp" : `the lamp ${lamp}`;
    if (colour === "off") return `switch ${which} off`;
    return `light ${which} in ${colour.startsWith("#") ? colour : `${name(colour)}’s colour`}${blinkHz ? `, blinking ${blinkHz} times a second` : ""}${ms ? ` for ${printTime(ms, unit)}` : ""}`;
  },
  acts: {
    lamp: {
      takes: ["lamp", "colour", "blinkHz", "ms"],
      begin: (e, lamp, colour, blinkHz) => lightLamp(e, lamp, colour, blinkHz),
      ended: (e, _lamp, _colour, _blinkHz, ms) => e.now - e.sinceAt >= ms,
      end: goOut,
    },
  },
  row: ({ lamp = MAIN_LAMP, colour, blinkHz = 0, ms = 0 }, to) => ({
    act: "lamp",
    args: [to.lamp(lamp), to.colour(colour), blinkHz, ms],
  }),
  endsBy: ({ ms = 0 }, begun) => begun.t + ms,
  named: ({ lamp, colour, ...rest }, visit) => ({
    ...rest,
    ...(lamp !== undefined && { lamp: visit("lamp", lamp, "lamp") }),
    colour: colour === "off" || colour.startsWith("#") ? colour : visit("target", colour, "colour"),
  }),
});

function takeHertz(reader: PhraseReader): number {
  const blinkHz = reader.takeAmount("how often a second");
  reader.take("Hz");
  return blinkHz <= 20 ? blinkHz : reader.failNumber("at most 20 Hz");
}

const offSchema = z.strictObject({ step: z.literal("lamps off") });

/** Switches every lamp off. */
export const lampsOff = stepKind<z.infer<typeof offSchema>>({
  key: "lamps off",
  schema: offSchema,
  opening: "lamps",
  templates: ["lamps off"],
  parse(reader) {
    reader.take("off");
    return { step: "lamps off" };
  },
  print: () => "lamps off",
  tell: () => "switch every lamp off",
  acts: { "lamps off": { takes: [], begin: allOut } },
  row: () => ({ act: "lamps off", args: [] }),
});
