import { describe, expect, it } from "vitest";
import type { TargetId } from "../../names";
import { completions } from "../../phrases";
import { must, NAMES } from "../arbitrary";
import type { Moment } from "../conditions";
import {
  answeredBy,
  namedTrigger,
  parseTrigger,
  printTrigger,
  sensorOf,
  TRIGGERS,
  type Trigger,
  type TriggerScene,
  Trigger as TriggerSchema,
  targetsOf,
  tellTrigger,
  triggerKindOf,
} from ".";
import { parseTriggerFrom } from "./index";

const trigger = (phrase: string): Trigger => must(parseTrigger(phrase, NAMES));

const scene = (now: Partial<TriggerScene> = {}): TriggerScene => ({
  sees: (target, sensor) => (now.seen?.(sensor) ?? "unknown") === target,
  t: 0,
  modeSince: 0,
  seen: () => "unknown",
  arrived: () => undefined,
  departed: () => undefined,
  visit: () => 7,
  endedVisit: () => 7,
  knownAt: () => Number.NEGATIVE_INFINITY,
  feature: () => Number.NaN,
  counter: () => 0,
  length: () => 0,
  pressed: () => false,
  still: () => false,
  blob: () => undefined,
  ...now,
});
const occasion = (phrase: string, now: Partial<TriggerScene>) => {
  const t = trigger(phrase);
  return triggerKindOf(t).episode(t, scene(now));
};
const of = (id: string) => () => id as TargetId;
/** What came or went, as it is asked for. */
const one = (id: string) => (targets: readonly TargetId[]) => targets.find((target) => target === id);

describe("the occasion of a trigger", () => {
  it.each<[string, Partial<TriggerScene>, number | undefined]>([
    ["coral arrives", { arrived: one("coral"), seen: of("coral") }, 7],
    ["coral or teal arrives", { arrived: one("teal") }, 7],
    ["coral arrives", { arrived: one("teal") }, undefined],
    // It was there before: it does not arrive once more.
    ["coral arrives", { seen: of("coral") }, undefined],
    ["coral departs", { departed: one("coral") }, 7],
    ["coral departs", { departed: one("teal"), seen: of("coral") }, undefined],
    ["coral is present", { seen: of("coral") }, 7],
    ["coral is present", { seen: of("chalk") }, undefined],
    ["nothing known for 4 s", { t: 4000 }, 0],
    ["nothing known for 4 s", { t: 3999 }, undefined],
    ["nothing known for 4 s", { t: 9000, seen: of("coral") }, undefined],
    // Since it was last seen, and not before the mode began.
    ["nothing known for 4 s", { t: 9000, knownAt: () => 5000 }, 5000],
    ["nothing known for 4 s", { t: 9000, knownAt: () => 5001 }, undefined],
    ["nothing known for 4 s", { t: 9000, knownAt: () => 1000, modeSince: 5001 }, undefined],
    ["after 2 s", { t: 5000, modeSince: 3000 }, 1],
    ["after 2 s", { t: 4999, modeSince: 3000 }, undefined],
    ["becomes tally >= 2", { counter: () => 2 }, 1],
    ["becomes tally >= 2", { counter: () => 1 }, undefined],
    ["holds button go", { pressed: () => true }, 1],
    ["holds button go", {}, undefined],
  ])("%s, %#", (phrase, now, number) => {
    expect(occasion(phrase, now)).toBe(number);
  });

  it("goes by the sensor that it NAMES, else by the main one", () => {
    const asks: (string | undefined)[] = [];
    const asking = scene({
      arrived: (_, sensor) => {
        asks.push(sensor);
        return "coral" as TargetId;
      },
    });
    for (const phrase of ["coral arrives", "left-eye: coral arrives"]) {
      const t = trigger(phrase);
      triggerKindOf(t).episode(t, asking);
    }
    expect(asks).toEqual([undefined, "left-eye"]);
    expect(sensorOf(trigger("left-eye: nothing known for 1 s"))).toBe("left-eye");
    expect(sensorOf(trigger("after 1 s"))).toBeUndefined();
  });

  it("says which target it was", () => {
    const fired = (phrase: string, now: Partial<TriggerScene>) => {
      const t = trigger(phrase);
      return triggerKindOf(t).firedBy?.(t, scene(now));
    };
    expect(fired("coral or teal departs", { departed: one("teal"), seen: of("chalk") })).toEqual({ target: "teal" });
    expect(fired("left-eye: coral or teal is present", { seen: of("coral") })).toEqual({
      target: "coral",
      sensor: "left-eye",
    });
    expect(fired("after 1 s", {})).toBeUndefined();
    // Of a condition, what it looks for and what is seen; what must not be seen is not looked for.
    expect(fired("becomes coral and tally >= 0", { seen: of("coral") })).toEqual({ target: "coral" });
    expect(
      fired("holds left-eye: teal or tally >= 1", { seen: (s) => (s === undefined ? "unknown" : "teal") as TargetId }),
    ).toEqual({
      target: "teal",
      sensor: "left-eye",
    });
    expect(fired("holds not coral", { seen: of("coral") })).toBeUndefined();
    expect(fired("becomes coral or tally >= 1", { seen: of("teal") })).toBeUndefined();
  });
});

describe("what a trigger needs", () => {
  const holds = (phrase: string, now: Partial<TriggerScene>) => {
    const t = trigger(phrase);
    return triggerKindOf(t)
      .needs(t)
      .map((need) => [need.text, need.holds(scene(now))]);
  };

  it("is told part by part", () => {
    const now = { counter: () => 5, seen: of("coral") } as Partial<Moment>;
    expect(holds("becomes coral and tally >= 9", now)).toEqual([
      ["coral", true],
      ["tally >= 9", false],
    ]);
    expect(holds("coral departs", { departed: one("coral") })).toEqual([["coral departs", true]]);
  });

  it("is, of a time, what is still short of it", () => {
    const t = trigger("nothing known for 4 s");
    const [need] = triggerKindOf(t).needs(t);
    const now = scene({ t: 3000, knownAt: () => 500 });
    expect([need.holds(now), need.value?.(now), need.short?.(now)]).toEqual([false, "2.50 s", "1.50 s"]);
    // What is seen now sets it back.
    expect(need.short?.(scene({ t: 9000, seen: of("coral") }))).toBe("4.00 s");
  });

  it("holds just when the trigger does, where it is of one part", () => {
    const scenes: Partial<TriggerScene>[] = [
      {},
      { seen: of("coral") },
      { departed: one("coral") },
      { t: 5000 },
      { t: 5000, knownAt: () => 4000 },
      { counter: () => 3 },
      { pressed: () => true },
    ];
    for (const phrase of [
      "coral departs",
      "coral is present",
      "nothing known for 4 s",
      "after 2 s",
      "becomes tally >= 2",
      "holds button go",
    ])
      for (const now of scenes)
        expect(
          holds(phrase, now).every(([, ok]) => ok),
          `${phrase} ${JSON.stringify(now)}`,
        ).toBe(occasion(phrase, now) !== undefined);
  });
});

describe("every kind of trigger", () => {
  const phrases = [
    "coral or teal arrives",
    "left-eye: coral departs",
    "belly: chalk is present",
    "left-eye: nothing known for 4 s",
    "after 2.5 s",
    "becomes coral and tally >= 2",
    "holds not (button go)",
  ];

  it("is among these, and no other", () => {
    const keys = phrases.map((phrase) => triggerKindOf(trigger(phrase)).key);
    expect(new Set(keys)).toEqual(new Set(TRIGGERS.entries.map((kind) => kind.key)));
  });

  it.each(phrases)("%s: is kept, read again and told", (phrase) => {
    const t = trigger(phrase);
    expect(TriggerSchema.parse(t)).toEqual(t);
    expect(trigger(printTrigger(t))).toEqual(t);
    expect(namedTrigger(t, (_, id) => id)).toEqual(t);
    expect(tellTrigger(t, (id) => id)).not.toMatch(/undefined|\[object/);
  });

  it("is told in plain words", () => {
    const name = (id: string) => ({ coral: "Coral tag", belly: "Belly" })[id] ?? id;
    const told = (phrase: string) => tellTrigger(trigger(phrase), name);
    expect(told("coral or teal arrives")).toBe("when Coral tag or teal arrives");
    expect(told("belly: coral or teal arrives")).toBe("when Belly sees Coral tag or teal arrive");
    expect(told("belly: coral departs")).toBe("when Belly sees Coral tag depart");
    expect(told("belly: coral is present")).toBe("while Belly sees Coral tag");
    expect(told("belly: nothing known for 2 s")).toBe("when Belly sees nothing known for 2 s");
    expect(told("after 2.5 s")).toBe("after 2.5 s in this mode");
  });

  it("has new names where the visitor gives them", () => {
    const renamed = namedTrigger(
      trigger("left-eye: coral or teal arrives"),
      (kind, id) => `${kind}-${id}` as typeof id,
    );
    expect(renamed).toEqual({ arrives: ["target-coral", "target-teal"], sensor: "sensor-left-eye" });
  });
});

describe("what others ask of a trigger", () => {
  it("is what it is about, and what it answers", () => {
    expect(targetsOf(trigger("coral or teal departs"))).toEqual(["coral", "teal"]);
    expect(answeredBy(trigger("coral or teal departs"))).toEqual([]);
    expect(answeredBy(trigger("left-eye: coral or teal arrives"))).toEqual([
      { target: "coral", sensor: "left-eye" },
      { target: "teal", sensor: "left-eye" },
    ]);
    expect(answeredBy(trigger("becomes coral or unknown")).map((by) => by.target)).toEqual(["coral"]);
    expect(answeredBy(trigger("becomes not coral"))).toEqual([]);
    expect(answeredBy(trigger("becomes coral width > 90 px")).map((by) => by.target)).toEqual(["coral"]);
    expect(answeredBy(trigger("holds coral left of teal")).map((by) => by.target)).toEqual(["coral", "teal"]);
    expect(targetsOf(trigger("becomes coral"))).toEqual([]);
  });

  it("is the same about another target", () => {
    const t = trigger("left-eye: coral arrives");
    expect(triggerKindOf(t).about?.(t, "chalk" as TargetId)).toEqual(trigger("left-eye: chalk arrives"));
  });
});

describe("a phrase that is no trigger", () => {
  it.each([
    ["coral comes", /“arrives”, “departs” or “is present”/],
    ["belly: after 2 s", /no sensor goes before “after 2 s”/],
    ["nowhere: coral arrives", /nowhere/],
    ["nothing known for 0 s", /time/],
    ["ochre arrives", /ochre/],
  ])("%s is refused with what was expected", (phrase, message) => {
    expect(parseTrigger(phrase, NAMES)).toMatchObject({ problem: { message: expect.stringMatching(message) } });
  });

  it("is helped on where it is half written", () => {
    expect(completions("nothing ", NAMES, parseTriggerFrom)).toContainEqual({ from: 8, word: "known" });
    expect(completions("co", NAMES, parseTriggerFrom)).toContainEqual({ from: 0, word: "coral" });
  });
});
