import type { Note } from "./engineState";

/** A stretch of time in which a response (or a mode's entering steps) ran. */
export interface DidSpan {
  from: number;
  to: number;
  text: string;
}

/**
 * The stretches in which something was done, from a log; `end` closes what still runs. Each is named by its steps, as
 * `written` gives their phrases.
 */
export function didSpans(notes: readonly Note[], end: number, written = (phrase: string) => phrase): DidSpan[] {
  const spans: DidSpan[] = [];
  let open: DidSpan | undefined;
  const close = (t: number) => {
    if (open !== undefined && open.text !== "") spans.push({ ...open, to: t });
    open = undefined;
  };
  for (const note of notes) {
    if (note.kind === "fires" || note.kind === "mode") {
      close(note.t);
      open = { from: note.t, to: note.t, text: "" };
    } else if (note.kind === "step" && open !== undefined)
      open.text += `${open.text === "" ? "" : ", "}${written(note.phrase)}`;
    else if (note.kind === "ended" || note.kind === "finish") close(note.t);
  }
  close(end);
  return spans;
}
