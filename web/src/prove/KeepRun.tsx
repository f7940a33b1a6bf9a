import type { TapeId } from "@perceptum/core/names";
import { tapeOfRun } from "@perceptum/core/world";
import { useState } from "react";
import { useSession } from "../session/context";
import { usePublished } from "../session/Published";
import { Button } from "../ui/Button";

/** Keeps the run's readings as a tape that is already marked. */
export function KeepRun() {
  const session = useSession();
  const run = usePublished(session.mentor.lastRun);
  const [kept, setKept] = useState<unknown>(null);

  const keep = () => {
    if (run === null) return;
    const { trace } = run;
    const light = run.project.lights.find((l) => l.id === trace.light)?.name ?? trace.light;
    const name = `Run on ${trace.course.name}, ${light.toLowerCase()}, seed ${trace.seed}`;
    const { head, readings } = tapeOfRun(trace, "run" as TapeId, name);
    session.changeTapes({ what: "keeping a run as a tape", made: [{ ...head, readings }] });
    setKept(run);
  };
  const isKept = run !== null && kept === run;
  return (
    <Button why={run === null ? "Make a run first." : isKept && "This run is kept as a tape already."} onPress={keep}>
      {isKept ? "Kept as a tape" : "Keep as a tape"}
    </Button>
  );
}
