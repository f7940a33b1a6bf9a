import type { TapeId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import { Blocks, type RawReadings } from "@perceptum/core/readings";
import { type RuleSet, type SeenSpan, spansOf } from "@perceptum/core/rules";
import {
  type Flips,
  figuresOf,
  flipsOf,
  JudgeAgain,
  type JudgedTape,
  type Judgement,
  judgeTapes,
  type MarkedTape,
  markedTapes,
  type ScoreFigures,
} from "@perceptum/core/teaching";

/** What judging needs of a project beside its rules; it changes seldom and is sent only then. */
export type JudgeGround = Pick<ProjectDocument, "sensors" | "targets" | "lights" | "tapes">;

/** Against rules that are kept: their score, and what flips. */
export interface AgainstBefore {
  score: ScoreFigures;
  flips: Flips;
  tapes: [TapeId, SeenSpan[]][];
}

/** A judgement as it comes back from the worker. */
export interface Answer {
  tapes: [TapeId, JudgedTape][];
  score: ScoreFigures;
  /** Against the rules as they were when the drag began, while one goes on. */
  change: Flips | null;
  before: AgainstBefore | null;
}

const NOTHING: JudgeGround = { sensors: [], targets: [], lights: [], tapes: [] };

/** Judges all tapes of a project by its rules, over and over as they change, and compares with rules that are kept. */
export class Judge {
  private readonly raw = new Map<TapeId, RawReadings>();
  private readonly blocks = new Blocks();
  private ground = NOTHING;
  private tapes: MarkedTape[] = [];
  /** Of the rules that were judged last: a drag changes one feature of one rule. */
  private readonly again = new JudgeAgain();
  private judged: RuleSet[] | null = null;
  private readonly kept: Record<"before" | "drag", { ruleSets: RuleSet[] | null; judgement: Judgement | null }> = {
    before: { ruleSets: null, judgement: null },
    drag: { ruleSets: null, judgement: null },
  };

  /** Begins with a project's readings: nothing of one before stays. */
  begin(readings: [TapeId, RawReadings][]): void {
    this.ground = NOTHING;
    this.compareWith("before", null);
    this.compareWith("drag", null);
    this.setReadings(readings);
  }

  /** Takes over all readings of a project; what is not named is forgotten. */
  setReadings(readings: [TapeId, RawReadings][]): void {
    this.raw.clear();
    for (const [tape, values] of readings) this.raw.set(tape, values);
    this.layOut();
  }

  /** Sets all but the rules. */
  setProject(on: JudgeGround): void {
    this.ground = on;
    this.layOut();
  }

  /** Keeps rules to compare with: those that the person kept, or those at the beginning of a drag. */
  compareWith(which: "before" | "drag", ruleSets: RuleSet[] | null): void {
    this.kept[which] = { ruleSets, judgement: null };
    // A drag mostly begins at the rules that were judged last: its first move need not judge twice.
    if (which === "drag" && ruleSets !== null && JSON.stringify(ruleSets) === JSON.stringify(this.judged))
      this.kept.drag.judgement = this.again.judge({ ...this.ground, ruleSets }, this.tapes);
  }

  judge(ruleSets: RuleSet[]): Answer {
    this.judged = ruleSets;
    const now = this.again.judge({ ...this.ground, ruleSets }, this.tapes);
    const [before, start] = [this.judgementOf("before"), this.judgementOf("drag")];
    return {
      tapes: [...now.tapes],
      score: figuresOf(now.score),
      change: start && this.changeSince(start),
      before: before && this.against(before, now),
    };
  }

  /** Lays features and truth out again; blocks of readings that stayed are used again. */
  private layOut(): void {
    this.tapes = markedTapes(this.ground, this.raw, this.blocks);
    this.judged = null;
    this.kept.before.judgement = null;
    this.kept.drag.judgement = null;
  }

  /** The judgement by rules that are kept, made once as long as tapes and marks stay. */
  private judgementOf(which: "before" | "drag"): Judgement | null {
    const kept = this.kept[which];
    if (kept.ruleSets === null) return null;
    kept.judgement ??= judgeTapes({ ...this.ground, ruleSets: kept.ruleSets }, this.tapes);
    return kept.judgement;
  }

  private changeSince(kept: Judgement): Flips {
    const { targets } = this.ground;
    return sum(this.tapes.map((tape) => this.again.flips(tape, labelsOf(kept, tape.head.id), targets)));
  }

  private against(kept: Judgement, now: Judgement): AgainstBefore {
    const flips: Flips[] = [];
    const spans = this.tapes.map(({ head, truth }): [TapeId, SeenSpan[]] => {
      const kinds = new Uint8Array(truth.length);
      flips.push(flipsOf(truth, labelsOf(kept, head.id), labelsOf(now, head.id), this.ground.targets, kinds));
      return [head.id, spansOf(kinds)];
    });
    return { score: figuresOf(kept.score), flips: sum(flips), tapes: spans };
  }
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

const labelsOf = (judgement: Judgement, tape: TapeId) => judgement.tapes.get(tape)?.labels ?? new Uint8Array();
