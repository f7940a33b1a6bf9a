import type { TapeId } from "@perceptum/core/names";
import { tapeOfRun } from "@perceptum/core/world";
import { useState } from "react";
import { useSession } from "../session/context";
import type { LastRun } from "../session/Mentor";
import { usePublished } from "../session/Published";
import { Button } from "../ui/Button";
import { lazily } from "../ui/lazily";

const KeepFrames = lazily(() => import("../camera/KeepFrames").then((m) => m.KeepFrames));

/** Keeps the run's readings as a tape that is already marked. */
export function KeepRun() {
  const session = useSession();
  const run = usePublished(session.mentor.lastRun);
  const [kept, setKept] = useState<unknown>(null);

  const nameOf = ({ trace, project }: LastRun) => {
    const light = project.lights.find((l) => l.id === trace.light)?.name ?? trace.light;
    return `Run on ${trace.course.name}, ${light.toLowerCase()}, seed ${trace.seed}`;
  };
  const keep = () => {
    if (run === null) return;
    const { trace } = run;
    const name = nameOf(run);
    const { head, readings } = tapeOfRun(trace, "run" as TapeId, name);
    session.changeTapes({ what: "keeping a run as a tape", made: [{ ...head, readings }] });
    setKept(run);
  };
  const isKept = run !== null && kept === run;
  if (run?.trace.eyes[0].frames !== undefined)
    return <KeepFrames run={run} name={nameOf(run)} kept={isKept} onKept={() => setKept(run)} />;
  return (
    <Button why={run === null ? "Make a run first." : isKept && "This run is kept as a tape already."} onPress={keep}>
      {isKept ? "Kept as a tape" : "Keep as a tape"}
    </Button>
  );
}
