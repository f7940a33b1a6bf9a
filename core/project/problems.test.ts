import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { packFrame } from "../../demo/packFrame";
import { bedWatch, glasshouseRound, pottingShed } from "../demo";
import { readProject } from "./file";

/** The demo with one value of it, named by its path, another one (or none). */
function demoWith(path: string, value: unknown): string {
  const project = structuredClone(glasshouseRound()) as unknown as Record<string, unknown>;
  const keys = path.split(/[.[\]]+/).filter((key) => key !== "");
  let within = project;
  for (const key of keys.slice(0, -1)) within = within[key] as Record<string, unknown>;
  within[keys[keys.length - 1]] = value;
  return JSON.stringify(project);
}

const RESPONSE = "behaviour.modes[0].responses[0]";
const CASES: [path: string, value: unknown, place: string, message: string | RegExp][] = [
  // What is of the wrong kind.
  ["sensors[0].periodMs", "often", "sensors[0].periodMs", "must be a number"],
  ["sensors[0].periodMs", undefined, "sensors[0].periodMs", "is missing; it must be a number"],
  ["targets", "none", "targets", "must be a list"],
  ["behaviour", 7, "behaviour", "must be an object"],
  ["tapes[0].readings.channels.g[3]", "x", "tapes[0].readings.channels.g[3]", "must be a number"],
  [`${RESPONSE}.on`, "yes", `${RESPONSE}.on`, "must be true or false"],
  [`${RESPONSE}.guard`, { feature: "sat", from: "much" }, `${RESPONSE}.guard.from`, "must be a number"],
  // What is too small or too large.
  ["sensors[0].periodMs", 0, "sensors[0].periodMs", "must be at least 1"],
  ["courses[0].size", [0, 0], "courses[0].size[0]", "must be above 0"],
  ["courses[0].starts", [], "courses[0].starts", "must have at least 1 entry"],
  ["courses[0].patches[0].target", { oneOf: [] }, "courses[0].patches[0].target.oneOf", "must have at least 2 entries"],
  ["courses[0].patches[0].shape", { rect: [0, 5] }, "courses[0].patches[0].shape.rect[0]", "must be above 0"],
  [`${RESPONSE}.steps[0]`, { step: "wait", ms: -1 }, `${RESPONSE}.steps[0].ms`, "must be above 0"],
  ["robot.motors[0].lagMs", -5, "robot.motors[0].lagMs", "must be at least 0"],
  ["name", "x".repeat(500), "name", /at most \d+ characters/],
  // What is no word that is known.
  ["sensors[0].reports", "smell", "sensors[0].reports", "is none of rgb, rgbc, hsv, hue, reflected, code, frames"],
  ["targets[0].kind", "thing", "targets[0].kind", "is none of tag, piece, card, background"],
  ["robot.kind", "walker", "robot.kind", "is none of cart, hand, carrier, sorter"],
  [
    `${RESPONSE}.steps[0]`,
    { step: "dance" },
    `${RESPONSE}.steps[0].step`,
    /^is none of drive, wheels, turn, .*meanwhile$/,
  ],
  [
    `${RESPONSE}.when`,
    { turns: 1 },
    `${RESPONSE}.when`,
    "has turns, where one of arrives, departs, present, nothingKnownFor, after, becomes, holds is expected",
  ],
  [
    "courses[0].patches[0].shape",
    { square: 5 },
    "courses[0].patches[0].shape",
    "has square, where one of rect, disc, polygon is expected",
  ],
  [
    "courses[0].checks[0]",
    { wins: true },
    "courses[0].checks[0]",
    /^has wins, where one of seesInOrder, .* is expected$/,
  ],
  ["surprise", 1, "the whole file", "has “surprise”, which is not known here"],
  ["lights[0].colour", "red", "lights[0]", "has “colour”, which is not known here"],
  // What contradicts itself.
  ["sensors[0].scale.r", [5, 5], "sensors[0].scale.r", "the scale's end must lie above its start"],
  ["sensors[0].reference.white", [1, 2, 3], "sensors[0].reference", "white must lie above dark in every channel"],
  ["ruleSets[0].steady.hits", 9, "ruleSets[0].steady", "hits cannot exceed the readings they are counted among"],
  [
    "ruleSets[0].rules[0].any[0].all[1]",
    { feature: "sat", from: 0.9, to: 0.1 },
    "ruleSets[0].rules[0].any[0].all[1]",
    "only a hue band may start above its end",
  ],
  ["tapes[0].marks[0].to", -1, "tapes[0].marks[0]", "a mark must not end before it starts"],
  ["tapes[0].readings.t[5]", -5, "tapes[0].readings", "times must not go backwards"],
  ["tapes[0].readings.channels.r", [1, 2], "tapes[0].readings", "every channel needs one value for each time"],
  ["targets[1].id", "coral", "targets[1]", "the target “coral” is there twice"],
  [
    "behaviour.counters[0]",
    "coral",
    "behaviour.counters[0]",
    "the counter “coral” has the id of a target: a phrase could not tell them apart",
  ],
  ["robot.lamps", ["patrol"], "robot.lamps[0]", /the lamp “patrol” has the id of a mode/],
  ["targets[1].id", "after", "targets[1].id", /reserved for phrases/],
  ["targets[1].name", "Coral\nimport os", "targets[1].name", "a name stands on one line, without control characters"],
  ["targets[0].code", "C", "targets[0].code", "a code is two letters, or a letter and a digit"],
  ["targets[0].paint", "red", "targets[0].paint", "a colour is written #rrggbb in lower case"],
  // What names something that is not there.
  [
    "sensors[0].ruleSet",
    "nowhere",
    "sensors[0].ruleSet",
    "names the rule set “nowhere”, which the project does not have",
  ],
  ["behaviour.start", "nowhere", "behaviour.start", "names the mode “nowhere”, which the project does not have"],
  [
    `${RESPONSE}.when`,
    { arrives: ["nobody"] },
    `${RESPONSE}.when.arrives`,
    "names the target “nobody”, which the project does not have",
  ],
  ["courses[0].checks[1]", { answersOnce: "nobody" }, "courses[0].checks[1].answersOnce", /names the target “nobody”/],
  ["robot.mounts[0].sensor", "nobody", "robot.mounts[0].sensor", /names the sensor “nobody”/],
  ["tapes[0].sensor", "nobody", "tapes[0].sensor", /names the sensor “nobody”/],
];

describe("a project file with one thing wrong", () => {
  it.each(CASES)("%s = %j is refused with its place and a sentence", (path, value, place, message) => {
    const read = readProject(demoWith(path, value));
    const problem = "problem" in read ? read.problem : undefined;
    expect(problem?.place).toBe(place);
    if (typeof message === "string") expect(problem?.message).toBe(message);
    else expect(problem?.message).toMatch(message);
  });

  it("never speaks in the words of the program that checks it", () => {
    for (const [path, value] of CASES) {
      const read = readProject(demoWith(path, value));
      expect("problem" in read && read.problem.message, path).not.toMatch(/Invalid|undefined|received|Too |"/);
    }
  });

  it("is read when nothing is", () => {
    expect(readProject(demoWith("name", "Another name"))).toMatchObject({ project: { name: "Another name" } });
  });
});

describe("a project file that was spoilt", () => {
  /** Every place in a value, as a path. */
  const pathsIn = (value: unknown, path: PropertyKey[] = []): PropertyKey[][] =>
    value === null || typeof value !== "object"
      ? [path]
      : [path, ...Object.entries(value).flatMap(([key, inner]) => pathsIn(inner, [...path, key]))];
  // Long columns would be hit by most of the draws: a few readings and frames will do.
  const short = [glasshouseRound(), pottingShed(), bedWatch(packFrame)].map((project) => ({
    ...project,
    tapes: project.tapes.slice(0, 1).map((tape) => ({
      ...tape,
      readings: {
        t: tape.readings.t.slice(0, 8),
        channels: Object.fromEntries(
          Object.entries(tape.readings.channels).map(([key, column]) => [key, column.slice(0, 8)]),
        ),
      },
    })),
  }));
  const places = short.map((project) => pathsIn(project));

  it("at any one place is read, or refused with a sentence and a place; nothing throws", () => {
    const strange = fc.oneof(
      fc.constantFrom<unknown>(undefined, null, {}, [], "", 0, -1, 1e21, true, "7", [null], [[[1]]], { t: null }),
      fc.json({ maxDepth: 3 }).map((text) => JSON.parse(text) as unknown),
    );
    fc.assert(
      fc.property(fc.nat(short.length - 1), fc.nat(1_000_000), strange, (which, at, value) => {
        const project = JSON.parse(JSON.stringify(short[which])) as Record<PropertyKey, unknown>;
        const path = places[which][at % places[which].length];
        let within = project;
        for (const key of path.slice(0, -1)) within = within[key] as Record<PropertyKey, unknown>;
        const last = path.at(-1);
        const text =
          last === undefined
            ? JSON.stringify(value ?? null)
            : JSON.stringify(Object.assign(within, { [last]: value }) && project);
        const read = readProject(text);
        if ("problem" in read) {
          expect(read.problem.message).not.toBe("");
          expect(read.problem.place).not.toBe("");
        }
      }),
      { numRuns: 300 },
    );
  });

  it.each([undefined, null, "0, 20", { 0: 0 }])("in the times of a tape, %o, says so", (t) => {
    const read = readProject(demoWith("tapes[0].readings.t", t));
    expect(read).toMatchObject({ problem: { place: "tapes[0].readings.t", message: "must be a list" } });
  });

  it("nested a hundred thousand deep behind a number is refused", () => {
    const deep = `[1,${"[".repeat(200_000)}${"]".repeat(200_000)}]`;
    const text = demoWith("behaviour", "HERE").replace('"HERE"', deep);
    expect(readProject(text)).toMatchObject({ problem: { message: expect.stringContaining("levels deep") } });
  });
});
