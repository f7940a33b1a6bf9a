import { freeId, type TapeId } from "@perceptum/core/project";
import { tapeOfRun } from "@perceptum/core/world";
import { useState } from "react";
import { holdReadings, lastRun } from "../state/judged";
import { usePublished } from "../state/Published";
import { useEdit, useProject } from "../state/project";
import { readingStore } from "../state/readings";
import { useAppSelector } from "../state/store";
import { Button } from "../ui/Button";
import { Wrong } from "../ui/EntryField";

/** Keeps the run's readings as a tape that is already marked. */
export function KeepRun() {
  const run = usePublished(lastRun);
  const project = useProject();
  const id = useAppSelector((state) => state.document.id);
  const edit = useEdit();
  const [wrong, setWrong] = useState<string>();
  const [kept, setKept] = useState<{ run: unknown; tape: TapeId }>();

  const keep = async () => {
    if (run === null || id === null) return;
    const { trace } = run;
    const light = run.project.lights.find((l) => l.id === trace.light)?.name ?? trace.light;
    const name = `Run on ${trace.course.name}, ${light.toLowerCase()}, seed ${trace.seed}`.slice(0, 80);
    const tape = freeId<TapeId>(name, [...readingStore.all.keys()]);
    const { head, readings } = tapeOfRun(trace, tape, name);
    try {
      await readingStore.keep(id, tape, readings);
      holdReadings();
      edit("keeping a run as a tape", (p) => ({ ...p, tapes: [...p.tapes, head] }));
      setKept({ run, tape });
      setWrong(undefined);
    } catch (error) {
      setWrong(`The tape could not be kept: ${(error as Error).message}. The run is still here; try again.`);
    }
  };
  const known = kept?.run === run && project.tapes.some((tape) => tape.id === kept?.tape);
  return (
    <>
      <Button isDisabled={run === null || known} onPress={() => void keep()}>
        {known && run !== null ? "Kept as a tape" : "Keep as a tape"}
      </Button>
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
    </>
  );
}
