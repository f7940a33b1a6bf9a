import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { numbered, type TargetId } from "../names";
import { completions, type Names, type PhraseReader, parsePhrase } from "../phrases";
import { FEATURE_FACTS, FEATURES } from "../readings";
import {
  type Condition,
  parseCondition,
  parseStep,
  parseStepFrom,
  parseTrigger,
  parseTriggerFrom,
  printCondition,
  printStep,
  printTrigger,
  routineCircle,
  STEPS,
  Step,
  TRIGGERS,
  triggerKindOf,
} from ".";
import { must } from "./arbitrary";
import { Stand } from "./engine/arbitrary";

const NAMES: Names = {
  targets: ["coral", "teal", "amber"],
  sensors: ["belly", "left-eye"],
  modes: ["patrol", "homeward"],
  lamps: ["go"],
  counters: ["tally", "laps"],
  lists: ["route"],
  routines: ["water"],
  buttons: ["start-key"],
  servos: ["arm"],
  gates: ["coral-gate"],
  crates: ["coral-crate"],
};

const step = (phrase: string): Step => {
  const parsed = parseStep(phrase, NAMES);
  if ("problem" in parsed) throw new Error(`${parsed.problem.column}: ${parsed.problem.message}`);
  return parsed.value;
};
const condition = (phrase: string): Condition => {
  const parsed = parsePhrase(phrase, NAMES, parseCondition);
  if ("problem" in parsed) throw new Error(`${parsed.problem.column}: ${parsed.problem.message}`);
  return parsed.value;
};
const problem = (phrase: string) => {
  const parsed = parseStep(phrase, NAMES);
  return "problem" in parsed ? parsed.problem : undefined;
};

describe("steps", () => {
  const CANONICAL = [
    "drive 35 %",
    "drive -30 % for 20 cm",
    "drive 12.5 % for 2 s",
    "drive 30 % for 2 rev",
    "drive 30 % until teal or coral",
    "wheels 40 % 10 % for 1.5 s",
    "wheels -40 % 10 %",
    "turn left 90 at 30 %",
    "turn right 25 % for 0.5 s",
    "stop",
    "stop coast",
    "wait 0.5 s",
    "wait until teal or coral, at most 8 s",
    "wait until not (coral and sat >= 50 %)",
    "lamp coral blink 2 Hz",
    "lamp #ff8800",
    "lamp off",
    "lamp go coral",
    "lamp go off",
    "lamps off",
    "tone C4 for 0.5 s",
    "tone F#5 for 1 s",
    "tone 60 for 0.25 s",
    'show "bay 2"',
    "show tally",
    "show seen",
    "count tally + 1",
    "count tally - 2",
    "count tally reset",
    'log "at the bay"',
    "log seen",
    "log hue",
    "follow teal left edge at 25 % until coral",
    "follow teal right edge by belly at 25 % for 40 cm",
    "follow teal between left-eye and belly at 25 %",
    "follow teal by camera at 25 % until coral width > 100 px",
    'say "thirsty"',
    "show picture drop",
    "lamp coral for 1 s",
    "lamp go coral blink 2 Hz for 0.5 s",
    "tune C4 1/4, E4 1/4, rest 1/8, G4 1/2 at 120 a minute",
    "tune 60 3/16 at 90.5 a minute",
    "wait until still",
    "drive 20 % until still or not coral",
    "servo arm to 90 at 60",
    "servo arm to -12.5 at 180",
    "gate coral-gate open",
    "gate coral-gate close",
    "send to coral-crate",
    "jot to route",
    "replay route in patrol",
    "do water",
    "do water 3 times",
    "meanwhile tone C4 for 0.5 s",
    "meanwhile follow teal left edge at 25 % for 1.5 s",
    "wait until route holds 3 or button start-key",
    "go to homeward",
    "finish",
  ];

  it.each(CANONICAL)("%s is read and written the same", (phrase) => {
    const parsed = step(phrase);
    expect(printStep(parsed)).toBe(phrase);
    expect(Step.parse(parsed)).toEqual(parsed);
  });

  it.each([
    ["drive 35 % for 250 mm", { mm: 250, in: "mm" }],
    ["drive 35 % for 0.25 m", { mm: 250, in: "m" }],
    ["drive 35 % for 25 cm", { mm: 250 }],
    ["drive 35 % for 1500 ms", { ms: 1500, in: "ms" }],
    ["drive 35 % for 1.5 s", { ms: 1500 }],
  ])("keeps how a length and a time were meant: %s", (phrase, travel) => {
    const step = must(parseStep(phrase, NAMES));
    expect(step).toMatchObject({ travel });
    expect(STEPS.get("drive").schema.parse(step)).toEqual(step);
    expect(printStep(step)).toBe(phrase);
  });

  it.each([
    "wait 250 ms",
    "wait until coral, at most 800 ms",
    "turn left 25 % for 500 ms",
    "tone C4 for 120 ms",
    "lamp coral for 50 ms",
    "follow coral left edge at 20 % for 400 mm",
    "wheels 10 % 20 % for 3 m",
    "servo arm to 50 % at 60",
    "servo arm to 0 % at 60",
  ])("understands and prints %s as it was meant", (phrase) => {
    expect(printStep(must(parseStep(phrase, NAMES)))).toBe(phrase);
  });

  it.each(["after 500 ms", "nothing known for 80 ms"])(
    "understands and prints the trigger %s as it was meant",
    (phrase) => {
      expect(printTrigger(must(parseTrigger(phrase, NAMES)))).toBe(phrase);
    },
  );

  it("refuses a share of a servo's range beyond it", () => {
    expect(parseStep("servo arm to 120 % at 60", NAMES)).toMatchObject({ problem: { column: 14 } });
    expect(parseStep("servo arm to -5 % at 60", NAMES)).toMatchObject({ problem: { column: 14 } });
  });

  it("lets one name that a lamp and a target share be the colour, and two be both", () => {
    const names: Names = { ...NAMES, lamps: ["green"], targets: ["green", "coral"] };
    const read = (phrase: string) => {
      const parsed = parseStep(phrase, names);
      if ("problem" in parsed) throw new Error(parsed.problem.message);
      expect(printStep(parsed.value)).toBe(phrase);
      return parsed.value;
    };
    expect(read("lamp green")).toEqual({ step: "lamp", colour: "green" });
    expect(read("lamp green blink 2 Hz for 1 s")).toEqual({ step: "lamp", colour: "green", blinkHz: 2, ms: 1000 });
    expect(read("lamp green off")).toEqual({ step: "lamp", lamp: "green", colour: "off" });
    expect(read("lamp green coral")).toEqual({ step: "lamp", lamp: "green", colour: "coral" });
    expect(read("lamp green green")).toEqual({ step: "lamp", lamp: "green", colour: "green" });
    // A lamp's name alone says no colour.
    expect(parseStep("lamp go", NAMES)).toHaveProperty("problem");
  });

  it("has every kind among them", () => {
    expect(new Set(CANONICAL.map((phrase) => step(phrase).step))).toEqual(
      new Set(STEPS.entries.map((kind) => kind.key)),
    );
  });

  it("goes by whole milliseconds and tenths of a millimetre", () => {
    expect(step("wait 0.1 s")).toEqual({ step: "wait", ms: 100 });
    expect(step("drive 30 % for 12.34 cm")).toMatchObject({ travel: { mm: 123.4 } });
  });

  it("says at which column something else was expected", () => {
    expect(problem("drive 35")).toEqual({ message: "“%” is expected where the phrase ends", column: 9 });
    expect(problem("drive 35 % for 20 km")).toMatchObject({
      column: 19,
      message: expect.stringContaining("s, ms, cm, mm, m or rev"),
    });
    expect(problem("turn up 90 at 20 %")).toMatchObject({ column: 6 });
    expect(problem('show "bay')).toMatchObject({ column: 6, message: expect.stringContaining("no closing quote") });
    expect(problem("stop now")).toMatchObject({ column: 6 });
    expect(problem("drive 135 %")).toMatchObject({
      column: 7,
      message: expect.stringContaining("between −100 and 100"),
    });
    expect(problem("")).toMatchObject({ column: 1 });
    expect(problem("follow teal at 25 %")).toMatchObject({
      column: 13,
      message: expect.stringContaining("left edge, right edge or between two sensors"),
    });
    expect(problem("do water 2.5 times")).toMatchObject({ column: 10 });
    expect(problem("meanwhile wait 2 s")?.message).toContain("cannot run meanwhile");
    expect(problem("servo arm to 400 at 60")).toMatchObject({ message: expect.stringContaining("−360 to 360") });
    expect(problem("drive 3 % & 4")).toMatchObject({ column: 11 });
    expect(problem("show picture banana")?.message).toContain("“banana” is not a picture; there is drop, leaf");
    expect(problem("show picture lef")?.message).toContain("did you mean leaf?");
    expect(problem("tune C4 1/3 at 120 a minute")).toMatchObject({
      column: 11,
      message: expect.stringContaining("16"),
    });
    expect(problem("tune C4 1/4 at 10 a minute")).toMatchObject({ column: 16 });
    expect(problem("wait until sat >= 150 %")?.message).toContain("a saturation from 0 to 100 %");
    expect(problem("turn left 90 at -4 %")).toEqual({
      message: "a speed from 1 to 100 % is expected where “-4” stands",
      column: 17,
    });
    expect(problem("wait until tally 3..1")).toMatchObject({ column: 21 });
  });

  it("helps with a word that is nearly right", () => {
    expect(problem("drvie 35 %")?.message).toContain("did you mean drive?");
    expect(problem("lamp corel")?.message).toContain("did you mean coral?");
    expect(problem("go to home")?.message).toContain("there is patrol, homeward");
  });

  it("never fails but by saying where", () => {
    fc.assert(
      fc.property(
        fc.string({ maxLength: 30 }),
        fc.constantFrom(...STEPS.entries.map((k) => k.opening)),
        (rest, opening) => {
          const parsed = parseStep(`${opening} ${rest}`, NAMES);
          if ("problem" in parsed) {
            expect(parsed.problem.column).toBeGreaterThan(0);
            expect(parsed.problem.column).toBeLessThanOrEqual(opening.length + rest.length + 2);
          } else expect(Step.safeParse(parsed.value).success).toBe(true);
        },
      ),
      { numRuns: 500 },
    );
  });
});

describe("what a phrase may go on with", () => {
  const words = (text: string, from: (reader: PhraseReader) => unknown) =>
    completions(text, NAMES, from).map(({ word }) => word);
  const after = (text: string) => words(text, parseStepFrom);

  it("is the words of the grammar and the project's names", () => {
    expect(after("dr")).toEqual(["drive"]);
    expect(after("")).toContain("follow");
    expect(after("turn ")).toEqual(["left", "right"]);
    expect(after("follow t")).toEqual(["teal"]);
    expect(after("follow teal left ")).toEqual(["edge"]);
    expect(after("wait until c")).toContain("coral");
    expect(after("wait until coral ").sort()).toEqual(["and", "or"]);
    expect(after("go to ")).toEqual(["patrol", "homeward"]);
    expect(after("drive 30 % ").sort()).toEqual(["for", "until"]);
    expect(after("lamp coral blink 2 ")).toEqual(["Hz"]);
    expect(after("wait until b")).toContain("belly:");
    expect(after("count ")).toEqual(["tally", "laps"]);
    expect(words("cor", parseTriggerFrom)).toEqual(["coral"]);
    expect(words("coral ", parseTriggerFrom)).toContain("departs");
  });

  it("has blobs and the camera where some sensor gives frames, and only there", () => {
    const withEye = (text: string) =>
      completions(text, { ...NAMES, cameras: ["belly"] }, parseStepFrom).map((c) => c.word);
    expect(withEye("wait until coral ").sort()).toEqual(
      ["and", "or", "width", "height", "area", "x", "y", "error", "left", "right"].sort(),
    );
    expect(withEye("wait until coral left ")).toEqual(["of"]);
    expect(withEye("follow teal by ")).toEqual(["camera"]);
    expect(withEye("follow teal ")).toContain("by");
    expect(after("follow teal ")).not.toContain("by");
  });

  it("is nothing where nothing fits, and never fails", () => {
    expect(after("drive 35 % & ")).toEqual([]);
    fc.assert(fc.property(fc.string({ maxLength: 20 }), (text) => Array.isArray(after(text))));
  });
});

describe("templates", () => {
  const FILL: Record<string, string> = {
    targets: "coral",
    sensors: "belly",
    modes: "patrol",
    lamps: "go",
    counters: "tally",
    buttons: "start-key",
    lists: "route",
    routines: "water",
    servos: "arm",
    gates: "coral-gate",
    crates: "coral-crate",
    condition: "coral or teal",
  };
  it.each(
    STEPS.entries.flatMap((kind) => [...kind.templates, ...(kind.cameraTemplates ?? [])].map((t) => [t, kind.key])),
  )("%s can be filled in", (template, kind) => {
    const phrase = template.replace(
      /\{(\w+)(?: ([^}]*))?\}/g,
      (_, what: string, usual?: string) => FILL[what] ?? (usual ?? "").split("|")[0],
    );
    expect(step(phrase).step).toBe(kind);
  });

  it.each(TRIGGERS.entries.flatMap((kind) => kind.templates.map((t) => [t, kind.key])))(
    "%s can be filled in",
    (template, key) => {
      const phrase = template.replace(
        /\{(\w+)(?: ([^}]*))?\}/g,
        (_, what: string, usual?: string) => FILL[what] ?? usual ?? "",
      );
      expect(triggerKindOf(must(parseTrigger(phrase, NAMES))).key).toBe(key);
    },
  );
});

describe("a button", () => {
  it("begins a row in words of its own, which are offered and told where it alone is typed", () => {
    const trigger = must(parseTrigger("button start-key pressed", NAMES));
    expect(trigger).toEqual({ becomes: { button: "start-key" } });
    expect(printTrigger(trigger)).toBe("button start-key pressed");
    expect(must(parseTrigger("becomes button start-key", NAMES))).toEqual(trigger);
    expect(parseTrigger("start-key pressed", NAMES)).toEqual({
      problem: { message: "“start-key” is a button; “button start-key pressed” is meant", column: 1 },
    });
    // That hint would not help where a condition is read.
    expect(parseStep("wait until start-key", NAMES)).toMatchObject({
      problem: { message: expect.stringContaining("there is no target “start-key”") },
    });
    const words = (phrase: string) => completions(phrase, NAMES, parseTriggerFrom).map(({ word }) => word);
    expect(words("b")).toContain("button");
    expect(words("button ")).toContain("start-key");
    expect(words("button start-key ")).toEqual(["pressed"]);
  });
});

describe("features", () => {
  it("are offered as far as some sensor reports them, and read all the same", () => {
    const coded = { ...NAMES, features: ["code"] };
    const words = completions("becomes ", coded, parseTriggerFrom).map(({ word }) => word);
    expect(words).toContain("code");
    expect(words).not.toContain("hue");
    expect(must(parseTrigger("becomes sat >= 50 %", coded))).toBeDefined();
  });
});

describe("routines", () => {
  it("that reach themselves are named with their way round", () => {
    const does = (id: string, ...others: string[]) => ({
      id,
      steps: numbered(
        "step",
        others.map((routine): Step => ({ step: "do", routine })),
      ),
    });
    expect(routineCircle([does("a", "b"), does("b", "c"), does("c", "b")])).toEqual(["b", "c", "b"]);
    expect(routineCircle([does("a", "a")])).toEqual(["a", "a"]);
    expect(routineCircle([does("a", "b", "c"), does("b", "c"), does("c")])).toBeUndefined();
  });
});

describe("conditions", () => {
  it.each([
    "coral",
    "coral or teal",
    "unknown",
    "hue 350..20",
    "sat >= 50 %",
    "val < 20 %",
    "light > 40",
    "chroma 10..30",
    "r <= 12.5 %",
    "belly: hue 200..260",
    "left-eye: coral",
    "left-eye: coral or left-eye: teal",
    "tally >= 2",
    "tally <= 3",
    "tally = 2",
    "tally 2..4",
    "not coral",
    "not (coral or teal)",
    "(coral or teal) and sat >= 50 %",
    "coral and teal or amber",
    "coral and (teal or tally >= 2)",
    "route holds 3",
    "coral width > 100 px",
    "coral error -20..20 px",
    "belly: coral area >= 400 px",
    "coral left of teal and not amber right of teal",
    "button start-key and not route holds 0",
  ])("%s is read and written the same", (phrase) => {
    expect(printCondition(condition(phrase))).toBe(phrase);
  });

  it("means strictly more by > and one more by tally >", () => {
    expect(condition("sat > 50 %")).toEqual({ feature: "sat", from: 0.5, open: true });
    expect(condition("tally > 1")).toEqual({ count: "tally", from: 2 });
  });

  const leaf: fc.Arbitrary<Condition> = fc.oneof(
    fc
      .uniqueArray(fc.constantFrom("coral", "teal", "unknown"), { minLength: 1, maxLength: 2 })
      .map((seen) => ({ seen: seen as TargetId[] })),
    fc
      .tuple(fc.constantFrom(...FEATURES), fc.integer({ min: 0, max: 50 }), fc.integer({ min: 50, max: 100 }))
      .map(([feature, from, to]) => {
        const share = FEATURE_FACTS[feature].unit === "%" ? 100 : 1;
        return { feature, from: from / share, to: to / share };
      }),
    fc.integer({ min: -5, max: 5 }).map((from) => ({ count: "tally", from })),
    fc.integer({ min: 0, max: 4 }).map((n) => ({ list: "route", holds: n })),
    fc.constant({ button: "start-key" }),
  );
  const { tree } = fc.letrec<{ tree: Condition }>((tie) => ({
    tree: fc.oneof(
      { maxDepth: 4, depthIdentifier: "condition" },
      leaf,
      fc.array(tie("tree"), { minLength: 2, maxLength: 3 }).map((all): Condition => ({ all })),
      fc.array(tie("tree"), { minLength: 2, maxLength: 3 }).map((any): Condition => ({ any })),
      tie("tree").map((not): Condition => ({ not })),
    ),
  }));

  it("written down and read again mean the same, and are then canonical", () => {
    const moment = fc.record({
      seen: fc.constantFrom("coral", "teal", "chalk", "unknown"),
      feature: fc.double({ min: 0, max: 1, noNaN: false }),
      counter: fc.integer({ min: -6, max: 6 }),
    });
    fc.assert(
      fc.property(tree, moment, (c, { seen, ...more }) => {
        const text = printCondition(c);
        const again = condition(text);
        const now = new Stand({}).put({
          ...more,
          seen: { belly: seen },
          length: Math.abs(more.counter),
          pressed: more.counter > 0,
          still: false,
        });
        expect(now.holds(again)).toBe(now.holds(c));
        const canonical = printCondition(again);
        expect(printCondition(condition(canonical))).toBe(canonical);
      }),
      { numRuns: 500 },
    );
  });
});

describe("triggers", () => {
  it.each([
    "coral arrives",
    "coral or teal arrives",
    "teal is present",
    "left-eye: teal arrives",
    "nothing known for 4 s",
    "belly: nothing known for 0.5 s",
    "after 20 s",
    "becomes tally >= 2",
    "coral departs",
    "left-eye: coral or teal departs",
    "holds belly: hue 200..260",
    "button start-key pressed",
  ])("%s is read and written the same", (phrase) => {
    const parsed = parseTrigger(phrase, NAMES);
    expect("value" in parsed && printTrigger(parsed.value)).toBe(phrase);
  });

  it("says what is missing", () => {
    expect(parseTrigger("coral", NAMES)).toMatchObject({ problem: { column: 6 } });
    expect(parseTrigger("crail arrives", NAMES)).toMatchObject({ problem: { column: 1 } });
  });
});
