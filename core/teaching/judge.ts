import type { TapeId } from "../names";
import type { Light } from "../readings";
import {
  classifyBlock,
  classifyBlockAgain,
  type Labels,
  type RuleSet,
  ruleSetOf,
  type SeenSpan,
  SieveMemory,
  SteadyAgain,
  spansOf,
  steadyBlock,
  type Target,
} from "../rules";
import { FlipCounts, type Flips } from "./flips";
import type { MarkedTape } from "./marked";
import { addToScore, emptyScore, retally, type Score, type Tally, tally } from "./score";

/** A tape judged: each reading's label and what was seen after it, and where what is seen changes. */
export interface JudgedTape {
  labels: Labels;
  seen: Labels;
  spans: SeenSpan[];
}

/** All tapes of a project judged by its rules, with one score over all marked readings. */
export interface Judgement {
  tapes: Map<TapeId, JudgedTape>;
  score: Score;
}

/** What of a project judging needs beside tapes. */
export interface JudgedBy {
  ruleSets: readonly RuleSet[];
  targets: readonly Target[];
  lights: readonly Light[];
}

/** Judges every tape by the rule set of its sensor. */
export function judgeTapes(project: JudgedBy, tapes: readonly MarkedTape[]): Judgement {
  const targets = project.targets.map((t) => t.id);
  const score = emptyScore(targets.length);
  const judged = new Map<TapeId, JudgedTape>();
  for (const tape of tapes) {
    const ruleSet = ruleSetOf(project, tape.sensor);
    const labels = classifyBlock(ruleSet, tape.block, targets);
    const seen = steadyBlock(labels, ruleSet.steady);
    addToScore(score, tally(tape, labels, project), project);
    judged.set(tape.head.id, { labels, seen, spans: spansOf(seen) });
  }
  return { tapes: judged, score };
}

/** Judges the same tapes over and over: what a change of rules does not touch is not judged again. */
export class JudgeAgain {
  private readonly sieves = new SieveMemory();
  private readonly known = new WeakMap<MarkedTape, TapeAgain>();

  /** The same as by `judgeTapes`; labels and seen are copies. */
  judge(project: JudgedBy, tapes: readonly MarkedTape[]): Judgement {
    const score = emptyScore(project.targets.length);
    const judged = new Map<TapeId, JudgedTape>();
    for (const tape of tapes) judged.set(tape.head.id, this.of(tape).judge(project, this.sieves, score));
    return { tapes: judged, score };
  }

  /** What the labels that were judged last gain and lose against others, as `flipsOf` says. */
  flips(tape: MarkedTape, before: Uint8Array, targets: readonly Target[]): Flips {
    return this.of(tape).flips(before, targets);
  }

  private of(tape: MarkedTape): TapeAgain {
    const known = this.known.get(tape) ?? new TapeAgain(tape);
    this.known.set(tape, known);
    return known;
  }
}

/** One tape that is judged over and over. */
class TapeAgain {
  private readonly steady: SteadyAgain;
  private labels = new Uint8Array();
  private tally: Tally | null = null;
  private by: Pick<JudgedBy, "targets" | "lights"> | null = null;
  private flipped: { before: Uint8Array; targets: readonly Target[]; counts: FlipCounts } | null = null;

  constructor(private readonly tape: MarkedTape) {
    this.steady = new SteadyAgain(tape.block.length);
  }

  judge(project: JudgedBy, sieves: SieveMemory, score: Score): JudgedTape {
    const { tape, by, flipped } = this;
    const ruleSet = ruleSetOf(project, tape.sensor);
    const ids = project.targets.map((t) => t.id);
    const { labels, changed } = classifyBlockAgain(ruleSet, tape.block, ids, sieves);
    // Where another method judged in between, what changed is not told from what was counted here.
    const alike = changed !== null && labels === this.labels && by?.targets === project.targets;
    const steps = alike ? changed : null;
    this.steady.take(labels, ruleSet.steady, steps?.at ?? null);
    if (steps === null || this.tally === null || by?.lights !== project.lights)
      this.tally = tally(tape, labels, project);
    else retally(this.tally, tape, labels, steps, project);
    if (flipped !== null) {
      if (steps === null) this.flipped = null;
      else flipped.counts.change(steps, labels);
    }
    this.labels = labels;
    this.by = project;
    addToScore(score, this.tally, project);
    return { labels: labels.slice(), seen: this.steady.seen.slice(), spans: this.steady.spans() };
  }

  flips(before: Uint8Array, targets: readonly Target[]): Flips {
    if (this.flipped?.before !== before || this.flipped.targets !== targets)
      this.flipped = { before, targets, counts: new FlipCounts(this.tape.truth, before, this.labels, targets) };
    return this.flipped.counts.flips;
  }
}
