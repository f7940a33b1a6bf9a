import * as z from "zod";
import { SensorIdSchema } from "../../names";
import { exactShown, FEATURE_FACTS, FEATURES, type Feature, FeatureSchema, shownValue } from "../../readings";
import { inRange } from "../engine/ask";
import { featureOf } from "../engine/given";
import { visitedSensor } from "../Visitor";
import type { ConditionKind } from "./ConditionKind";
import type { Condition } from "./condition";
import { prefix, toldBy } from "./prefix";
import { parseFeatureRange, printRange, rangeArgs, rangeShape, sayable, shortOf } from "./range";

type Lies = Extract<Condition, { feature: unknown }>;

const schema: z.ZodType<Lies> = z
  .strictObject({ feature: FeatureSchema, ...rangeShape, sensor: SensorIdSchema.optional() })
  .superRefine(sayable(({ feature }: Lies) => feature === "hue"));

const written = (condition: Lies) => {
  const { feature } = condition;
  const unit = FEATURE_FACTS[feature].unit === "%" ? " %" : "";
  return printRange(condition, (value) => exactShown(feature, value), unit);
};

const figure = (feature: Feature, value: number) =>
  Number.isNaN(value) ? "none" : `${shownValue(feature, value).toFixed(1)} ${FEATURE_FACTS[feature].unit}`.trim();

/** A feature of a sensor's reading lies in a range; hue may wrap. */
export const feature: ConditionKind<Lies> = {
  key: "feature",
  schema,
  parse(reader, of) {
    reader.offer(reader.reported(FEATURES));
    const feature = FEATURES.find((f) => f === reader.peekWord());
    if (feature === undefined) return undefined;
    reader.take(feature);
    return { feature, ...parseFeatureRange(reader, feature), ...of };
  },
  print: (condition) => `${prefix(condition.sensor)}${condition.feature} ${written(condition)}`,
  tell: (condition, name) =>
    `${FEATURE_FACTS[condition.feature].word} ${written(condition)}${toldBy(condition.sensor, name)}`,
  asks: {
    feature: {
      takes: ["feature", "eye", "from", "to", "how"],
      ask: (e, feature, eye, from, to, how) => inRange(featureOf(e, eye, feature), from, to, how),
    },
  },
  rows: (condition, to) => [
    {
      act: "feature",
      args: [to.feature(condition.feature), to.reporting(condition.feature, condition.sensor), ...rangeArgs(condition)],
    },
  ],
  named: ({ sensor, ...rest }, visit) => ({ ...rest, ...visitedSensor(sensor, visit) }),
  value: ({ feature, sensor }, moment) => figure(feature, moment.feature(feature, sensor)),
  short(condition, moment) {
    const { feature } = condition;
    const value = moment.feature(feature, condition.sensor);
    return Number.isNaN(value) ? "" : figure(feature, shortOf(condition, value, feature === "hue"));
  },
};
