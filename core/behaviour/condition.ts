import { type SensorId, type TargetId, UNKNOWN } from "../names";
import type { PhraseReader } from "../phrases";
import { exactShown, FEATURE_FACTS, FEATURES, type Feature, valueShownAs } from "../readings";

/** What is measured of the largest blob of a target in a camera's frame, in px; `error` is how far right of the middle. */
export const BLOB_MEASURES = ["width", "height", "area", "x", "y", "error"] as const;
export type BlobMeasure = (typeof BLOB_MEASURES)[number];
/** The largest blob of a target, and half the width of the frame that it is in. */
export type Blob = Record<BlobMeasure, number> & { halfFrame: number };

/** What can be true at a moment: serves triggers, guards and `until`. */
export type Condition =
  | { seen: (TargetId | typeof UNKNOWN)[]; sensor?: SensorId }
  | { feature: Feature; from?: number; to?: number; open?: boolean; sensor?: SensorId }
  | { count: string; from?: number; to?: number }
  | { list: string; holds: number }
  | { button: string }
  | { blob: TargetId; measure: BlobMeasure; from?: number; to?: number; open?: boolean; sensor?: SensorId }
  | { blob: TargetId; side: "left" | "right"; of: TargetId; sensor?: SensorId }
  | { all: Condition[] }
  | { any: Condition[] }
  | { not: Condition };

/** What a condition is judged by. A feature that the sensor has not reported is NaN. */
export interface Moment {
  seen(sensor?: SensorId): TargetId | typeof UNKNOWN;
  feature(feature: Feature, sensor?: SensorId): number;
  counter(name: string): number;
  /** How many targets a list holds. */
  length(list: string): number;
  /** Whether a button of the robot is held down. */
  pressed(button: string): boolean;
  /** The largest blob of a target that a camera sees; undefined where there is none, or no camera. */
  blob(target: TargetId, sensor?: SensorId): Blob | undefined;
}

/** Whether a condition holds at a moment. */
export function holds(condition: Condition, moment: Moment): boolean {
  if ("seen" in condition) return condition.seen.includes(moment.seen(condition.sensor));
  if ("feature" in condition) return featureHolds(condition, moment.feature(condition.feature, condition.sensor));
  if ("count" in condition) {
    const n = moment.counter(condition.count);
    return n >= (condition.from ?? -Infinity) && n <= (condition.to ?? Infinity);
  }
  if ("list" in condition) return moment.length(condition.list) === condition.holds;
  if ("button" in condition) return moment.pressed(condition.button);
  if ("measure" in condition)
    return featureHolds(condition, moment.blob(condition.blob, condition.sensor)?.[condition.measure] ?? Number.NaN);
  if ("side" in condition) {
    const [one, other] = [condition.blob, condition.of].map((target) => moment.blob(target, condition.sensor));
    if (one === undefined || other === undefined) return false;
    return condition.side === "left" ? one.x < other.x : one.x > other.x;
  }
  if ("all" in condition) return condition.all.every((c) => holds(c, moment));
  if ("any" in condition) return condition.any.some((c) => holds(c, moment));
  return !holds(condition.not, moment);
}

function featureHolds({ from, to, open }: { from?: number; to?: number; open?: boolean }, value: number): boolean {
  if (Number.isNaN(value)) return false;
  if (from !== undefined && to !== undefined && from > to) return value >= from || value <= to;
  if (open) return value > (from ?? -Infinity) && value < (to ?? Infinity);
  return value >= (from ?? -Infinity) && value <= (to ?? Infinity);
}

/** Reads a condition: `coral or teal`, `hue 350..20 and sat >= 50 %`, `not (tally >= 2)`. */
export function parseCondition(reader: PhraseReader): Condition {
  const terms = [parseAnd(reader)];
  while (reader.skip("or")) terms.push(parseAnd(reader));
  const merged: Condition[] = [];
  for (const term of terms) {
    const last = merged.at(-1);
    if (last && "seen" in last && "seen" in term && last.sensor === term.sensor)
      merged[merged.length - 1] = { ...last, seen: [...last.seen, ...term.seen] };
    else merged.push(term);
  }
  return merged.length === 1 ? merged[0] : { any: merged };
}

function parseAnd(reader: PhraseReader): Condition {
  const terms = [parseTerm(reader)];
  while (reader.skip("and")) terms.push(parseTerm(reader));
  return terms.length === 1 ? terms[0] : { all: terms };
}

function parseTerm(reader: PhraseReader): Condition {
  if (reader.skip("not")) return { not: parseTerm(reader) };
  if (reader.skip("(")) {
    const inner = parseCondition(reader);
    reader.take(")");
    return inner;
  }
  let sensor: SensorId | undefined;
  if (reader.peekSign(":", 1)) {
    sensor = reader.takeName("sensors") as SensorId;
    reader.take(":");
  }
  const of = sensor === undefined ? {} : { sensor };
  if (reader.skip(UNKNOWN)) return { seen: [UNKNOWN], ...of };
  reader.offer(FEATURES);
  const feature = FEATURES.find((f) => f === reader.peekWord());
  if (feature !== undefined) {
    reader.take(feature);
    return { feature, ...parseFeatureRange(reader, feature), ...of };
  }
  const counter = sensor === undefined ? reader.skipName("counters") : undefined;
  if (counter !== undefined) return { count: counter, ...parseCountRange(reader) };
  const list = sensor === undefined ? reader.skipName("lists") : undefined;
  if (list !== undefined) {
    reader.take("holds");
    return { list, holds: parseLength(reader) };
  }
  if (sensor === undefined && reader.skip("button")) return { button: reader.takeName("buttons") };
  const target = reader.takeName("targets") as TargetId;
  const measure = BLOB_MEASURES.find((m) => m === reader.peekWord());
  if (measure !== undefined) {
    reader.take(measure);
    return { blob: target, measure, ...parseRange(reader, (shown) => shown, "px"), ...of };
  }
  for (const side of ["left", "right"] as const) {
    // Not offered while one types: only a camera has blobs.
    if (reader.peekWord() !== side || !reader.skip(side)) continue;
    reader.take("of");
    return { blob: target, side, of: reader.takeName("targets") as TargetId, ...of };
  }
  return { seen: [target], ...of };
}

function parseLength(reader: PhraseReader): number {
  const length = reader.takeNumber("how many it holds");
  if (!Number.isInteger(length) || length < 0 || length > 1000) reader.fail("a whole number from 0 to 1000");
  return length;
}

interface Range {
  from?: number;
  to?: number;
  open?: boolean;
}

function parseFeatureRange(reader: PhraseReader, feature: Feature): Range {
  const unit = FEATURE_FACTS[feature].unit === "%" ? "%" : undefined;
  return parseRange(reader, (shown) => valueShownAs(feature, shown), unit, feature);
}

/** `200..260`, `>= 50 %`, `< 40 px`: ends by `valueAt` from what is written, in a unit that must stand behind. */
function parseRange(
  reader: PhraseReader,
  valueAt: (shown: number) => number,
  unitWord: string | undefined,
  feature?: Feature,
): Range {
  const value = () => valueAt(reader.takeNumber("a number"));
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
  if (from > to && feature !== "hue") reader.fail(`a ${feature ?? "px"} range that does not start above its end`);
  unit();
  return { from, to };
}

function parseCountRange(reader: PhraseReader): { from?: number; to?: number } {
  if (reader.skip(">=")) return { from: reader.takeNumber("a number") };
  if (reader.skip("<=")) return { to: reader.takeNumber("a number") };
  if (reader.skip(">")) return { from: reader.takeNumber("a number") + 1 };
  if (reader.skip("<")) return { to: reader.takeNumber("a number") - 1 };
  if (reader.skip("=")) {
    const n = reader.takeNumber("a number");
    return { from: n, to: n };
  }
  if (!reader.peekIs("number")) reader.fail(">=, <=, > , < or = with a number");
  const from = reader.takeNumber("a number");
  reader.take("..");
  return { from, to: reader.takeNumber("a number") };
}

/** The canonical form: `parseCondition` gives back an equal condition. */
export function printCondition(condition: Condition): string {
  if ("seen" in condition) return condition.seen.map((id) => `${prefix(condition.sensor)}${id}`).join(" or ");
  if ("feature" in condition) return printFeature(condition);
  if ("count" in condition) {
    const { count, from, to } = condition;
    if (from !== undefined && to !== undefined) return from === to ? `${count} = ${from}` : `${count} ${from}..${to}`;
    return from !== undefined ? `${count} >= ${from}` : `${count} <= ${to}`;
  }
  if ("list" in condition) return `${condition.list} holds ${condition.holds}`;
  if ("button" in condition) return `button ${condition.button}`;
  if ("measure" in condition) return printMeasure(condition);
  if ("side" in condition) return `${prefix(condition.sensor)}${condition.blob} ${condition.side} of ${condition.of}`;
  if ("all" in condition) return condition.all.map((c) => bracketed(c, isOr(c))).join(" and ");
  if ("any" in condition) return condition.any.map((c) => bracketed(c, "any" in c)).join(" or ");
  return `not ${bracketed(condition.not, isOr(condition.not) || "all" in condition.not)}`;
}

/** A condition in plain words; `name` gives the names that people use. */
export function tellCondition(condition: Condition, name: (id: string) => string): string {
  if ("seen" in condition) {
    const by = condition.sensor === undefined ? "" : ` by ${name(condition.sensor)}`;
    return `${condition.seen.map((id) => (id === UNKNOWN ? "nothing known" : name(id))).join(" or ")} is seen${by}`;
  }
  if ("count" in condition) return `the count ${printCondition(condition)}`;
  if ("list" in condition) return `the list ${condition.list} holds ${condition.holds}`;
  if ("button" in condition) return `the button ${condition.button} is held down`;
  if ("measure" in condition) return printCondition(condition).replace(condition.blob, name(condition.blob));
  if ("side" in condition) return `${name(condition.blob)} is ${condition.side} of ${name(condition.of)}`;
  if ("all" in condition) return condition.all.map((c) => tellCondition(c, name)).join(" and ");
  if ("any" in condition) return condition.any.map((c) => tellCondition(c, name)).join(" or ");
  if ("not" in condition) return `not ${tellCondition(condition.not, name)}`;
  const { feature, ...rest } = condition;
  return printCondition({ feature, ...rest }).replace(feature, FEATURE_FACTS[feature].word);
}

const prefix = (sensor: SensorId | undefined) => (sensor === undefined ? "" : `${sensor}: `);
const isOr = (c: Condition) => "any" in c || ("seen" in c && c.seen.length > 1);
const bracketed = (c: Condition, needed: boolean) => (needed ? `(${printCondition(c)})` : printCondition(c));

function printMeasure({ blob, measure, from, to, open, sensor }: Extract<Condition, { measure: BlobMeasure }>): string {
  const head = `${prefix(sensor)}${blob} ${measure}`;
  if (from !== undefined && to !== undefined) return `${head} ${from}..${to} px`;
  return from !== undefined ? `${head} ${open ? ">" : ">="} ${from} px` : `${head} ${open ? "<" : "<="} ${to ?? 0} px`;
}

function printFeature({ feature, from, to, open, sensor }: Extract<Condition, { feature: Feature }>): string {
  const unit = FEATURE_FACTS[feature].unit === "%" ? " %" : "";
  const head = `${prefix(sensor)}${feature}`;
  if (from !== undefined && to !== undefined)
    return `${head} ${exactShown(feature, from)}..${exactShown(feature, to)}${unit}`;
  if (from !== undefined) return `${head} ${open ? ">" : ">="} ${exactShown(feature, from)}${unit}`;
  return `${head} ${open ? "<" : "<="} ${exactShown(feature, to ?? 0)}${unit}`;
}
