import * as z from "zod";
import { type TargetId, TargetIdSchema } from "../../names";
import { type Answer, type Trace, thingsOf } from "../trace";
import type { CheckKind } from "./CheckKind";

const times = (n: number) => (n === 1 ? "1 time" : `${n} times`);
const at = (t: number | undefined) => (t === undefined ? {} : { t });

const seesInOrderSchema = z.strictObject({ seesInOrder: z.array(TargetIdSchema).min(1).max(100) });

/** The arrivals hold these targets in this order; others may come between. */
export const seesInOrder: CheckKind<z.infer<typeof seesInOrderSchema>> = {
  key: "seesInOrder",
  schema: seesInOrderSchema,
  word: "sees in order",
  fresh: ({ targets }) => (targets.length > 0 ? { seesInOrder: [...targets] } : undefined),
  parse(reader) {
    if (!reader.skip("sees")) return undefined;
    const seesInOrder = [reader.takeName("targets") as TargetId];
    while (reader.skip(",")) seesInOrder.push(reader.takeName("targets") as TargetId);
    return { seesInOrder };
  },
  print: ({ seesInOrder }) => `sees ${seesInOrder.join(", ")}`,
  sentence: ({ seesInOrder }, name) => `Sees ${seesInOrder.map(name).join(", then ")}`,
  named: ({ seesInOrder }, visit) => ({ seesInOrder: seesInOrder.map((id) => visit("target", id, "seesInOrder")) }),
  judge({ seesInOrder }, trace) {
    let found = 0;
    let t: number | undefined;
    for (const note of trace.notes) {
      if (note.kind !== "arrives" || found === seesInOrder.length || note.target !== seesInOrder[found]) continue;
      found++;
      t = note.t;
    }
    const figure = `${found}/${seesInOrder.length}`;
    if (found === seesInOrder.length) return { outcome: "holds", figure, ...at(t) };
    return trace.ending === "finished"
      ? { outcome: "does not", figure, t: trace.endMs }
      : { outcome: "not reached", figure };
  },
};

const answersOnceSchema = z.strictObject({ answersOnce: TargetIdSchema });

const FIRST_EYE: ReadonlySet<number> = new Set([0]);

/** Every patch, sign and card of the target is answered exactly once by a response to it. */
export const answersOnce: CheckKind<z.infer<typeof answersOnceSchema>> = {
  key: "answersOnce",
  schema: answersOnceSchema,
  word: "answers every … once",
  fresh: ({ targets: [first] }) => first && { answersOnce: first },
  parse(reader) {
    if (!reader.skip("answers")) return undefined;
    reader.take("every");
    const answersOnce = reader.takeName("targets") as TargetId;
    reader.take("once");
    return { answersOnce };
  },
  print: ({ answersOnce }) => `answers every ${answersOnce} once`,
  sentence: ({ answersOnce }, name) => `Answers every ${name(answersOnce)} once`,
  named: (check, visit) => ({ ...check, answersOnce: visit("target", check.answersOnce, "answersOnce") }),
  judge({ answersOnce }, trace) {
    // Only the sensors that the responses listen to can miss a thing.
    const listen = trace.listeners.get(answersOnce) ?? FIRST_EYE;
    const passages = trace.passages.filter((p) => p.target === answersOnce && listen.has(p.eye));
    const patches = new Set(passages.map((p) => p.patch));
    const total = thingsOf(trace.course).filter((thing) => thing.target === answersOnce).length;
    let right = 0;
    let wrongAt: number | undefined;
    for (const patch of patches) {
      const answers = trace.answers.filter((a) => a.patch === patch && a.target === answersOnce);
      if (answers.length === 1) right++;
      else if (answers.length > 1) wrongAt = Math.min(wrongAt ?? Infinity, answers[1].t);
      else {
        // A patch is missed once the sensor has left it; while it is still over it, the answer may yet come.
        const last = passages.filter((p) => p.patch === patch).at(-1);
        if (last !== undefined && last.left !== undefined) wrongAt = Math.min(wrongAt ?? Infinity, last.left);
      }
    }
    const figure = `${right}/${total}`;
    if (wrongAt !== undefined) return { outcome: "does not", figure, t: wrongAt };
    if (right < total || total === 0) return { outcome: "not reached", figure };
    return { outcome: "holds", figure, ...at(lastOf(trace.answers, answersOnce)) };
  },
};

function lastOf(answers: readonly Answer[], target: TargetId): number | undefined {
  return answers.filter((a) => a.target === target && a.truth === target).at(-1)?.t;
}

const neverAnswersSchema = z.strictObject({ neverAnswers: TargetIdSchema });

/** No response fires for what was in truth this target. */
export const neverAnswers: CheckKind<z.infer<typeof neverAnswersSchema>> = {
  key: "neverAnswers",
  schema: neverAnswersSchema,
  word: "never answers …",
  fresh: ({ targets, backgrounds: [first = targets[0]] }) => first && { neverAnswers: first },
  parse(reader) {
    if (!reader.peekNext("never", "answers")) return undefined;
    reader.take("never");
    reader.take("answers");
    return { neverAnswers: reader.takeName("targets") as TargetId };
  },
  print: ({ neverAnswers }) => `never answers ${neverAnswers}`,
  sentence: ({ neverAnswers }, name) => `Never answers ${name(neverAnswers)}`,
  named: (check, visit) => ({ ...check, neverAnswers: visit("target", check.neverAnswers, "neverAnswers") }),
  judge({ neverAnswers }, trace) {
    const wrong = trace.answers.filter((a) => a.truth === neverAnswers);
    if (wrong.length > 0) return { outcome: "does not", figure: times(wrong.length), t: wrong[0].t };
    return { outcome: "holds", figure: times(0), t: trace.endMs };
  },
};

const endsOnSchema = z.strictObject({ endsOn: TargetIdSchema });

/** The run finishes with the sensor over the target. */
export const endsOn: CheckKind<z.infer<typeof endsOnSchema>> = {
  key: "endsOn",
  schema: endsOnSchema,
  word: "ends on …",
  fresh: ({ targets: [first] }) => first && { endsOn: first },
  parse(reader) {
    if (!reader.peekNext("ends", "on")) return undefined;
    reader.take("ends");
    reader.take("on");
    return { endsOn: reader.takeName("targets") as TargetId };
  },
  print: ({ endsOn }) => `ends on ${endsOn}`,
  sentence: ({ endsOn }, name) => `Ends on ${name(endsOn)}`,
  named: (check, visit) => ({ ...check, endsOn: visit("target", check.endsOn, "endsOn") }),
  judge({ endsOn }, trace) {
    if (trace.ending !== "finished") return { outcome: "not reached", figure: "—" };
    const truth = trace.truthAtEnd;
    return { outcome: truth === endsOn ? "holds" : "does not", figure: truth ?? "—", t: trace.endMs };
  },
};

const countIsSchema = z.strictObject({ counter: z.string(), is: z.number().int() });

/** A counter stands at this number when the run ends. */
export const countIs: CheckKind<z.infer<typeof countIsSchema>> = {
  key: "counter",
  schema: countIsSchema,
  word: "count is …",
  fresh: ({ counters: [first] }) => (first === undefined ? undefined : { counter: first, is: 1 }),
  parse(reader) {
    if (!reader.skip("count")) return undefined;
    const counter = reader.takeName("counters");
    reader.take("is");
    const is = reader.takeNumber("a whole number");
    return Number.isInteger(is) ? { counter, is } : reader.fail("a whole number");
  },
  print: ({ counter, is }) => `count ${counter} is ${is}`,
  sentence: ({ counter, is }) => `The count of ${counter} is ${is}`,
  named: (check, visit) => ({ ...check, counter: visit("counter", check.counter, "counter") }),
  judge({ counter, is }, trace) {
    const last = trace.notes.filter((n) => n.kind === "counter" && n.counter === counter).at(-1);
    const value = last?.kind === "counter" ? last.value : 0;
    const figure = `${value}`;
    if (trace.ending !== "finished" && value < is) return { outcome: "not reached", figure };
    return { outcome: value === is ? "holds" : "does not", figure, t: last?.t ?? trace.endMs };
  },
};

const withinSchema = z.strictObject({ withinMs: z.number().positive().max(3_600_000) });

/** The behaviour finishes within so many seconds. */
export const within: CheckKind<z.infer<typeof withinSchema>> = {
  key: "withinMs",
  schema: withinSchema,
  word: "finishes within …",
  fresh: () => ({ withinMs: 60_000 }),
  parse(reader) {
    if (!reader.skip("finishes")) return undefined;
    reader.take("within");
    return { withinMs: reader.takeSeconds("a time") };
  },
  print: ({ withinMs }) => `finishes within ${withinMs / 1000} s`,
  sentence: ({ withinMs }) => `Finishes within ${withinMs / 1000} s`,
  judge({ withinMs }, trace: Trace) {
    const figure = `${(trace.endMs / 1000).toFixed(1)} s`;
    if (trace.ending === "finished" && trace.endMs <= withinMs) return { outcome: "holds", figure, t: trace.endMs };
    if (trace.endMs >= withinMs)
      return { outcome: "does not", figure: trace.ending === "finished" ? figure : "—", t: withinMs };
    return { outcome: "not reached", figure: "—" };
  },
};
