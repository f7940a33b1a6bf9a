import { cutName, type LightId, type TapeId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import {
  inLight,
  joinTapes,
  type Mark,
  type Stretch,
  splitTape,
  type TapeHead,
  trimTape,
} from "@perceptum/core/readings";
import { useMemo } from "react";
import { useSession } from "../session/context";
import type { NewTape } from "../session/ProjectSession";
import { useEdit } from "../session/project";
import { useAppDispatch } from "../state/store";
import { markChosen, tapeChosen, windowChosen } from "../state/view";

/**
 * Changes of tapes. Readings are never overwritten: what is cut or joined is kept as a new tape, which takes the place
 * of the old one in the document, so that undo brings the old one back.
 */
export function useTapeEdits() {
  const session = useSession();
  const { store } = session;
  const edit = useEdit();
  const dispatch = useAppDispatch();
  return useMemo(() => {
    const replace = (
      what: string,
      made: readonly NewTape[],
      gone: readonly TapeId[] = [],
      alongside?: (p: ProjectDocument) => ProjectDocument,
    ) => session.changeTapes({ what, made, gone, ...(alongside && { alongside }) });
    const whole = (tape: TapeHead): NewTape | undefined => {
      const readings = session.readings.get(tape.id);
      if (readings === undefined) return undefined;
      const { id: _, ...head } = tape;
      return { ...head, readings };
    };
    const setMarks = (tape: TapeId, what: string, change: (marks: Mark[]) => Mark[], gesture?: string) =>
      edit(
        what,
        (p) => ({ ...p, tapes: p.tapes.map((t) => (t.id === tape ? { ...t, marks: change(t.marks) } : t)) }),
        gesture,
      );
    return {
      add: (what: string, tape: NewTape, alongside?: (p: ProjectDocument) => ProjectDocument) =>
        replace(what, [tape], [], alongside),
      rename: (tape: TapeHead, name: string) =>
        edit("renaming a tape", (p) => ({ ...p, tapes: p.tapes.map((t) => (t.id === tape.id ? { ...t, name } : t)) })),
      /** Notes the marks and boxes of a tape, or those in a stretch of it, in one light; undefined: in none. */
      setLight: (tape: TapeHead, light: LightId | undefined, within: Stretch | undefined) =>
        edit("noting the light of marks", (p) => ({
          ...p,
          tapes: p.tapes.map((t) => (t.id === tape.id ? inLight(t, light, within) : t)),
        })),
      trim: (tape: TapeHead, from: number, to: number) => {
        const all = whole(tape);
        dispatch(windowChosen({ source: tape.id }));
        return all && replace(`trimming ${tape.name}`, [{ ...all, ...trimTape(all, from, to) }], [tape.id]);
      },
      cut: (tape: TapeHead, t: number) => {
        const all = whole(tape);
        if (all === undefined) return;
        const [a, b] = splitTape(all, t);
        return replace(
          `cutting ${tape.name} in two`,
          [
            { ...all, ...a },
            { ...all, ...b, name: cutName(tape.name, ", part 2") },
          ],
          [tape.id],
        );
      },
      join: (tape: TapeHead, next: TapeHead, gapMs: number) => {
        const [a, b] = [whole(tape), whole(next)];
        return (
          a &&
          b &&
          replace(`joining ${tape.name} and ${next.name}`, [{ ...a, ...joinTapes([a, b], gapMs) }], [tape.id, next.id])
        );
      },
      duplicate: (tape: TapeHead) => {
        const all = whole(tape);
        return all && replace(`duplicating ${tape.name}`, [{ ...all, name: cutName(tape.name, ", copy") }]);
      },
      remove: (tape: TapeHead) => {
        edit(`deleting ${tape.name}`, (p) => ({ ...p, tapes: p.tapes.filter((t) => t.id !== tape.id) }));
        const left = store.getState().document.present?.tapes.at(-1);
        if (left) dispatch(tapeChosen(left.id));
      },
      addMark: (tape: TapeHead, mark: Mark) => {
        setMarks(tape.id, "marking a stretch", (marks) => [...marks, mark].sort((a, b) => a.from - b.from));
        const marks = store.getState().document.present?.tapes.find((t) => t.id === tape.id)?.marks ?? [];
        dispatch(markChosen(marks.indexOf(mark)));
      },
      changeMark: (tape: TapeId, index: number, change: Partial<Mark>, gesture?: string) =>
        setMarks(
          tape,
          "changing a mark",
          (marks) => marks.map((m, i) => (i === index ? { ...m, ...change } : m)),
          gesture,
        ),
      /** A note of a mark taken away: light or height. */
      clearNote: (tape: TapeId, index: number, note: "light" | "height") =>
        setMarks(tape, `taking the ${note} from a mark`, (marks) =>
          marks.map((m, i) => {
            if (i !== index) return m;
            const { [note]: _, ...rest } = m;
            return rest;
          }),
        ),
      splitMark: (tape: TapeId, index: number, left: number, right: number) =>
        setMarks(tape, "splitting a mark", (marks) =>
          marks.flatMap((m, i) =>
            i !== index
              ? [m]
              : [
                  { ...m, to: left },
                  { ...m, from: right },
                ],
          ),
        ),
      deleteMark: (tape: TapeId, index: number) => {
        setMarks(tape, "deleting a mark", (marks) => marks.toSpliced(index, 1));
        dispatch(markChosen(null));
      },
    };
  }, [session, edit, dispatch, store]);
}

export type TapeEdits = ReturnType<typeof useTapeEdits>;
