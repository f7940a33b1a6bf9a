import * as z from "zod";
import type { int, num } from "../../arithmetic";
import { lengthIn, lengthOf, type PhraseReader, printLength, printTime, timeIn } from "../../phrases";
import {
  type Condition,
  ConditionSchema,
  namedCondition,
  parseCondition,
  printCondition,
  tellCondition,
} from "../conditions";
import { holdsAt } from "../engine/ask";
import type { Engine } from "../engine/Engine";
import { stopWheels } from "../engine/outputs";
import type { NameVisitor } from "../Visitor";
import type { Begun, NameOf, StepFacts, TravelGoal, WheelSizes } from "./StepKind";

/** How long a movement lasts: time in ms, way in mm, wheel turns, or until a condition holds. */
export type Travel =
  | { ms: number; in?: "ms" | undefined }
  | { mm: number; in?: "mm" | "m" | undefined }
  | { rev: number }
  | { until: Condition };

const Amount = z.number().positive().max(10_000_000);
export const Travel: z.ZodType<Travel> = z.union([
  z.strictObject({ ms: Amount, in: timeIn }),
  z.strictObject({ mm: Amount, in: lengthIn }),
  z.strictObject({ rev: Amount }),
  z.strictObject({ until: ConditionSchema }),
]);

const AMOUNT = "a time, a way or a number of turns";

/** Reads `for 20 cm`, also in mm and m, `for 2 s`, also in ms, `for 2 rev` or `until CONDITION`; undefined where none of them stands. */
export function parseTravel(reader: PhraseReader): Travel | undefined {
  if (reader.skip("until")) return { until: parseCondition(reader) };
  if (!reader.skip("for")) return undefined;
  const amount = reader.takeAmount(AMOUNT);
  const travel = reader.timeOf(amount, AMOUNT, 0, Number.POSITIVE_INFINITY) ?? lengthOf(reader, amount);
  if (travel !== undefined) return travel;
  if (reader.skip("rev")) return { rev: amount };
  return reader.fail("s, ms, cm, mm, m or rev");
}

export function printTravel(travel: Travel | undefined): string {
  if (travel === undefined) return "";
  if ("ms" in travel) return ` for ${printTime(travel.ms, travel.in)}`;
  if ("mm" in travel) return ` for ${printLength(travel.mm, travel.in)}`;
  if ("rev" in travel) return ` for ${travel.rev} rev`;
  return ` until ${printCondition(travel.until)}`;
}

/** The same in plain words. */
export function tellTravel(travel: Travel | undefined, name: NameOf): string {
  return travel !== undefined && "until" in travel
    ? ` until ${tellCondition(travel.until, name)}`
    : printTravel(travel);
}

/** When it ends by time alone, as `endsBy` says. */
function travelEndsBy(travel: Travel | undefined, begun: Begun): number {
  if (travel === undefined) return begun.t;
  return "ms" in travel ? begun.t + travel.ms : Number.POSITIVE_INFINITY;
}

/** Way in mm is the mean of both wheels; turns are those of the wheel that went farther. */
function travelGoal(travel: Travel | undefined, { wheelMm }: WheelSizes): TravelGoal | undefined {
  if (travel === undefined || "ms" in travel || "until" in travel) return undefined;
  return "mm" in travel ? { of: "both", mm: travel.mm } : { of: "farther", mm: travel.rev * Math.PI * wheelMm };
}

/** Ends of a travel in rows: none, after ms, after mm of both wheels, after turns of one, or by a condition. */
const NONE = 0;
const BY_TIME = 1;
const BY_WAY = 2;
const BY_TURNS = 3;
const BY_CONDITION = 4;

/** The arguments `by` and `amount` of a row. */
export function travelArgs(travel: Travel | undefined): [by: number, amount: number] {
  if (travel === undefined) return [NONE, 0];
  if ("ms" in travel) return [BY_TIME, travel.ms];
  if ("mm" in travel) return [BY_WAY, travel.mm];
  return "rev" in travel ? [BY_TURNS, travel.rev] : [BY_CONDITION, 0];
}

/** The condition that stands behind a row. */
export const travelUntil = (travel: Travel | undefined): { conditions?: Condition } =>
  travel !== undefined && "until" in travel ? { conditions: travel.until } : {};

/** Tells whether a travel is over; way is the mean of both wheels, turns are those of the wheel that went farther. */
export function isOver(e: Engine, by: int, amount: num, until: int): boolean {
  if (by === NONE) return true;
  if (by === BY_TIME) return e.now - e.sinceAt >= amount;
  if (by === BY_CONDITION) return holdsAt(e, until);
  const left = e.wayLeft - e.sinceLeft;
  const right = e.wayRight - e.sinceRight;
  if (by === BY_WAY) return Math.abs(left + right) / 2 >= amount;
  return Math.max(Math.abs(left), Math.abs(right)) >= amount * Math.PI * e.p.machine.wheelMm;
}

/** The wheels stop at its end. */
export function brakeAfter(e: Engine, by: int): void {
  if (by !== NONE) stopWheels(e, 0);
}

/** The same with every name as the visitor gives it. */
export const namedTravel = (travel: Travel | undefined, visit: NameVisitor): { travel?: Travel } =>
  travel === undefined ? {} : { travel: "until" in travel ? { until: namedCondition(travel.until, visit) } : travel };

/** What a movement straight on is like for others. */
export function straightFacts(speed: number, travel: Travel | undefined): StepFacts {
  return {
    leavesMoving: travel === undefined && speed !== 0,
    goesOn: travel === undefined,
    ...(travel === undefined && { straightOn: speed }),
    ...(travel !== undefined && "mm" in travel && { wayMm: travel.mm }),
    ...(travel !== undefined && "ms" in travel && { wayShareMs: Math.abs(speed) * travel.ms }),
  };
}

type Travelling = { travel?: Travel };
/** Parts of a kind that moves the wheels for a while: when such a step may end. */
export const travelling = {
  endsBy: ({ travel }: Travelling, begun: Begun) => travelEndsBy(travel, begun),
  goal: ({ travel }: Travelling, wheels: WheelSizes) => travelGoal(travel, wheels),
  goesByReadings: ({ travel }: Travelling) => travel !== undefined && "until" in travel,
};
