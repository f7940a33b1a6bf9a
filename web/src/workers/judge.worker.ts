import type { ProjectDocument, RuleSet, TapeId } from "@perceptum/core/project";
import type { RawReadings } from "@perceptum/core/readings";
import { type JudgedTape, judgeTapes, type MarkedTape, markedTapes, type Score } from "@perceptum/core/teaching";
import { expose, transfer } from "comlink";

/** What judging needs of a project beside its rules; it changes seldom and is sent only then. */
export type JudgeGround = Pick<ProjectDocument, "sensors" | "targets" | "lights" | "tapes">;

/** A judgement as it comes back from the worker. */
export interface Answer {
  tapes: [TapeId, JudgedTape][];
  score: Score;
}

const raw = new Map<TapeId, RawReadings>();
let ground: JudgeGround = { sensors: [], targets: [], lights: [], tapes: [] };
let tapes: MarkedTape[] = [];

/** Lays features and truth out again; blocks of readings that stayed are used again. */
function lay(): void {
  tapes = markedTapes(ground, raw);
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

  judge(ruleSets: RuleSet[]): Answer {
    const { tapes: judged, score } = judgeTapes({ ...ground, ruleSets }, tapes);
    const answer: Answer = { tapes: [...judged], score };
    return transfer(
      answer,
      answer.tapes.flatMap(([, tape]) => [tape.labels.buffer, tape.seen.buffer]),
    );
  },
};

export type JudgeWorker = typeof worker;
expose(worker);
