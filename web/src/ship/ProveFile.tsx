import type { Sensor } from "@perceptum/core/readings";
import { useEffect, useRef, useState } from "react";
import { useSession } from "../session/context";
import { useProject } from "../session/project";
import { WorkerGone, WorkerLink } from "../session/WorkerLink";
import { Button } from "../ui/Button";
import type { ProofWorker } from "../workers/proof.worker";
import type { Proof } from "./prove";

const LIMIT_MS = 120_000;

type State = Proof | "going on" | { wrong: string } | null;

/** Runs the code in JavaScript over all tapes and says how far it agrees with this program. */
export function ProveFile({ sensors }: { sensors: readonly Sensor[] }) {
  const { readings } = useSession();
  const project = useProject();
  const [state, setState] = useState<State>(null);
  const link = useRef<WorkerLink<ProofWorker> | null>(null);
  useEffect(() => () => link.current?.end(), []);
  // A proof is of what was written then.
  useEffect(() => setState(null), [project, sensors]);

  const prove = async () => {
    setState("going on");
    link.current?.end();
    const own = new WorkerLink<ProofWorker>(
      () => new Worker(new URL("../workers/proof.worker.ts", import.meta.url), { type: "module" }),
      { limitMs: LIMIT_MS },
    );
    link.current = own;
    try {
      const proof = await own.ask((remote) => remote.prove(project, sensors, [...readings.all]));
      if (link.current === own) setState(proof);
    } catch (error) {
      if (link.current !== own) return;
      setState(error instanceof WorkerGone && error.wanted ? null : { wrong: (error as Error).message });
    } finally {
      own.end();
    }
  };
  return (
    <>
      <Button $small onPress={() => (state === "going on" ? link.current?.end() : void prove())}>
        {state === "going on" ? "Stop proving" : "Prove this file"}
      </Button>
      <span role="status" style={{ minWidth: 0, fontSize: 12 }}>
        {wordsOf(state)}
      </span>
    </>
  );
}

function wordsOf(state: State): string {
  if (state === null) return "";
  if (state === "going on") return "It is run over all tapes …";
  if ("wrong" in state) return `It could not be proved: ${state.wrong}. The code is as it was.`;
  const { tapes, readings, other } = state;
  if (readings === 0) return "There is no reading of these sensors to prove it by. Record one on Sense.";
  const over = `${readings.toLocaleString("en")} readings of ${tapes === 1 ? "one tape" : `${tapes} tapes`}`;
  if (other === null) return `Proved in JavaScript: label and seen agree for all ${over}.`;
  return `It differs: reading ${other.index + 1} of ${other.tape} is ${other.file} by the file, ${other.core} by this program.`;
}
