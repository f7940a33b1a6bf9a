import {
  freeId,
  type Mark,
  type ProjectDocument,
  type SensorId,
  type TapeHead,
  type TapeId,
} from "@perceptum/core/project";
import { joinTapes, type MarkedReadings, splitTape, trimTape } from "@perceptum/core/readings";
import { useCallback, useMemo, useState } from "react";
import { useStore } from "react-redux";
import { holdReadings } from "../state/judged";
import { useEdit } from "../state/project";
import { readingStore } from "../state/readings";
import { type AppState, useAppDispatch } from "../state/store";
import { markChosen, tapeChosen, windowChosen } from "../state/view";

/** A tape that is to be added: its readings go to the server under an id of their own. */
export interface NewTape extends MarkedReadings {
  name: string;
  sensor: SensorId;
  origin: TapeHead["origin"];
}

const cutName = (name: string) => name.slice(0, 80);

/**
 * Changes of tapes. Readings are never overwritten: what is cut or joined is kept as a new tape, which takes the place
 * of the old one in the document, so that undo brings the old one back.
 */
export function useTapeEdits() {
  const store = useStore<AppState>();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const [wrong, setWrong] = useState<string>();

  /** Keeps new tapes in the place of others; false where the server did not take them. */
  const replace = useCallback(
    async (
      what: string,
      made: readonly NewTape[],
      gone: readonly TapeId[] = [],
      alongside?: (p: ProjectDocument) => ProjectDocument,
    ) => {
      const { id, present } = store.getState().document;
      if (id === null || present === null) return false;
      const taken = [...readingStore.all.keys(), ...present.tapes.map((t) => t.id)] as string[];
      const heads: TapeHead[] = [];
      try {
        for (const { name, sensor, origin, readings, marks } of made) {
          const tape = freeId<TapeId>(name, taken);
          taken.push(tape);
          await readingStore.keep(id, tape, readings);
          heads.push({ id: tape, name: cutName(name), sensor, origin, marks });
        }
        holdReadings();
      } catch (error) {
        setWrong(`${(error as Error).message}. Nothing was changed; try again.`);
        return false;
      }
      edit(what, (project) => {
        const p = alongside ? alongside(project) : project;
        const at = p.tapes.findIndex((t) => gone.includes(t.id));
        const left = p.tapes.filter((t) => !gone.includes(t.id));
        const place = at < 0 ? left.length : at;
        return { ...p, tapes: left.toSpliced(place, 0, ...heads) };
      });
      if (heads.length > 0) dispatch(tapeChosen(heads[heads.length - 1].id));
      setWrong(undefined);
      return true;
    },
    [store, edit, dispatch],
  );

  return useMemo(() => {
    const whole = (tape: TapeHead): NewTape | undefined => {
      const readings = readingStore.get(tape.id);
      return readings && { name: tape.name, sensor: tape.sensor, origin: tape.origin, readings, marks: tape.marks };
    };
    const setMarks = (tape: TapeId, what: string, change: (marks: Mark[]) => Mark[], gesture?: string) =>
      edit(
        what,
        (p) => ({ ...p, tapes: p.tapes.map((t) => (t.id === tape ? { ...t, marks: change(t.marks) } : t)) }),
        gesture,
      );
    return {
      wrong,
      add: (what: string, tape: NewTape, alongside?: (p: ProjectDocument) => ProjectDocument) =>
        replace(what, [tape], [], alongside),
      rename: (tape: TapeHead, name: string) =>
        edit("renaming a tape", (p) => ({ ...p, tapes: p.tapes.map((t) => (t.id === tape.id ? { ...t, name } : t)) })),
      trim: async (tape: TapeHead, from: number, to: number) => {
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
            { ...all, ...b, name: `${cutName(tape.name).slice(0, 70)}, part 2` },
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
        return (
          all && replace(`duplicating ${tape.name}`, [{ ...all, name: `${cutName(tape.name).slice(0, 70)}, copy` }])
        );
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
  }, [wrong, replace, edit, dispatch, store]);
}

export type TapeEdits = ReturnType<typeof useTapeEdits>;
