import * as z from "zod";
import { inUnit, printTime, timeIn } from "../../phrases";
import { ConditionSchema, namedCondition, parseCondition, printCondition, tellCondition } from "../conditions";
import { holdsAt } from "../engine/ask";
import { stepKind } from "./StepKind";

const Ms = z.number().positive().max(3_600_000);
const schema = z.union([
  z.strictObject({ step: z.literal("wait"), ms: Ms, in: timeIn }),
  z.strictObject({ step: z.literal("wait"), until: ConditionSchema, atMostMs: Ms.optional(), in: timeIn }),
]);

/** Holds here for a time, or until a condition holds. */
export const wait = stepKind<z.infer<typeof schema>>({
  key: "wait",
  schema,
  opening: "wait",
  templates: ["wait {time 0.5} s", "wait until {condition}", "wait until {condition}, at most {time 8} s"],
  parse(reader) {
    if (!reader.skip("until")) return { step: "wait", ...reader.takeTime("a time, or “until”,") };
    const until = parseCondition(reader);
    if (!reader.skip(",")) return { step: "wait", until };
    reader.take("at");
    reader.take("most");
    const { ms, in: unit } = reader.takeTime("a time");
    return { step: "wait", until, atMostMs: ms, ...inUnit(unit) };
  },
  print(step) {
    if ("ms" in step) return `wait ${printTime(step.ms, step.in)}`;
    const limit = step.atMostMs === undefined ? "" : `, at most ${printTime(step.atMostMs, step.in)}`;
    return `wait until ${printCondition(step.until)}${limit}`;
  },
  tell(step, name) {
    if ("ms" in step) return `wait ${printTime(step.ms, step.in)}`;
    const limit = step.atMostMs === undefined ? "" : `, but no longer than ${printTime(step.atMostMs, step.in)}`;
    return `wait until ${tellCondition(step.until, name)}${limit}`;
  },
  acts: {
    wait: { takes: ["ms"], ended: (e, ms) => e.now - e.sinceAt >= ms },
    "wait until": {
      takes: ["atMostMs"],
      ended: (e, atMostMs, until) => e.now - e.sinceAt >= atMostMs || holdsAt(e, until),
    },
  },
  row: (step) =>
    "ms" in step
      ? { act: "wait", args: [step.ms] }
      : { act: "wait until", args: [step.atMostMs ?? Number.POSITIVE_INFINITY], conditions: step.until },
  goesByReadings: (step) => "until" in step,
  endsBy: (step, begun) => begun.t + ("ms" in step ? step.ms : (step.atMostMs ?? Number.POSITIVE_INFINITY)),
  guides: true,
  named: (step, visit) => ("until" in step ? { ...step, until: namedCondition(step.until, visit) } : step),
  facts: (step) => ("ms" in step ? { waitsMs: step.ms } : step.atMostMs === undefined ? { waitsFor: step.until } : {}),
  waitingAtMost: (step, ms) => ("until" in step ? { ...step, atMostMs: ms } : step),
});
