import { describe, expect, it } from "vitest";
import type { TargetId } from "../../names";
import { completions } from "../../phrases";
import { must, NAMES } from "../arbitrary";
import { Stand, type Stands } from "../engine/arbitrary";
import {
  answeredBy,
  type Look,
  namedTrigger,
  parseTrigger,
  printTrigger,
  sensorOf,
  TRIGGERS,
  type Trigger,
  Trigger as TriggerSchema,
  targetsOf,
  tellTrigger,
  triggerKindOf,
} from ".";
import { parseTriggerFrom } from "./index";

const trigger = (phrase: string): Trigger => must(parseTrigger(phrase, NAMES));

const stood = (phrase: string, now: Stands) => new Stand({ when: trigger(phrase) }).put(now);
const occasion = (phrase: string, now: Stands) => stood(phrase, now).occasion()?.number;
const CORAL: Stands = { seen: { belly: "coral" } };

describe("the occasion of a trigger", () => {
  it.each<[string, Stands, number | undefined]>([
    ["coral arrives", { arrived: ["coral"], ...CORAL }, 7],
    ["coral or teal arrives", { arrived: ["teal"] }, 7],
    ["coral arrives", { arrived: ["teal"] }, undefined],
    ["coral arrives", { departed: ["coral"] }, undefined],
    // It was there before: it does not arrive once more.
    ["coral arrives", CORAL, undefined],
    ["left-eye: coral arrives", { arrived: ["coral"] }, undefined],
    ["coral departs", { departed: ["coral"] }, 7],
    ["coral departs", { departed: ["teal"], ...CORAL }, undefined],
    ["coral is present", CORAL, 7],
    ["coral is present", { seen: { belly: "chalk" } }, undefined],
    ["left-eye: coral is present", CORAL, undefined],
    ["nothing known for 4 s", { t: 4000 }, 0],
    ["nothing known for 4 s", { t: 3999 }, undefined],
    ["nothing known for 4 s", { t: 9000, ...CORAL }, undefined],
    ["left-eye: nothing known for 4 s", { t: 9000, ...CORAL }, 0],
    // Since it was last seen, and not before the mode began.
    ["nothing known for 4 s", { t: 9000, knownAt: 5000 }, 5000],
    ["nothing known for 4 s", { t: 9000, knownAt: 5001 }, undefined],
    ["nothing known for 4 s", { t: 9000, knownAt: 1000, modeSince: 5001 }, undefined],
    ["after 2 s", { t: 5000, modeSince: 3000 }, 1],
    ["after 2 s", { t: 4999, modeSince: 3000 }, undefined],
    ["becomes tally >= 2", { counter: 2 }, 1],
    ["becomes tally >= 2", { counter: 1 }, undefined],
    ["holds button go", { pressed: true }, 1],
    ["holds button go", {}, undefined],
  ])("%s, %#", (phrase, now, number) => {
    expect(occasion(phrase, now)).toBe(number);
  });

  it("goes by the sensor that it names, else by the main one", () => {
    expect(sensorOf(trigger("left-eye: nothing known for 1 s"))).toBe("left-eye");
    expect(sensorOf(trigger("after 1 s"))).toBeUndefined();
  });

  it("says which target it was, and which sensor saw it", () => {
    const by = (phrase: string, now: Stands) => stood(phrase, now).occasion()?.by;
    expect(by("coral or teal departs", { departed: ["teal"], seen: { belly: "chalk" } })).toBe("belly teal");
    expect(by("left-eye: coral or teal is present", { seen: { "left-eye": "coral" } })).toBe("left-eye coral");
    expect(by("after 1 s", { t: 2000 })).toBeUndefined();
    // Of a condition, what it looks for and what is seen; what must not be seen is not looked for.
    expect(by("becomes coral and tally >= 0", CORAL)).toBe("belly coral");
    expect(by("holds left-eye: teal or tally >= 1", { seen: { "left-eye": "teal" } })).toBe("left-eye teal");
    expect(by("holds not teal", CORAL)).toBeUndefined();
    expect(by("becomes coral or tally >= 1", { seen: { belly: "teal" }, counter: 1 })).toBeUndefined();
  });
});

describe("what a trigger needs", () => {
  /** A look at a scene, as whoever asks why has one. */
  const look = (phrase: string, now: Stands) => {
    const stand = stood(phrase, now);
    const { engine } = stand;
    const at = { t: now.t ?? 0, modeSince: now.modeSince ?? 0, knownAt: () => engine.knownAt[0] };
    const seen = () => now.seen?.belly ?? "unknown";
    const departed = (targets: readonly string[]) => targets.some((target) => now.departed?.includes(target));
    const holds = (c: Parameters<Stand["holds"]>[0]) => stand.holds(c);
    return { ...at, seen, departed, holds, counter: () => now.counter ?? 0 } as unknown as Look;
  };
  const holds = (phrase: string, now: Stands) => {
    const t = trigger(phrase);
    return triggerKindOf(t)
      .needs(t)
      .map((need) => [need.text, need.holds(look(phrase, now))]);
  };

  it("is told part by part", () => {
    expect(holds("becomes coral and tally >= 9", { counter: 5, ...CORAL })).toEqual([
      ["coral", true],
      ["tally >= 9", false],
    ]);
    expect(holds("coral departs", { departed: ["coral"] })).toEqual([["coral departs", true]]);
  });

  it("is, of a time, what is still short of it", () => {
    const phrase = "nothing known for 4 s";
    const [need] = triggerKindOf(trigger(phrase)).needs(trigger(phrase));
    const now = look(phrase, { t: 3000, knownAt: 500 });
    expect([need.holds(now), need.value?.(now), need.short?.(now)]).toEqual([false, "2.50 s", "1.50 s"]);
    // What is seen now sets it back.
    expect(need.short?.(look(phrase, { t: 9000, ...CORAL }))).toBe("4.00 s");
  });

  it("holds just when the trigger does, where it is of one part", () => {
    const all: Stands[] = [
      {},
      CORAL,
      { departed: ["coral"] },
      { t: 5000 },
      { t: 5000, knownAt: 4000 },
      { counter: 3 },
      { pressed: true },
    ];
    for (const phrase of [
      "coral departs",
      "coral is present",
      "nothing known for 4 s",
      "after 2 s",
      "becomes tally >= 2",
      "holds button go",
    ])
      for (const now of all)
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
