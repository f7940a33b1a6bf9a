import type { TapeId } from "../names";
import type { Light } from "../readings";
import {
  classifyBlock,
  type Labels,
  type RuleSet,
  ruleSetOf,
  type SieveMemory,
  steadyBlock,
  type Target,
} from "../rules";
import type { MarkedTape } from "./marked";
import { addToScore, emptyScore, type Score } from "./score";

/** A tape judged: each reading's label and what was seen after it, and where what is seen changes. */
export interface JudgedTape {
  labels: Labels;
  seen: Labels;
  spans: SeenSpan[];
}

/** A stretch, by reading index, over which one target is seen. */
export interface SeenSpan {
  from: number;
  to: number;
  target: number;
}

/** All tapes of a project judged by its rules, with one score over all marked readings. */
export interface Judgement {
  tapes: Map<TapeId, JudgedTape>;
  score: Score;
}

/** Judges every tape by the rule set of its sensor; with a `memory` of the last rules sooner. */
export function judgeTapes(
  project: { ruleSets: readonly RuleSet[]; targets: readonly Target[]; lights: readonly Light[] },
  tapes: readonly MarkedTape[],
  memory?: SieveMemory,
): Judgement {
  const targets = project.targets.map((t) => t.id);
  const score = emptyScore(targets.length);
  const judged = new Map<TapeId, JudgedTape>();
  for (const tape of tapes) {
    const ruleSet = ruleSetOf(project, tape.sensor);
    const labels = classifyBlock(ruleSet, tape.block, targets, memory);
    const seen = steadyBlock(labels, ruleSet.steady);
    addToScore(score, tape, labels, project.targets, project.lights);
    judged.set(tape.head.id, { labels, seen, spans: spansOf(seen) });
  }
  return { tapes: judged, score };
}

/** The stretches of one value other than 0. */
export function spansOf(values: Uint8Array): SeenSpan[] {
  const spans: SeenSpan[] = [];
  for (let from = 0; from < values.length; ) {
    let to = from;
    while (to + 1 < values.length && values[to + 1] === values[from]) to++;
    if (values[from] !== 0) spans.push({ from, to, target: values[from] });
    from = to + 1;
  }
  return spans;
}
