import { useState } from "react";
import { useSession } from "../hooks/context";
import { usePublished } from "../hooks/usePublished";
import { readingsOf } from "../model/runs/runTapes";
import { Button } from "../ui/Button";
import { lazily } from "../ui/lazily";

const KeepFrames = lazily(() => import("../camera/KeepFrames").then((m) => m.KeepFrames));

/** Keeps what the run's sensors read as tapes that are already marked. */
export function KeepRun() {
  const session = useSession();
  const run = usePublished(session.mentor.lastRun);
  const [kept, setKept] = useState<unknown>(null);
  const isKept = run !== null && kept === run;
  if (run?.trace.eyes.some((eye) => eye.frames !== undefined))
    return <KeepFrames run={run} kept={isKept} onKept={() => setKept(run)} />;
  const keep = () => {
    if (run === null) return;
    session.changeTapes({ did: "run kept as tapes", made: readingsOf(run), chosen: 0 });
    setKept(run);
  };
  return (
    <Button why={run === null ? "Make a run first." : isKept && "This run is kept already."} onPress={keep}>
      {isKept ? "Kept as a tape" : "Keep as a tape"}
    </Button>
  );
}
