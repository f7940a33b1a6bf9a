import type { ProjectDocument, RuleSet, TapeId } from "@perceptum/core/project";
import type { RawReadings } from "@perceptum/core/readings";
import type { SieveMemory } from "@perceptum/core/rules";
import {
  type Flips,
  flipsOf,
  type JudgedTape,
  type Judgement,
  judgeTapes,
  type MarkedTape,
  markedTapes,
  type Score,
  type SeenSpan,
  spansOf,
} from "@perceptum/core/teaching";
import { expose, transfer } from "comlink";

/** What judging needs of a project beside its rules; it changes seldom and is sent only then. */
export type JudgeGround = Pick<ProjectDocument, "sensors" | "targets" | "lights" | "tapes">;

/** Against rules that are kept: their score, and what flips. */
export interface AgainstBefore {
  score: Score;
  flips: Flips;
  tapes: [TapeId, SeenSpan[]][];
}

/** A judgement as it comes back from the worker. */
export interface Answer {
  tapes: [TapeId, JudgedTape][];
  score: Score;
  /** Against the rules as they were when the drag began, while one goes on. */
  change: Flips | null;
  before: AgainstBefore | null;
}

const raw = new Map<TapeId, RawReadings>();
let ground: JudgeGround = { sensors: [], targets: [], lights: [], tapes: [] };
let tapes: MarkedTape[] = [];
/** Of the rules that were judged last: a drag changes one feature of one rule. */
const memory: SieveMemory = new WeakMap();

/** Rules that others are compared with, and their judgement as long as tapes and marks stay. */
class Kept {
  private judgement: Judgement | null = null;
  private ruleSets: RuleSet[] | null = null;

  set(ruleSets: RuleSet[] | null): void {
    this.ruleSets = ruleSets;
    this.judgement = null;
  }

  forget(): void {
    this.judgement = null;
  }

  get(): Judgement | null {
    if (this.ruleSets === null) return null;
    this.judgement ??= judgeTapes({ ...ground, ruleSets: this.ruleSets }, tapes);
    return this.judgement;
  }
}
const before = new Kept();
const dragStart = new Kept();

/** Lays features and truth out again; blocks of readings that stayed are used again. */
function lay(): void {
  tapes = markedTapes(ground, raw);
  before.forget();
  dragStart.forget();
}

function sum(all: readonly Flips[]): Flips {
  const total: Flips = { gained: 0, lost: 0, other: 0 };
  for (const { gained, lost, other } of all) {
    total.gained += gained;
    total.lost += lost;
    total.other += other;
  }
  return total;
}

function changeSince(kept: Judgement, now: Judgement): Flips {
  return sum(
    tapes.map(({ head, truth }) => flipsOf(truth, labelsOf(kept, head.id), labelsOf(now, head.id), ground.targets)),
  );
}

const labelsOf = (judgement: Judgement, tape: TapeId) => judgement.tapes.get(tape)?.labels ?? new Uint8Array();

function against(kept: Judgement, now: Judgement): AgainstBefore {
  const flips: Flips[] = [];
  const spans = tapes.map(({ head, truth }): [TapeId, SeenSpan[]] => {
    const kinds = new Uint8Array(truth.length);
    flips.push(flipsOf(truth, labelsOf(kept, head.id), labelsOf(now, head.id), ground.targets, kinds));
    return [head.id, spansOf(kinds)];
  });
  return { score: kept.score, flips: sum(flips), tapes: spans };
}

const worker = {
  /** Takes over all readings of a project; what is not named is forgotten. */
  hold(readings: [TapeId, RawReadings][]): void {
    raw.clear();
    for (const [tape, values] of readings) raw.set(tape, values);
    lay();
  },

  /** Sets all but the rules. */
  stand(on: JudgeGround): void {
    ground = on;
    lay();
  },

  /** Keeps rules to compare with: those that the person kept, or those at the beginning of a drag. */
  keep(which: "before" | "drag", ruleSets: RuleSet[] | null): void {
    (which === "before" ? before : dragStart).set(ruleSets);
  },

  judge(ruleSets: RuleSet[]): Answer {
    const now = judgeTapes({ ...ground, ruleSets }, tapes, memory);
    const [kept, start] = [before.get(), dragStart.get()];
    const answer: Answer = {
      tapes: [...now.tapes],
      score: now.score,
      change: start && changeSince(start, now),
      before: kept && against(kept, now),
    };
    return transfer(
      answer,
      answer.tapes.flatMap(([, tape]) => [tape.labels.buffer, tape.seen.buffer]),
    );
  },
};

export type JudgeWorker = typeof worker;
expose(worker);
