import type { ProjectDocument } from "@perceptum/core/project";
import type { Sensor } from "@perceptum/core/readings";
import type { RunChoice } from "@perceptum/core/world";
import { useEffect, useRef, useState } from "react";
import { useSession } from "../hooks/context";
import { useProject } from "../hooks/project";
import { WorkerGone, WorkerLink } from "../model/WorkerLink";
import { amount } from "../ui/amount";
import { Button } from "../ui/Button";
import type { BehaviourProof } from "../workers/behaviourProof";
import type { ProofWorker } from "../workers/proof.worker";
import type { Proof } from "../workers/proofOf";

const LIMIT_MS = 120_000;

type State = Proof | BehaviourProof | "going on" | { wrong: string } | null;

/**
 * Runs the code in JavaScript over all tapes and says how far it agrees with this program: the rules of some sensors, or
 * without them the behaviour, which is also run on the course of the last run.
 */
export function ProveFile({ sensors }: { sensors: readonly Sensor[] | null }) {
  const { readings, mentor, surroundings } = useSession();
  const project = useProject();
  const [state, setState] = useState<State>(null);
  const link = useRef<WorkerLink<ProofWorker> | null>(null);
  useEffect(() => () => link.current?.end(), []);
  // A change makes a proof worthless, also one that is still going on.
  useEffect(() => {
    setState(null);
    link.current?.end();
    link.current = null;
  }, [project, sensors]);

  const prove = async () => {
    setState("going on");
    link.current?.end();
    const own = new WorkerLink<ProofWorker>(() => surroundings.startWorker("proof"), { limitMs: LIMIT_MS });
    link.current = own;
    try {
      const tapes = [...readings.all];
      const proof = await own.ask(
        (remote): Promise<Proof | BehaviourProof> =>
          sensors === null
            ? remote.behaviour(project, tapes, runOf(project, mentor.lastRun.get()?.choice))
            : remote.rules(project, sensors, tapes),
      );
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
      <span role="status" style={{ flex: 1, minWidth: 0, fontSize: 12, whiteSpace: "normal" }}>
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
  if (other !== null)
    return `It differs: ${other.where} it is ${other.file} by the file, ${other.core} by this program.`;
  const over = `${amount(readings, "reading")} of ${tapes === 1 ? "one tape" : `${tapes} tapes`}`;
  if ("course" in state) {
    const ran = state.course === null ? "" : `${readings === 0 ? "" : " and "}a run on ${state.course}`;
    if (readings === 0 && ran === "")
      return "There is neither a reading of the robot's sensors nor a course to prove it by.";
    const counts = `${amount(state.commands, "command")} and ${amount(state.notes, "note")}`;
    return `Proved in JavaScript: what is seen, ${counts} agree for ${readings === 0 ? "" : `all ${over}`}${ran}.`;
  }
  if (readings === 0) return "There is no reading of these sensors to prove it by. Record one on Sense.";
  return `Proved in JavaScript: label and seen agree for all ${over}.`;
}

/** The run that a behaviour is proved by: as the last one was, or on the first course. */
function runOf({ courses, lights }: ProjectDocument, last: RunChoice | undefined): RunChoice | null {
  const [first] = courses;
  if (first === undefined) return null;
  const course = courses.find(({ id, name }) => id === last?.course || name === last?.course);
  const isThere =
    last !== undefined &&
    course !== undefined &&
    (last.start === undefined || course.starts.some(({ name }) => name === last.start)) &&
    (last.light === undefined || lights.some(({ id, name }) => id === last.light || name === last.light));
  return isThere ? last : { course: first.id };
}
