import * as z from "zod";
import { Id } from "../../names";
import { stepKind } from "./StepKind";

/** The lamp that a phrase means when it names none. */
export const MAIN_LAMP = "main";

const Paint = z.union([z.string().regex(/^#[0-9a-f]{6}$/), Id]);
const schema = z.strictObject({
  step: z.literal("lamp"),
  lamp: Id.optional(),
  colour: z.union([z.literal("off"), Paint]),
  blinkHz: z.number().positive().max(20).optional(),
});

/** Lights a lamp in a target's paint or a colour, or switches it off. */
export const lamp = stepKind<z.infer<typeof schema>>({
  key: "lamp",
  schema,
  opening: "lamp",
  templates: [
    "lamp {targets}",
    "lamp {targets} blink {rate 2} Hz",
    "lamp {lamps} {targets}",
    "lamp off",
    "lamp {lamps} off",
  ],
  parse(reader) {
    const named = reader.skipName("lamps");
    const head = { step: "lamp" as const, ...(named !== undefined && { lamp: named }) };
    if (reader.skip("off")) return { ...head, colour: "off" };
    const colour = reader.skipColour() ?? reader.takeName("targets");
    if (!reader.skip("blink")) return { ...head, colour };
    const blinkHz = reader.takeAmount("how often a second");
    reader.take("Hz");
    if (blinkHz > 20) reader.failNumber("at most 20 Hz");
    return { ...head, colour, blinkHz };
  },
  print: ({ lamp, colour, blinkHz }) =>
    `lamp ${lamp ? `${lamp} ` : ""}${colour}${blinkHz ? ` blink ${blinkHz} Hz` : ""}`,
  tell({ lamp, colour, blinkHz }, name) {
    const which = lamp === undefined ? "the lamp" : `the lamp ${lamp}`;
    if (colour === "off") return `switch ${which} off`;
    return `light ${which} in ${colour.startsWith("#") ? colour : `${name(colour)}’s colour`}${blinkHz ? `, blinking ${blinkHz} times a second` : ""}`;
  },
  begin({ lamp = MAIN_LAMP, colour, blinkHz = 0 }, scene) {
    scene.lamp(lamp, colour === "off" ? null : colour.startsWith("#") ? colour : scene.paintOf(colour), blinkHz);
  },
  named: ({ lamp, colour, ...rest }, visit) => ({
    ...rest,
    ...(lamp !== undefined && { lamp: visit("lamp", lamp, "lamp") }),
    colour: colour === "off" || colour.startsWith("#") ? colour : visit("target", colour, "colour"),
  }),
});

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
  begin: (_, scene) => scene.lampsOff(),
});
