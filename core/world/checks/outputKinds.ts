import * as z from "zod";
import type { Command } from "../../behaviour";
import { MAIN_LAMP } from "../../behaviour";
import { Id, TargetIdSchema } from "../../names";
import type { Trace } from "../trace";
import { at, ended, sentence, unmet } from "./because";
import type { CheckKind, Verdict } from "./CheckKind";

/** So long after a target was seen a lamp may take to be lit, in ms. */
const SOON = 50;

type Told<K extends Command["kind"]> = { t: number; command: Extract<Command, { kind: K }> };

/** What a run told of one kind, in its order. */
const told = <K extends Command["kind"]>({ outputs }: Trace, kind: K): Told<K>[] =>
  outputs.filter(({ command }) => command.kind === kind) as Told<K>[];

const litSchema = z.strictObject({ lampLit: Id, whileSeen: TargetIdSchema });

/** A lamp is lit (or blinks) for as long as a target is seen. */
export const lampLit: CheckKind<z.infer<typeof litSchema>> = {
  key: "lampLit",
  schema: litSchema,
  word: "lamp is lit while …",
  fresh: ({ targets: [first], lamps: [lamp = MAIN_LAMP] }) =>
    first === undefined ? undefined : { lampLit: lamp, whileSeen: first },
  parse(reader) {
    if (!reader.skip("lamp")) return undefined;
    const lamp = reader.skipName("lamps") ?? MAIN_LAMP;
    for (const word of ["is", "lit", "while"]) reader.take(word);
    return { lampLit: lamp, whileSeen: reader.takeName("targets") as z.infer<typeof TargetIdSchema> };
  },
  print: ({ lampLit, whileSeen }) => `lamp ${lampLit === MAIN_LAMP ? "" : `${lampLit} `}is lit while ${whileSeen}`,
  sentence: ({ lampLit, whileSeen }, name) =>
    `The lamp${lampLit === MAIN_LAMP ? "" : ` ${lampLit}`} is lit while ${name(whileSeen)} is seen`,
  named: ({ lampLit, whileSeen }, visit) => ({
    lampLit: lampLit === MAIN_LAMP ? lampLit : visit("lamp", lampLit, "lampLit"),
    whileSeen: visit("target", whileSeen, "whileSeen"),
  }),
  judge({ lampLit, whileSeen }, trace, name) {
    const changes = told(trace, "lamp").filter(({ command }) => command.lamp === lampLit);
    const litAt = (t: number) => (changes.findLast((change) => change.t <= t)?.command.colour ?? null) !== null;
    let visits = 0;
    // It is seen as long as any sensor sees it.
    const by = new Set<string>();
    let since: number | undefined;
    const dark = (from: number, to: number) => {
      if (from + SOON < to && !litAt(from + SOON)) return from + SOON;
      return changes.find(({ t, command }) => t > from + SOON && t < to && command.colour === null)?.t;
    };
    const fails = (t: number): Verdict => ({
      outcome: "does not",
      figure: "dark",
      t,
      why: sentence(`at ${at(t)} ${name(whileSeen)} is seen and the lamp is dark`),
    });
    for (const note of trace.notes) {
      if ((note.kind !== "arrives" && note.kind !== "departs") || note.target !== whileSeen) continue;
      if (note.kind === "arrives") {
        visits++;
        by.add(note.sensor);
        since ??= note.t;
      } else if (by.delete(note.sensor) && by.size === 0 && since !== undefined) {
        const t = dark(since, note.t);
        if (t !== undefined) return fails(t);
        since = undefined;
      }
    }
    const t = since === undefined ? undefined : dark(since, trace.endMs);
    if (t !== undefined) return fails(t);
    const figure = `${visits} ${visits === 1 ? "visit" : "visits"}`;
    if (visits > 0) return { outcome: "holds", figure, t: trace.endMs };
    return unmet(trace, figure, sentence(`${name(whileSeen)} was never seen`, ended(trace)));
  },
};

const oneLampSchema = z.strictObject({ lampsLit: z.literal(1) });

/** From the first light on exactly one lamp is lit, until the run ends. */
export const oneLamp: CheckKind<z.infer<typeof oneLampSchema>> = {
  key: "lampsLit",
  schema: oneLampSchema,
  word: "exactly one lamp is lit",
  fresh: () => ({ lampsLit: 1 }),
  parse(reader) {
    if (!reader.skip("exactly")) return undefined;
    for (const word of ["one", "lamp", "is", "lit"]) reader.take(word);
    return { lampsLit: 1 };
  },
  print: () => "exactly one lamp is lit",
  sentence: () => "From the first light on exactly one lamp is lit",
  judge(_, trace) {
    const lit = new Set<string>();
    let begun = false;
    const changes = told(trace, "lamp");
    for (const [i, { t, command }] of changes.entries()) {
      if (command.colour === null) lit.delete(command.lamp);
      else lit.add(command.lamp);
      begun ||= lit.size > 0;
      // What is told at one time is one change.
      if (changes[i + 1]?.t === t || !begun || lit.size === 1) continue;
      const why = sentence(`at ${at(t)} ${lit.size === 0 ? "no lamp is lit" : `${[...lit].join(" and ")} are lit`}`);
      return { outcome: "does not", figure: `${lit.size} lit`, t, why };
    }
    if (begun) return { outcome: "holds", figure: "1 lit", t: trace.endMs };
    return unmet(trace, "0 lit", sentence("no lamp was ever lit", ended(trace)));
  },
};

const saysSchema = z.strictObject({ says: z.string().min(1).max(200) });

/** A text is said at some time of the run. */
export const says: CheckKind<z.infer<typeof saysSchema>> = {
  key: "says",
  schema: saysSchema,
  word: "says …",
  fresh: () => ({ says: "hello" }),
  parse: (reader) => (reader.skip("says") ? { says: reader.takeText("a text in quotes") } : undefined),
  print: ({ says }) => `says "${says}"`,
  sentence: ({ says }) => `Says “${says}”`,
  judge({ says }, trace) {
    const all = told(trace, "say");
    const said = all.find(({ command }) => command.text === says);
    if (said !== undefined) return { outcome: "holds", figure: "said", t: said.t };
    const others = [...new Set(all.map(({ command }) => `“${command.text}”`))].slice(0, 5);
    const what = others.length === 0 ? "nothing was said" : `only ${others.join(", ")} was said`;
    return unmet(trace, "not said", sentence(what, ended(trace)));
  },
};

const servoSchema = z.strictObject({ servo: Id, atDegrees: z.number().min(-360).max(360) });
/** A servo is where it shall be within so many degrees. */
const NEAR = 1;

/** A servo stands at an angle when the run ends. */
export const servoAt: CheckKind<z.infer<typeof servoSchema>> = {
  key: "atDegrees",
  schema: servoSchema,
  word: "servo ends at …",
  fresh: ({ servos: [first] }) => (first === undefined ? undefined : { servo: first, atDegrees: 90 }),
  parse(reader) {
    if (!reader.skip("servo")) return undefined;
    const servo = reader.takeName("servos");
    for (const word of ["ends", "at"]) reader.take(word);
    const atDegrees = reader.takeNumber("degrees");
    return Math.abs(atDegrees) <= 360 ? { servo, atDegrees } : reader.failNumber("an angle from -360 to 360 degrees");
  },
  print: ({ servo, atDegrees }) => `servo ${servo} ends at ${atDegrees}`,
  sentence: ({ servo, atDegrees }) => `The servo ${servo} ends at ${atDegrees}°`,
  named: ({ servo, atDegrees }, visit) => ({ servo: visit("servo", servo, "servo"), atDegrees }),
  judge({ servo, atDegrees }, trace) {
    let degrees: number | undefined;
    let moving: Told<"servo"> | undefined;
    // Where it is when it is told anew, or when the run ends.
    const arrivedBy = (t: number) => {
      if (moving === undefined) return;
      const { degrees: to, degreesPerSecond } = moving.command;
      const way = ((t - moving.t) / 1000) * degreesPerSecond;
      degrees = degrees === undefined || Math.abs(to - degrees) <= way ? to : degrees + Math.sign(to - degrees) * way;
    };
    for (const output of told(trace, "servo")) {
      if (output.command.servo !== servo) continue;
      arrivedBy(output.t);
      moving = output;
    }
    arrivedBy(trace.endMs);
    if (degrees === undefined)
      return unmet(trace, "not told", sentence(`${servo} was never told to turn`, ended(trace)));
    const figure = `${degrees.toFixed(0)}°`;
    if (Math.abs(degrees - atDegrees) <= NEAR) return { outcome: "holds", figure, t: trace.endMs };
    return unmet(trace, figure, sentence(`${servo} stands at ${figure}`, ended(trace)));
  },
};
