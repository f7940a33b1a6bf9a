import { LANGUAGES, writeRules } from "@perceptum/core/code";
import type { ProjectDocument } from "@perceptum/core/project";
import type { RawReadings, Sensor } from "@perceptum/core/readings";
import { expose } from "comlink";
import { type Proof, proofOf } from "../ship/prove";

const javascript = LANGUAGES.find(({ key }) => key === "javascript");

const worker = {
  /** Writes the file in JavaScript and runs it. The server lets this worker, and nothing else, run what is written. */
  prove(project: ProjectDocument, sensors: readonly Sensor[], readings: [string, RawReadings][]): Proof {
    if (javascript === undefined) throw new Error("JavaScript is not written");
    return proofOf(writeRules(javascript, project, sensors), project, sensors, new Map(readings));
  },
};

export type ProofWorker = typeof worker;
expose(worker);
