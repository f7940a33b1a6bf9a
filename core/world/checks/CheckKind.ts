import type * as z from "zod";
import type { NameOf, NameVisitor } from "../../behaviour";
import type { TargetId } from "../../names";
import type { PhraseReader } from "../../phrases";
import type { Trace } from "../trace";

/** How a check came out. `not reached`: the run did not come far enough to tell. */
export type Outcome = "holds" | "does not" | "not reached";

/** How people are told of an outcome. */
export const OUTCOME_WORDS: Readonly<Record<Outcome, string>> = {
  holds: "holds",
  "does not": "fails",
  "not reached": "not decided",
};

export interface Verdict {
  outcome: Outcome;
  /** A figure like `2/2` or `1 time`. */
  figure: string;
  /** When it was decided, in ms; undefined where it never was. */
  t?: number;
  /** Of one that does not hold or was not reached: why, with figures. */
  why?: string;
}

/** What a new check can name. */
export interface CheckNames {
  targets: readonly TargetId[];
  backgrounds: readonly TargetId[];
  counters: readonly string[];
  zones: readonly string[];
  lamps: readonly string[];
  servos: readonly string[];
  crates: readonly string[];
}

/** One kind of check, whole: how it is kept, what it says, and how a trace is judged. */
export interface CheckKind<C> {
  /** The key by which its objects are known. */
  key: string;
  schema: z.ZodType<C>;
  /** The kinds of course on which it is offered; a kind without this on all of them. */
  courses?: readonly string[];
  /** It goes by what one sensor sees, the first where none is named: `left-eye: sees coral`. */
  bySensor?: true;
  /** What the menu of checks calls it. */
  word: string;
  /** One to begin with, from the names that there are; undefined where the project lacks what it needs. */
  fresh(names: CheckNames): C | undefined;
  /** Reads its phrase; undefined where the phrase is not of this kind. */
  parse(reader: PhraseReader): C | undefined;
  /** The canonical phrase: `parse` gives back an equal check. */
  print(check: C): string;
  /** A sentence about the run, with the targets' names. */
  sentence(check: C, name: NameOf): string;
  /** @param name the names that people use, for the reason */
  judge(check: C, trace: Trace, name: NameOf): Verdict;
  /** The same with every name as the visitor gives it; a kind without this names nothing. */
  named?(check: C, visit: NameVisitor): C;
}
