import * as z from "zod";
import { type CheckId, CheckIdSchema, listed } from "../../names";
import { atLeastRate, crateHolds, jamsNever, losesNone, sortsEvery } from "./beltKinds";
import type { CheckKind } from "./CheckKind";
import { answersOnce, countIs, endsOn, neverAnswers, seesInOrder, within } from "./kinds";
import { endsIn, neverSlips, staysWithin, stopsWithin } from "./motionKinds";
import { lampLit, oneLamp, says, servoAt } from "./outputKinds";
import { logIs, shownIs } from "./saidKinds";
import { neverHitsEnd, shuttles, visits } from "./wayKinds";

/** Every kind of check. A new one is one more entry here. */
const KINDS = [
  seesInOrder,
  answersOnce,
  neverAnswers,
  endsOn,
  endsIn,
  stopsWithin,
  logIs,
  shownIs,
  says,
  lampLit,
  oneLamp,
  servoAt,
  countIs,
  within,
  staysWithin,
  neverSlips,
  visits,
  shuttles,
  neverHitsEnd,
  crateHolds,
  sortsEvery,
  losesNone,
  jamsNever,
  atLeastRate,
] as const;

type CheckOf<K> = K extends CheckKind<infer C> ? C : never;
/** A statement about a run that holds or not. */
export type Check = CheckOf<(typeof KINDS)[number]>;
export const Check: z.ZodType<Check> = z.union(KINDS.map((kind) => kind.schema as z.ZodType<Check>));

/** A check in a course's list. */
export type ListedCheck = Check & { id: CheckId };
export const ListedCheck: z.ZodType<ListedCheck> = listed(Check, CheckIdSchema);

/** The kinds, for menus. */
export const CHECK_KINDS = KINDS as readonly unknown[] as readonly CheckKind<Check>[];

/** The table entry of a check. */
export function checkKindOf(check: Check): CheckKind<Check> {
  const kind = CHECK_KINDS.find((k) => k.key in check);
  if (kind === undefined) throw new Error(`no kind of check has the keys ${Object.keys(check).join(", ")}`);
  return kind;
}
