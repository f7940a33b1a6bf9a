import { LANGUAGES, writeBehaviour, writeRules } from "@perceptum/core/code";
import type { ProjectDocument } from "@perceptum/core/project";
import type { RawReadings, Sensor } from "@perceptum/core/readings";
import type { RunChoice } from "@perceptum/core/world";
import { expose } from "comlink";
import { type BehaviourProof, behaviourProof } from "./behaviourProof";
import { type Proof, proofOf } from "./proofOf";

const javascript = LANGUAGES.find(({ key }) => key === "javascript") as (typeof LANGUAGES)[number];

/** Writes files in JavaScript and runs them. The server lets this worker, and nothing else, run what is written. */
const worker = {
  rules: (project: ProjectDocument, sensors: readonly Sensor[], readings: [string, RawReadings][]): Proof =>
    proofOf(writeRules(javascript, project, sensors), project, sensors, new Map(readings)),
  behaviour: (project: ProjectDocument, readings: [string, RawReadings][], choice: RunChoice | null): BehaviourProof =>
    behaviourProof(writeBehaviour(javascript, project), project, new Map(readings), choice),
};

export type ProofWorker = typeof worker;
expose(worker);
