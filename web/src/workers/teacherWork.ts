import type { RuleSetId, TapeId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import type { RawReadings } from "@perceptum/core/readings";
import type { RuleSet } from "@perceptum/core/rules";
import {
  compareMethods,
  type DoubtfulStretch,
  doubtfulStretches,
  type LightTrial,
  leaveOneLightOut,
  type MethodsCompared,
  markedTapes,
  nearestFromMarks,
  type Suggestion,
  sampleOf,
  suggest,
} from "@perceptum/core/teaching";

/** A suggestion, tried light by light, and how the nearest method would do beside it. */
export interface Suggested {
  suggestion: Suggestion;
  trials: LightTrial[];
  methods: MethodsCompared;
  /** The nearest method made from all marks, to be taken instead. */
  nearest: RuleSet["nearest"];
  /** Stretches whose marks look wrong. */
  doubtful: DoubtfulStretch[];
}

/** Suggestions from marks. */
export const teacherWork = {
  suggest(project: ProjectDocument, readings: [TapeId, RawReadings][], ruleSet: RuleSetId): Suggested {
    const tapes = markedTapes(project, new Map(readings)).filter((tape) => tape.sensor.ruleSet === ruleSet);
    const sample = sampleOf(project, tapes, ruleSet);
    const suggestion = suggest(sample);
    const own = project.ruleSets.find((set) => set.id === ruleSet);
    const trials = leaveOneLightOut(sample);
    return {
      suggestion,
      trials,
      methods: compareMethods(sample, suggestion, trials),
      nearest: own ? nearestFromMarks(own, sample).nearest : { references: [], reject: 1 },
      doubtful: doubtfulStretches(project, tapes, ruleSet),
    };
  },
};
