import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { freeId, RESERVED_WORDS } from "../names";
import { completed, completions, parsePhrase } from "../phrases";
import { parseCondition, parseStep, parseStepFrom, parseTrigger, parseTriggerFrom, phraseWords } from ".";
import { must, project } from "./arbitrary";

/** The test project with its targets and modes under other names. */
function named(names: Record<string, string>) {
  const made = project({ patrol: {}, home: {} });
  const called = <T extends { id: string; name: string }>(things: readonly T[]) =>
    things.map((thing) => ({ ...thing, name: names[thing.id] ?? thing.name }));
  return {
    ...made,
    targets: called(made.targets),
    sensors: called(made.sensors),
    robot: {
      ...made.robot,
      gates: called([
        { id: "first", name: "first" },
        { id: "second", name: "second" },
      ]),
    },
    behaviour: { ...made.behaviour, modes: called(made.behaviour.modes) },
  };
}

const CALLED = named({ red: "Coral tag", green: "Coral", blue: "Blue bed 2", patrol: "Patrol", home: "In the bay" });

describe("phrases as people see them", () => {
  const words = phraseWords(CALLED);
  const trigger = (phrase: string) => must(parseTrigger(phrase, words.names));

  it.each([
    ["coral tag or blue bed 2 arrives", "Coral tag or Blue bed 2 arrives", { arrives: ["red", "blue"] }],
    ["Coral arrives", "Coral arrives", { arrives: ["green"] }],
    ["CORAL  TAG departs", "Coral tag departs", { departs: ["red"] }],
    ["coral-tag is present", "Coral tag is present", { present: ["red"] }],
    ["red arrives", "Coral tag arrives", { arrives: ["red"] }],
  ])("“%s” is understood, and shown as “%s”", (typed, shown, means) => {
    expect(trigger(typed)).toEqual(means);
    expect(words.trigger(trigger(typed))).toBe(shown);
  });

  it("show names of modes and targets in steps and conditions, and follow a renaming", () => {
    const step = must(parseStep("go to in the bay", words.names));
    expect(step).toEqual({ step: "go to", mode: "home" });
    expect(words.step(step)).toBe("go to In the bay");
    expect(phraseWords(named({ home: "Home again" })).step(step)).toBe("go to Home again");
    const condition = must(parsePhrase("coral tag or blue bed 2", words.names, parseCondition));
    expect(words.condition(condition)).toBe("Coral tag or Blue bed 2");
    expect(words.written("go to home")).toBe("go to In the bay");
    expect(words.written("what is no step")).toBe("what is no step");
  });

  it("offer names, also where they are half typed", () => {
    const after = (text: string) => completions(text, words.names, parseStepFrom);
    expect(after("wait until cor")).toEqual([
      { from: 11, word: "Coral tag" },
      { from: 11, word: "Coral" },
    ]);
    expect(after("wait until Coral t")).toContainEqual({ from: 11, word: "Coral tag" });
    expect(after("go to in the")).toEqual([{ from: 6, word: "In the bay" }]);
  });

  it("offer what comes next right behind a name, and put a space between", () => {
    const after = (text: string) => completions(text, words.names, parseTriggerFrom);
    expect(after("Coral tag")).toContainEqual({ from: 9, word: "arrives" });
    // “Coral” is a name, and the beginning of another one.
    expect(after("coral").map(({ word }) => word)).toEqual(expect.arrayContaining(["Coral tag", "arrives"]));
    // A whole phrase is left in peace until a space is typed.
    expect(after("coral tag arrives")).toEqual([]);
    expect(completions("wait until coral tag", words.names, parseStepFrom)).toEqual([]);
    const taken = (text: string, word: string) => {
      const found = after(text).find((completion) => completion.word === word);
      return found && completed(text, found);
    };
    expect(taken("coral", "Coral tag")).toBe("Coral tag ");
    expect(taken("coral", "arrives")).toBe("coral arrives ");
    expect(taken("becomes (", "Coral tag")).toBe("becomes (Coral tag ");
  });

  it("say which name was meant", () => {
    const wrong = parseTrigger("coraal arrives", words.names);
    expect(wrong).toEqual({ problem: { column: 1, message: "there is no target “coraal”; did you mean Coral tag?" } });
  });

  it("keep the id where a name would be read as something else", () => {
    const shown = (names: Record<string, string>) => phraseWords(named(names)).trigger({ arrives: ["red" as never] });
    // A word of the phrases, another thing's name or id, and a name that goes on like a phrase about another.
    for (const name of ["until", "Unknown", "green", "Green"]) expect(shown({ red: name })).toBe("red arrives");
    expect(shown({ red: "Bed", green: "bed" })).toBe("red arrives");
    expect(shown({ red: "Bed or pot", green: "Bed" })).toBe("red arrives");
    expect(shown({ red: 'A "quoted" one' })).toBe("red arrives");
    expect(shown({ red: "Bed & pot (left)" })).toBe("Bed & pot (left) arrives");
    const opened = phraseWords(named({ first: "Pot", second: "Pot open" })).step;
    expect(opened({ step: "gate", gate: "first", to: "open" })).toBe("gate Pot open");
    expect(opened({ step: "gate", gate: "second", to: "open" })).toBe("gate second open");
  });

  it("are read back as the same, whatever things are called", () => {
    const word = fc.constantFrom(
      "bed",
      "Bed",
      "or",
      "is",
      "present",
      "red",
      "left",
      "2",
      "Ü",
      "%",
      "(",
      ":",
      "until",
      "open",
      "-",
    );
    const name = fc
      .array(word, { minLength: 1, maxLength: 4 })
      .map((all) => all.join(" ").trim())
      .filter((text) => text !== "");
    const things = ["red", "green", "blue", "belly", "patrol", "home", "first", "second"];
    fc.assert(
      fc.property(fc.record(Object.fromEntries(things.map((thing) => [thing, name]))), (names) => {
        const { trigger, step, names: known } = phraseWords(named(names));
        const both = { arrives: ["red", "blue"], sensor: "belly" } as never;
        const going = { step: "go to", mode: "home" } as never;
        const waiting = { step: "wait", until: { any: [{ seen: ["green"] }, { feature: "hue", from: 10 }] } } as never;
        expect(parseTrigger(trigger(both), known)).toEqual({ value: both });
        expect(parseStep(step(going), known)).toEqual({ value: going });
        for (const gate of ["first", "second"]) {
          const opening = { step: "gate", gate, to: "open" } as never;
          expect(parseStep(step(opening), known)).toEqual({ value: opening });
        }
        expect(parseStep(step(waiting), known)).toEqual({ value: waiting });
      }),
      { numRuns: 500 },
    );
  });

  it("are read by every id that a name gives", () => {
    for (const name of ["Water it", "Left eye", ...RESERVED_WORDS]) {
      const words = phraseWords(named({ red: name }));
      const id = freeId<string>(name, ["red"]);
      if (/-\d+$/.test(id)) continue;
      expect(parseTrigger(`${id} arrives`, words.names)).toEqual({ value: { arrives: ["red"] } });
    }
  });
});
