import * as z from "zod";
import type { PhraseReader } from "../../phrases";
import { type Coding, coded, type StepCode, type WheelSizes } from "../Coding";
import {
  type Condition,
  ConditionSchema,
  namedCondition,
  parseCondition,
  printCondition,
  tellCondition,
} from "../conditions";
import type { NameVisitor } from "../Visitor";
import {
  type Begun,
  codedGoal,
  hasGone,
  type NameOf,
  type StepFacts,
  type StepScene,
  type TravelGoal,
} from "./StepKind";

/** How long a movement lasts: time in ms, way in mm, wheel turns, or until a condition holds. */
export type Travel = { ms: number } | { mm: number } | { rev: number } | { until: Condition };

const Amount = z.number().positive().max(10_000_000);
export const Travel: z.ZodType<Travel> = z.union([
  z.strictObject({ ms: Amount }),
  z.strictObject({ mm: Amount }),
  z.strictObject({ rev: Amount }),
  z.strictObject({ until: ConditionSchema }),
]);

/** Reads `for 20 cm`, `for 2 s`, `for 2 rev` or `until CONDITION`; undefined where none of them stands. */
export function parseTravel(reader: PhraseReader): Travel | undefined {
  if (reader.skip("until")) return { until: parseCondition(reader) };
  if (!reader.skip("for")) return undefined;
  const amount = reader.takeAmount("a time, a way or a number of turns");
  if (reader.skip("s")) return { ms: Math.max(1, Math.round(amount * 1000)) };
  if (reader.skip("cm")) return { mm: Math.round(amount * 100) / 10 };
  if (reader.skip("rev")) return { rev: amount };
  return reader.fail("s, cm or rev");
}

export function printTravel(travel: Travel | undefined): string {
  if (travel === undefined) return "";
  if ("ms" in travel) return ` for ${travel.ms / 1000} s`;
  if ("mm" in travel) return ` for ${travel.mm / 10} cm`;
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

function travelEnded(travel: Travel | undefined, scene: StepScene, begun: Begun): boolean {
  if (travel === undefined) return true;
  if ("ms" in travel) return scene.t - begun.t >= travel.ms;
  if ("until" in travel) return scene.holds(travel.until);
  return hasGone(travelGoal(travel, scene) as TravelGoal, begun.travel, scene.travel);
}

/** The end of it as code. */
export function codedTravel(travel: Travel | undefined, to: Coding): StepCode {
  if (travel === undefined) return {};
  const goal = travelGoal(travel, to);
  const ended =
    goal !== undefined
      ? codedGoal(goal)
      : "until" in travel
        ? to.condition(travel.until)
        : `passed_ms() >= ${coded((travel as { ms: number }).ms)}`;
  return { ended, end: 'stop_wheels("brake")' };
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
/** How a step that moves the wheels for a while comes to its end; its kind takes these over. */
export const travelling = {
  ended: ({ travel }: Travelling, scene: StepScene, begun: Begun) => travelEnded(travel, scene, begun),
  endsBy: ({ travel }: Travelling, begun: Begun) => travelEndsBy(travel, begun),
  goal: ({ travel }: Travelling, wheels: WheelSizes) => travelGoal(travel, wheels),
  goesByReadings: ({ travel }: Travelling) => travel !== undefined && "until" in travel,
  end: ({ travel }: Travelling, scene: StepScene) => travel && scene.stop("brake"),
};
