import * as z from "zod";
import type { PhraseReader } from "../../phrases";
import { FEATURE_FACTS, FEATURES, type Feature, FeatureSchema } from "../../readings";
import { SAYS_COUNTER, SAYS_FEATURE, SAYS_SEEN, SAYS_TEXT } from "../engine/saying";
import type { RowMaker } from "../rowKinds";
import type { NameVisitor } from "../Visitor";

/** What `show` and `log` can say: a text, what is seen, a counter or a feature. */
export type Saying = { text: string } | { seen: true } | { counter: string } | { feature: Feature };

export const Saying: z.ZodType<Saying> = z.union([
  z.strictObject({
    text: z
      .string()
      .max(200)
      .regex(/^[^"\n]*$/, "a text holds no quotes and no line ends"),
  }),
  z.strictObject({ seen: z.literal(true) }),
  z.strictObject({ counter: z.string() }),
  z.strictObject({ feature: FeatureSchema }),
]);

export function parseSaying(reader: PhraseReader): Saying {
  if (reader.peekIs("text")) return { text: reader.takeText("a text") };
  if (reader.skip("seen")) return { seen: true };
  reader.offer(reader.reported(FEATURES));
  const feature = FEATURES.find((f) => f === reader.peekWord());
  if (feature !== undefined && reader.skip(feature)) return { feature };
  if (reader.peekWord() === "") reader.fail("a text in quotes, seen, a feature or a counter");
  return { counter: reader.takeName("counters") };
}

export function printSaying(saying: Saying): string {
  if ("text" in saying) return `"${saying.text}"`;
  if ("seen" in saying) return "seen";
  return "counter" in saying ? saying.counter : saying.feature;
}

/** What it is, in plain words. */
export function tellSaying(saying: Saying): string {
  if ("text" in saying) return `“${saying.text}”`;
  if ("seen" in saying) return "what is seen";
  return "counter" in saying ? `the count of ${saying.counter}` : `the ${FEATURE_FACTS[saying.feature].word}`;
}

/** The arguments `which`, `what` and `eye` of a row. */
export function sayingArgs(saying: Saying, to: RowMaker): number[] {
  if ("text" in saying) return [to.text(saying.text), SAYS_TEXT, 0];
  if ("seen" in saying) return [0, SAYS_SEEN, 0];
  if ("counter" in saying) return [to.counter(saying.counter), SAYS_COUNTER, 0];
  return [to.feature(saying.feature), SAYS_FEATURE, to.reporting(saying.feature)];
}

/** The same with every name as the visitor gives it. */
export const namedSaying = (saying: Saying, visit: NameVisitor): Saying =>
  "counter" in saying ? { counter: visit("counter", saying.counter, "counter") } : saying;
