import type { RuleSetId, TapeId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import type { RawReadings } from "@perceptum/core/readings";
import type { RuleSet } from "@perceptum/core/rules";
import {
  type DoubtfulStretch,
  doubtfulStretches,
  judgeTapes,
  type LightTrial,
  leaveOneLightOut,
  markedTapes,
  nearestFromMarks,
  nearestLeftOut,
  type Suggestion,
  sampleOf,
  shareOfTrials,
  suggest,
} from "@perceptum/core/teaching";
import { expose } from "comlink";

/** A suggestion, tried light by light, and how the nearest method would do beside it. */
export interface Suggested {
  suggestion: Suggestion;
  trials: LightTrial[];
  /** The share judged rightly in lights that were left out: by the bands, and by references; NaN with one light. */
  leftOut: { bands: number; nearest: number };
  /** The nearest method made from all marks, to be taken instead. */
  nearest: RuleSet["nearest"];
  /** Where marks look wrong. */
  doubtful: DoubtfulStretch[];
  /** Marked readings judged rightly by the suggested bands, and by references from marks. */
  bandsRight: number;
  nearestRight: number;
}

const worker = {
  suggest(project: ProjectDocument, readings: [TapeId, RawReadings][], ruleSet: RuleSetId): Suggested {
    const tapes = markedTapes(project, new Map(readings)).filter((tape) => tape.sensor.ruleSet === ruleSet);
    const sample = sampleOf(project, tapes, ruleSet);
    const suggestion = suggest(sample);
    const own = project.ruleSets.find((set) => set.id === ruleSet);
    const rightBy = (set: typeof own) => (set ? judgeTapes({ ...project, ruleSets: [set] }, tapes).score.right : 0);
    const trials = leaveOneLightOut(sample);
    return {
      suggestion,
      trials,
      leftOut: { bands: shareOfTrials(trials), nearest: shareOfTrials(nearestLeftOut(sample)) },
      nearest: own ? nearestFromMarks(own, sample).nearest : { references: [], reject: 1 },
      doubtful: doubtfulStretches(project, tapes, ruleSet),
      bandsRight: rightBy(own && { ...own, method: "bands", rules: suggestion.rules.map((r) => r.rule) }),
      nearestRight: rightBy(own && nearestFromMarks(own, sample)),
    };
  },
};

export type TeacherWorker = typeof worker;
expose(worker);
