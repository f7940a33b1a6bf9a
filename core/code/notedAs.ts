import type { Note } from "../behaviour";

/** What the robot's side of written code hears of a note: its kind, three texts and a number. */
export type NoteFields = readonly [kind: string, what: string, more: string, also: string, number: number];

/** A note of the core as the robot's side of written code hears it; a trouble is one text there. */
export function notedAs(note: Note): NoteFields {
  const noted = (what: string, more = "", also = "", number = 0): NoteFields => [note.kind, what, more, also, number];
  switch (note.kind) {
    case "arrives":
    case "departs":
      return noted(note.sensor, note.target);
    case "fires":
      return noted(note.response, note.target, note.sensor);
    case "dropped":
      return noted(note.response, note.mode);
    case "step":
      return noted(note.phrase);
    case "ended":
      return noted(note.response ?? "");
    case "mode":
      return noted(note.mode);
    case "counter":
      return noted(note.counter, "", "", note.value);
    case "list":
      return noted(note.list, note.targets.at(-1), "", note.targets.length);
    case "gate":
      return noted(note.gate, note.open ? "open" : "close", note.response ?? "", note.fired ?? Number.NaN);
    case "finish":
      return noted("");
    case "log":
    case "trouble":
      return noted(note.text);
    case "piece":
      throw new Error("an engine tells of no piece");
  }
}

/** The same of what was heard: a trouble as one text. */
export const heard = ([kind, what, more, also, number]: NoteFields): NoteFields =>
  kind === "trouble" ? [kind, what + more + also, "", "", number] : [kind, what, more, also, number];
