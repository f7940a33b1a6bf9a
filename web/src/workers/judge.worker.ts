import type { RuleSet } from "@perceptum/core/rules";
import { expose, transfer } from "comlink";
import { type Answer, Judge } from "./Judge";

/** The judge in a thread of its own; its labels are handed over, not copied. */
class JudgeInWorker extends Judge {
  override judge(ruleSets: RuleSet[]): Answer {
    const answer = super.judge(ruleSets);
    return transfer(
      answer,
      answer.tapes.flatMap(([, { labels, seen }]) => [labels.buffer, seen.buffer]),
    );
  }
}

export type JudgeWorker = Judge;
expose(new JudgeInWorker());
