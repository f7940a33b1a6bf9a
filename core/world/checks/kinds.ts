import * as z from "zod";
import { visitedSensor } from "../../behaviour";
import { SensorIdSchema, type TargetId, TargetIdSchema } from "../../names";
import { inUnit, printTime, timeIn } from "../../phrases";
import { passagesOver } from "../crossings";
import { cameToItsEnd } from "../ending";
import { type Trace, thingsOf } from "../trace";
import {
  answeredWords,
  arrivalsAt,
  at,
  besidePlate,
  besideWords,
  bySensor,
  ended,
  sentence,
  thingWords,
  times,
  toldBySensor,
  unmet,
  whyMissed,
} from "./because";
import type { CheckKind } from "./CheckKind";

const when = (t: number | undefined) => (t === undefined ? {} : { t });

const seesInOrderSchema = z.strictObject({
  seesInOrder: z.array(TargetIdSchema).min(1).max(100),
  sensor: SensorIdSchema.optional(),
});

/** The arrivals that one sensor sees hold these targets in this order; others may come between. */
export const seesInOrder: CheckKind<z.infer<typeof seesInOrderSchema>> = {
  key: "seesInOrder",
  schema: seesInOrderSchema,
  bySensor: true,
  word: "sees in order",
  fresh: ({ targets }) => (targets.length > 0 ? { seesInOrder: [...targets] } : undefined),
  parse(reader) {
    if (!reader.skip("sees")) return undefined;
    const seesInOrder = [reader.takeName("targets") as TargetId];
    while (reader.skip(",")) seesInOrder.push(reader.takeName("targets") as TargetId);
    return { seesInOrder };
  },
  print: ({ seesInOrder, sensor }) => `${bySensor(sensor)}sees ${seesInOrder.join(", ")}`,
  sentence: ({ seesInOrder, sensor }, name) =>
    `Sees ${seesInOrder.map(name).join(", then ")}${toldBySensor(sensor, name)}`,
  named: ({ seesInOrder, sensor }, visit) => ({
    seesInOrder: seesInOrder.map((id) => visit("target", id, "seesInOrder")),
    ...visitedSensor(sensor, visit),
  }),
  judge({ seesInOrder, sensor }, trace, name) {
    let found = 0;
    let t: number | undefined;
    for (const arrival of arrivalsAt(trace, sensor)) {
      if (found === seesInOrder.length || arrival.target !== seesInOrder[found]) continue;
      found++;
      t = arrival.t;
    }
    const figure = `${found}/${seesInOrder.length}`;
    if (found === seesInOrder.length) return { outcome: "holds", figure, ...when(t) };
    const after = t === undefined ? "" : ` after ${name(seesInOrder[found - 1])} at ${at(t)}`;
    const why = sentence(`${name(seesInOrder[found])} did not arrive${after}`, ended(trace));
    return unmet(trace, figure, why);
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
  judge({ answersOnce }, trace, name) {
    // Only the sensors that the responses listen to can miss a thing.
    const listen = trace.listeners.get(answersOnce) ?? FIRST_EYE;
    const answers = trace.answers.filter((a) => a.target === answersOnce && a.truth === answersOnce);
    const pieces = thingsOf(trace.course).flatMap(({ target }, piece) => (target === answersOnce ? [piece] : []));
    const total = pieces.length;
    let right = 0;
    const wrong: { t: number; why: string }[] = [];
    const open: number[] = [];
    for (const piece of pieces) {
      const own = answers.filter((a) => a.patch === piece);
      const words = () => thingWords(trace, piece, name);
      if (own.length === 1) right++;
      else if (own.length > 1)
        wrong.push({
          t: own[1].t,
          why: sentence(
            `${words()} was answered ${times(own.length)}: at ${at(own[0].t)} and again at ${at(own[1].t)}`,
          ),
        });
      else {
        // A thing is missed once the sensor has left it; while it is still over it, the answer may yet come.
        const last = passagesOver(trace, piece, listen).at(-1);
        const beside = last === undefined && listen.has(0) ? besidePlate(trace, piece) : undefined;
        if (beside !== undefined && beside.t < trace.endMs)
          wrong.push({
            t: beside.t,
            why: sentence(`${words()} was never under the sensor`, besideWords(trace, piece)),
          });
        else if (last?.left === undefined) open.push(piece);
        else
          wrong.push({
            t: last.left,
            why: sentence(
              `${words()} was ${thingsOf(trace.course)[piece].kind === "card" ? "held" : "passed"} from ${at(last.entered)} to ${at(last.left)} unanswered`,
              whyMissed(trace, last, name),
            ),
          });
      }
    }
    const figure = `${right}/${total}`;
    const [first] = wrong.sort((a, b) => a.t - b.t);
    if (first !== undefined) return { outcome: "does not", figure, ...first };
    if (total === 0)
      return { outcome: "not reached", figure, why: sentence(`there is no ${name(answersOnce)} on the course`) };
    if (open.length > 0) {
      const words = `${thingWords(trace, open[0], name)} was not reached${open.length > 1 ? `, nor ${open.length - 1} more` : ""}`;
      return { outcome: "not reached", figure, why: sentence(words, ended(trace)) };
    }
    return { outcome: "holds", figure, ...when(answers.at(-1)?.t) };
  },
};

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
  judge({ neverAnswers }, trace, name) {
    const wrong = trace.answers.filter((a) => a.truth === neverAnswers);
    const [first] = wrong;
    if (first !== undefined)
      return {
        outcome: "does not",
        figure: times(wrong.length),
        t: first.t,
        why: sentence(
          `${answeredWords(trace, first, name)} was ${first.target === neverAnswers ? "answered" : `taken for ${name(first.target)} and answered`} at ${at(first.t)}`,
        ),
      };
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
  judge({ endsOn }, trace, name) {
    if (!cameToItsEnd(trace.ending))
      return { outcome: "not reached", figure: "—", why: sentence("the behaviour did not finish", ended(trace)) };
    // With its edge under the spot it is reached.
    const under = trace.underAtEnd.find(({ target }) => target === endsOn) ?? trace.underAtEnd[0];
    const figure = under === undefined ? "—" : name(under.target);
    if (under?.target === endsOn) return { outcome: "holds", figure, t: trace.endMs };
    const why =
      under === undefined
        ? "the sensor has nothing before it at the end"
        : `the sensor ends over ${name(under.target)}, and touches no ${name(endsOn)}`;
    return { outcome: "does not", figure, t: trace.endMs, why: sentence(why) };
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
    return Number.isInteger(is) ? { counter, is } : reader.failNumber("a whole number");
  },
  print: ({ counter, is }) => `count ${counter} is ${is}`,
  sentence: ({ counter, is }) => `The count of ${counter} is ${is}`,
  named: (check, visit) => ({ ...check, counter: visit("counter", check.counter, "counter") }),
  judge({ counter, is }, trace) {
    const last = trace.notes.filter((n) => n.kind === "counter" && n.counter === counter).at(-1);
    const value = last?.kind === "counter" ? last.value : 0;
    const figure = `${value}`;
    const t = last?.t ?? trace.endMs;
    if (value === is) return { outcome: "holds", figure, t };
    const stands =
      last === undefined ? `${counter} was never counted` : `${counter} was last set to ${value} at ${at(t)}`;
    const why = sentence(stands, ended(trace));
    return value < is ? unmet(trace, figure, why, t) : { outcome: "does not", figure, t, why };
  },
};

const withinSchema = z.strictObject({ withinMs: z.number().positive().max(3_600_000), in: timeIn });

/** The behaviour finishes within so many seconds; on a belt it does so too where that is emptied. */
export const within: CheckKind<z.infer<typeof withinSchema>> = {
  key: "withinMs",
  schema: withinSchema,
  word: "finishes within …",
  fresh: () => ({ withinMs: 60_000 }),
  parse(reader) {
    if (!reader.skip("finishes")) return undefined;
    reader.take("within");
    const { ms, in: unit } = reader.takeTime("a time");
    return { withinMs: ms, ...inUnit(unit) };
  },
  print: ({ withinMs, in: unit }) => `finishes within ${printTime(withinMs, unit)}`,
  sentence: ({ withinMs, in: unit }) => `Finishes within ${printTime(withinMs, unit)}`,
  judge({ withinMs }, trace: Trace) {
    const figure = `${(trace.endMs / 1000).toFixed(1)} s`;
    const came = cameToItsEnd(trace.ending);
    if (came && trace.endMs <= withinMs) return { outcome: "holds", figure, t: trace.endMs };
    const why = sentence(ended(trace));
    if (trace.endMs >= withinMs) return { outcome: "does not", figure: came ? figure : "—", t: withinMs, why };
    return { outcome: "not reached", figure: "—", why };
  },
};
