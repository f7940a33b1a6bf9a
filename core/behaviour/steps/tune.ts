import * as z from "zod";
import type { PhraseReader } from "../../phrases";
import { playTune } from "../engine/outputs";
import { stepKind } from "./StepKind";
import { hertzOf, NoteSchema, parseNote } from "./tone";

const LENGTHS = [1, 2, 4, 8, 16, 32] as const;

/** A note or a rest, as a share of a whole one: 1/4 is a quarter. */
const Part = z.strictObject({
  note: z.union([z.literal("rest"), NoteSchema]),
  parts: z.number().int().min(1).max(16),
  of: z.literal(LENGTHS),
});
const schema = z.strictObject({
  step: z.literal("tune"),
  notes: z.array(Part).min(1).max(200),
  /** Quarters a minute. */
  perMinute: z.number().min(20).max(400),
});
type Tune = z.infer<typeof schema>;

/** How long each note or rest lasts, in ms. */
const lengthOf = ({ parts, of }: Tune["notes"][number], { perMinute }: Tune) => (parts / of) * 4 * (60_000 / perMinute);

const totalOf = (tune: Tune) => tune.notes.reduce((sum, note) => sum + lengthOf(note, tune), 0);

const tonesOf = (tune: Tune) =>
  tune.notes.map((part) => ({ hertz: part.note === "rest" ? 0 : hertzOf(part.note), ms: lengthOf(part, tune) }));

const ONE_OF = "1, 2, 4, 8, 16 or 32";

function parsePart(reader: PhraseReader): Tune["notes"][number] {
  const note = reader.skip("rest") ? "rest" : parseNote(reader);
  const parts = reader.takeCount("how many parts of a whole note", 16);
  reader.take("/");
  const number = reader.takeNumber(ONE_OF);
  const of = LENGTHS.find((length) => length === number) ?? reader.failNumber(ONE_OF);
  return { note, parts, of };
}

/** Plays notes and rests one after the other; the next step follows when they have ended. */
export const tune = stepKind<Tune>({
  key: "tune",
  schema,
  opening: "tune",
  templates: ["tune {notes C4 1/4, E4 1/4, rest 1/8, G4 1/2} at {rate 120} a minute"],
  parse(reader) {
    const notes = [parsePart(reader)];
    while (reader.skip(",")) notes.push(parsePart(reader));
    reader.take("at");
    const perMinute = reader.takeNumber("how many quarters a minute");
    if (perMinute < 20 || perMinute > 400) reader.failNumber("a speed from 20 to 400 quarters a minute");
    reader.take("a");
    reader.take("minute");
    return { step: "tune", notes, perMinute };
  },
  print: ({ notes, perMinute }) =>
    `tune ${notes.map(({ note, parts, of }) => `${note} ${parts}/${of}`).join(", ")} at ${perMinute} a minute`,
  tell: (step) => `play a tune of ${step.notes.length} notes, ${(totalOf(step) / 1000).toFixed(1)} s long`,
  acts: {
    tune: {
      takes: ["ms", "tones"],
      begin: (e, _, tones, first) => playTune(e, first, tones),
      ended: (e, ms) => e.now - e.sinceAt >= ms,
    },
  },
  row: (step) => ({
    act: "tune",
    args: [totalOf(step), step.notes.length],
    numbers: tonesOf(step).flatMap(({ hertz, ms }) => [hertz, ms]),
  }),
  endsBy: (step, begun) => begun.t + totalOf(step),
});
