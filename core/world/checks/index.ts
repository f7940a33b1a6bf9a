import type { NameKind, NameOf, NameVisitor, PhraseWords } from "../../behaviour";
import { zodProblem } from "../../names";
import { type Names, type PhraseProblem, type PhraseReader, parsePhrase } from "../../phrases";
import type { Trace } from "../trace";
import type { Verdict } from "./CheckKind";
import { CHECK_KINDS, type Check, checkKindOf } from "./schema";

export { type CheckNames, OUTCOME_WORDS, type Outcome, type Verdict } from "./CheckKind";
export { CHECK_KINDS, Check, checkKindOf, ListedCheck } from "./schema";

/** What a check says, with the targets' names. */
export function checkSentence(check: Check, name: NameOf): string {
  return checkKindOf(check).sentence(check, name);
}

/** The check with another name for a thing that it names. */
export const renamedInCheck = <C extends Check>(check: C, kind: NameKind, from: string, to: string): C =>
  namedCheck(check, (k, id) => (k === kind && id === from ? (to as typeof id) : id));

/** The same check with every name as the visitor gives it; in a list it stays the same thing. */
export function namedCheck<C extends Check>(check: C, visit: NameVisitor): C {
  const made = checkKindOf(check).named?.(check, visit);
  return made === undefined ? check : ({ ...made, ...("id" in check && { id: check.id }) } as C);
}

/** What things of a kind a check names. */
export function namedIn(check: Check, kind: NameKind): string[] {
  const names: string[] = [];
  checkKindOf(check).named?.(check, (k, id) => {
    if (k === kind) names.push(id);
    return id;
  });
  return names;
}

/** How a check came out on a run; its reason names things as `name` does. */
export function judgeCheck(check: Check, trace: Trace, name: NameOf = (id) => id): Verdict {
  return checkKindOf(check).judge(check, trace, name);
}

/** The canonical phrase of a check: `answers every coral once`. */
export function printCheck(check: Check): string {
  return checkKindOf(check).print(check);
}

/** The phrase of a check as people see it. */
export const shownCheck = (check: Check, { show }: PhraseWords): string =>
  printCheck(checkKindOf(check).named?.(check, show) ?? check);

/** Reads a check's phrase. */
export function parseCheck(phrase: string, names: Names): { value: Check } | { problem: PhraseProblem } {
  return parsePhrase(phrase, names, parseCheckFrom);
}

/** Reads a check where a reader stands. */
export function parseCheckFrom(reader: PhraseReader): Check {
  const sensor = reader.skipSensor();
  for (const kind of CHECK_KINDS) {
    const read = sensor === undefined || kind.bySensor ? kind.parse(reader) : undefined;
    if (read === undefined) continue;
    const check = sensor === undefined ? read : ({ ...read, sensor } as Check);
    // A file keeps any check that is read.
    const kept = kind.schema.safeParse(check);
    if (!kept.success) reader.refuse(zodProblem(kept.error));
    return check;
  }
  return reader.fail(
    sensor === undefined
      ? "sees, answers, never answers, ends on, stops within or another check"
      : "sees or shuttles, which go by a sensor,",
  );
}
