import type { TargetId } from "../../project/ids";
import type { Trace } from "../trace";
import type { Verdict } from "./CheckKind";
import { type Check, checkKindOf } from "./schema";

export type { CheckNames, Outcome, Verdict } from "./CheckKind";
export { CHECK_KINDS, Check } from "./schema";

/** What a check says, with the targets' names. */
export function checkSentence(check: Check, name: (target: TargetId) => string): string {
  return checkKindOf(check).sentence(check, name);
}

/** How a check came out on a run. */
export function judgeCheck(check: Check, trace: Trace): Verdict {
  return checkKindOf(check).judge(check, trace);
}
