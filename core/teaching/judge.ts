import type { TapeId, TargetId } from "../project/ids";
import type { ProjectDocument, Rule, RuleSet } from "../project/schema";
import type { ReadingBlock } from "../readings";
import { classifyBlock, type Labels, steadyBlock } from "../rules";
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

/**
 * Which readings of which tape each rule matched when it was last asked. While one bound is dragged all other rules
 * stay as they are, and only the one is asked again.
 */
export class JudgeMemory {
  private known = new Map<string, { block: ReadingBlock; matches: Labels }>();
  private used = new Map<string, { block: ReadingBlock; matches: Labels }>();

  /** The readings that a rule matches (1), made anew only if the rule or the block is another. */
  matchesOf(ruleSet: RuleSet, rule: Rule, tape: MarkedTape): Labels {
    const key = `${tape.head.id} ${JSON.stringify(rule.any)}`;
    let entry = this.known.get(key) ?? this.used.get(key);
    if (entry === undefined || entry.block !== tape.block) {
      const alone = { ...ruleSet, rules: [{ ...rule, on: true }] };
      entry = { block: tape.block, matches: classifyBlock(alone, tape.block, [rule.target]) };
    }
    this.used.set(key, entry);
    return entry.matches;
  }

  /** Forgets what the last judgement did not use. */
  settle(): void {
    this.known = this.used;
    this.used = new Map();
  }
}

/** The labels of a tape, put together from what each rule matches; the same as by `classifyBlock`. */
function labelsOf(ruleSet: RuleSet, tape: MarkedTape, targets: readonly TargetId[], memory: JudgeMemory): Labels {
  const labels = new Uint8Array(tape.block.length);
  // From the last rule to the first, so that the first that matches has the last word.
  for (const rule of ruleSet.rules.toReversed()) {
    if (!rule.on) continue;
    const label = targets.indexOf(rule.target) + 1;
    const matches = memory.matchesOf(ruleSet, rule, tape);
    for (let i = 0; i < labels.length; i++) if (matches[i] !== 0) labels[i] = label;
  }
  return labels;
}

/** Judges every tape by the rule set of its sensor; with a memory, only what changed since is worked out again. */
export function judgeTapes(
  project: Pick<ProjectDocument, "sensors" | "ruleSets" | "targets">,
  tapes: readonly MarkedTape[],
  memory?: JudgeMemory,
): Judgement {
  const targets = project.targets.map((t) => t.id);
  const score = emptyScore(targets.length);
  const judged = new Map<TapeId, JudgedTape>();
  for (const tape of tapes) {
    const ruleSet = ruleSetOf(project, tape);
    const labels = memory ? labelsOf(ruleSet, tape, targets, memory) : classifyBlock(ruleSet, tape.block, targets);
    const seen = steadyBlock(labels, ruleSet.steady);
    addToScore(score, tape.truth, labels, project.targets);
    judged.set(tape.head.id, { labels, seen, spans: spansOf(seen) });
  }
  memory?.settle();
  return { tapes: judged, score };
}

/** The rule set by which a tape's sensor sees. */
export function ruleSetOf(project: Pick<ProjectDocument, "sensors" | "ruleSets">, tape: MarkedTape): RuleSet {
  const sensor = project.sensors.find((s) => s.id === tape.head.sensor);
  return project.ruleSets.find((set) => set.id === sensor?.ruleSet) as RuleSet;
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
