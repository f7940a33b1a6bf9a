import * as z from "zod";
import { type PhraseReader, printTime, timeIn } from "../../phrases";
import { playTone } from "../engine/outputs";
import { stepKind } from "./StepKind";

const NOTE = /^([A-G])(#|b)?([0-8])$/;
const SEMITONES: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };
/** A note by its name, or by its MIDI number. */
export const NoteSchema = z.union([
  z.string().regex(NOTE, "a note is written like C4 or F#5"),
  z.number().int().min(0).max(127),
]);
const schema = z.strictObject({
  step: z.literal("tone"),
  note: NoteSchema,
  ms: z.number().positive().max(60_000),
  in: timeIn,
});

/** The MIDI number of a note name: C4 is 60, A4 is 69. */
export function midiOf(note: string | number): number {
  if (typeof note === "number") return note;
  const [, letter, sign, octave] = NOTE.exec(note) ?? [];
  return 12 * (Number(octave) + 1) + SEMITONES[letter] + (sign === "#" ? 1 : sign === "b" ? -1 : 0);
}

/** Equal temperament, A4 = 440 Hz, to a hundredth of a hertz. */
export function hertzOf(note: string | number): number {
  return Math.round(44_000 * 2 ** ((midiOf(note) - 69) / 12)) / 100;
}

/** Reads a note where a reader stands. */
export function parseNote(reader: PhraseReader): string | number {
  if (!reader.peekIs("number")) {
    if (!NOTE.test(reader.peekWord())) reader.fail("a note like C4, or a MIDI number,");
    return reader.takeAnyWord("a note");
  }
  const note = reader.takeNumber("a note");
  if (!Number.isInteger(note) || note < 0 || note > 127) reader.failNumber("a whole MIDI number from 0 to 127");
  return note;
}

/** Sounds a note; the next step follows when it has ended. */
export const tone = stepKind<z.infer<typeof schema>>({
  key: "tone",
  schema,
  opening: "tone",
  templates: ["tone {note C4} for {time 0.5} s"],
  parse(reader) {
    const note = parseNote(reader);
    reader.take("for");
    return { step: "tone", note, ...reader.takeTime("a time", 60) };
  },
  print: ({ note, ms, in: unit }) => `tone ${note} for ${printTime(ms, unit)}`,
  tell: ({ note, ms, in: unit }) => `sound ${note} for ${printTime(ms, unit)}`,
  acts: { tone: { takes: ["hertz", "ms"], begin: playTone, ended: (e, _, ms) => e.now - e.sinceAt >= ms } },
  row: ({ note, ms }) => ({ act: "tone", args: [hertzOf(note), ms] }),
  endsBy: ({ ms }, begun) => begun.t + ms,
});
