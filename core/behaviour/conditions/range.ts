import * as z from "zod";
import type { PhraseReader } from "../../phrases";
import { FEATURE_FACTS, type Feature, shownValue, valueShownAs } from "../../readings";
import { CLOSED, OPEN, ROUND } from "../engine/ask";

/** From where to where; a missing end is open, `open` ends are not part of it. */
export interface Range {
  from?: number;
  to?: number;
  open?: boolean;
}

/** An end of a range in a file. */
const End = z.number().min(-1e9).max(1e9);
/** The ends of a range in a file. */
export const rangeShape = { from: End.optional(), to: End.optional(), open: z.boolean().optional() };

/** Refuses a range in a file that no phrase could say; `wraps` tells of which condition it may begin above its end. */
export const sayable =
  <C extends Range>(wraps: (condition: C) => boolean) =>
  (condition: C, context: z.RefinementCtx): void => {
    const message = wrongRange(condition, wraps(condition));
    if (message !== undefined) context.addIssue({ code: "custom", message });
  };

function wrongRange({ from, to, open }: Range, mayWrap: boolean): string | undefined {
  if (from === undefined && to === undefined) return "a range needs a bound";
  if (from === undefined || to === undefined) return undefined;
  if (open) return "a range with both ends holds at them, so it is not open";
  return from > to && !mayWrap ? "only a hue range starts above its end" : undefined;
}

/** The arguments `from`, `to` and `how` of a row; a hue range from > to goes round. */
export const rangeArgs = ({ from = -Infinity, to = Infinity, open }: Range): number[] => [
  from,
  to,
  from > to ? ROUND : open ? OPEN : CLOSED,
];

/** Reads a feature's range in the unit that it is written in. */
export function parseFeatureRange(reader: PhraseReader, feature: Feature): Range {
  const unit = FEATURE_FACTS[feature].unit === "%" ? "%" : undefined;
  return parseRange(reader, (shown) => valueShownAs(feature, shown), unit, feature);
}

/** `200..260`, `>= 50 %`, `< 40 px`: ends by `valueAt` from what is written, in a unit that must stand behind. */
export function parseRange(
  reader: PhraseReader,
  valueAt: (shown: number) => number,
  unitWord: string | undefined,
  feature?: Feature,
): Range {
  const value = () => {
    const shown = reader.takeNumber("a number");
    const most = feature === undefined ? Number.POSITIVE_INFINITY : shownValue(feature, FEATURE_FACTS[feature].max);
    if (feature !== undefined && (shown < 0 || shown > most))
      reader.failNumber(
        `a ${FEATURE_FACTS[feature].word} from 0 to ${most}${unitWord === undefined ? "" : ` ${unitWord}`}`,
      );
    return valueAt(shown);
  };
  const unit = () => unitWord !== undefined && reader.take(unitWord);
  for (const [sign, end, open] of [
    [">=", "from", false],
    ["<=", "to", false],
    [">", "from", true],
    ["<", "to", true],
  ] as const) {
    if (!reader.skip(sign)) continue;
    const bound = value();
    unit();
    return open ? { [end]: bound, open } : { [end]: bound };
  }
  if (!reader.peekIs("number")) reader.fail("a range like 200..260, or >=, >, <= or <");
  const from = value();
  if (unitWord !== undefined) reader.skip(unitWord);
  reader.take("..");
  const to = value();
  if (from > to && feature !== "hue") reader.failNumber(`a ${feature ?? "px"} range that does not start above its end`);
  unit();
  return { from, to };
}

/** `200..260 px`, `>= 50 %`, by how ends are written and the unit behind. */
export function printRange({ from, to, open }: Range, written: (value: number) => string, unit: string): string {
  if (from !== undefined && to !== undefined) return `${written(from)}..${written(to)}${unit}`;
  if (from !== undefined) return `${open ? ">" : ">="} ${written(from)}${unit}`;
  return `${open ? "<" : "<="} ${written(to ?? 0)}${unit}`;
}

/** How far a value lies from the nearer end of a range; 0 where it has none. */
export function shortOf({ from, to }: Range, value: number, onCircle = false): number {
  const gaps = [from, to].flatMap((bound) => {
    if (bound === undefined) return [];
    const apart = Math.abs(value - bound);
    return [onCircle ? Math.min(apart, 360 - apart) : apart];
  });
  return gaps.length === 0 ? 0 : Math.min(...gaps);
}
