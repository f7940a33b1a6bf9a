import type { ArgsOf } from "@perceptum/core/edits";
import { cutName, type LightId, type MarkId, nextId, type TapeId } from "@perceptum/core/names";
import { joinTapes, type Mark, type Stretch, splitTape, type TapeHead, trimTape } from "@perceptum/core/readings";
import { useMemo } from "react";
import { useSession } from "../hooks/context";
import { useAppDispatch } from "../hooks/store";
import type { NewTape } from "../model/session/ProjectSession";
import { markChosen, tapeChosen, windowChosen } from "../model/store/view";

/**
 * Changes of tapes. Readings are never overwritten: what is cut or joined is kept as a new tape, which takes the place
 * of the old one in the document, so that undo brings the old one back.
 */
export function useTapeEdits() {
  const session = useSession();
  const dispatch = useAppDispatch();
  return useMemo(() => {
    const { store, do: edit } = session;
    const replace = (did: string, made: readonly NewTape[], gone: readonly TapeId[] = []) =>
      session.changeTapes({ did, made, gone });
    const whole = (tape: TapeHead): NewTape | undefined => {
      const readings = session.readings.get(tape.id);
      if (readings === undefined) return undefined;
      const { id: _, ...head } = tape;
      return { ...head, readings };
    };
    return {
      rename: (tape: TapeHead, name: string) => edit("renameTape", { tape: tape.id, name }),
      /** Notes the marks and boxes of a tape, or those in a stretch of it, in one light; undefined: in none. */
      setLight: (tape: TapeHead, light: LightId | undefined, within: Stretch | undefined) =>
        edit("setTapeLight", { tape: tape.id, light: light ?? null, ...(within && { within }) }),
      trim: (tape: TapeHead, from: number, to: number) => {
        const all = whole(tape);
        dispatch(windowChosen({ source: tape.id }));
        return all && replace(`${tape.name} trimmed`, [{ ...all, ...trimTape(all, from, to) }], [tape.id]);
      },
      cut: (tape: TapeHead, t: number) => {
        const all = whole(tape);
        if (all === undefined) return;
        const [a, b] = splitTape(all, t);
        return replace(
          `${tape.name} cut in two`,
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
          replace(`${tape.name} and ${next.name} joined`, [{ ...a, ...joinTapes([a, b], gapMs) }], [tape.id, next.id])
        );
      },
      duplicate: (tape: TapeHead) => {
        const all = whole(tape);
        return all && replace(`${tape.name} duplicated`, [{ ...all, name: cutName(tape.name, ", copy") }]);
      },
      remove: (tape: TapeHead) => {
        edit("deleteTape", { tape: tape.id });
        const left = store.getState().document.present?.tapes.at(-1);
        if (left) dispatch(tapeChosen(left.id));
      },
      addMark: (tape: TapeHead, mark: Omit<Mark, "id">) => {
        const id = nextId("mark", tape.marks);
        edit("addMark", { tape: tape.id, mark: { id, ...mark } });
        dispatch(markChosen(id));
      },
      changeMark: (tape: TapeId, mark: MarkId, change: ArgsOf<"changeMark">["change"]) =>
        edit("changeMark", { tape, mark, change }),
      splitMark: (tape: TapeHead, mark: MarkId, left: number, right: number) =>
        edit("splitMark", { tape: tape.id, mark, left, right, second: nextId("mark", tape.marks) }),
      deleteMark: (tape: TapeId, mark: MarkId) => {
        edit("deleteMark", { tape, mark });
        dispatch(markChosen(null));
      },
    };
  }, [session, dispatch]);
}

export type TapeEdits = ReturnType<typeof useTapeEdits>;
