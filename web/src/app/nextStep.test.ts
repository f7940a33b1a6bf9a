import { glasshouseRound } from "@perceptum/core/demo";
import { emptyProject, type ProjectDocument, splitProject } from "@perceptum/core/project";
import type { Verdict } from "@perceptum/core/world";
import { describe, expect, it } from "vitest";
import { STAGES } from "../model/stages";
import { type KnownProgress, nextStep, type Way } from "./nextStep";

const { document: demo } = splitProject(glasshouseRound());
const empty = emptyProject("New project");
const standing = (now: Partial<KnownProgress> = {}): KnownProgress => ({
  project: demo,
  right: 1,
  checks: 6,
  verdicts: [],
  swept: null,
  runShown: true,
  ...now,
});
const verdicts = (...outcomes: Verdict["outcome"][]): Verdict[] => outcomes.map((outcome) => ({ outcome, figure: "" }));
/** The marks of the demo of which `keep` says so. */
const marked = (keep: (background: boolean) => boolean): ProjectDocument => {
  const backgrounds = new Set<string>(demo.targets.filter((t) => t.kind === "background").map((t) => t.id));
  return {
    ...demo,
    tapes: demo.tapes.map((tape) => ({ ...tape, marks: tape.marks.filter((m) => keep(backgrounds.has(m.target))) })),
  };
};
/** A project whose one sensor reports codes, with what they stand for, and nothing recorded. */
const coded = (codes: Record<string, string>): ProjectDocument => ({
  ...demo,
  tapes: [],
  sensors: [{ ...demo.sensors[0], reports: "code", codes: codes as never }],
});
const named = (way: Way) => ("to" in way ? way.to : "text" in way ? way.text : "");

describe("what comes next", () => {
  it.each([
    [
      "sense",
      { project: empty },
      "Nothing is recorded yet",
      ["Record on the bench", "Readings from a file", "Pictures of a camera", "A demo to change"],
    ],
    ["sense", { project: marked(() => false) }, "Nothing is marked yet", ["Record on the bench"]],
    ["sense", { project: marked((background) => !background) }, "Mark the floor, too", ["Record on the bench"]],
    ["sense", { project: marked((background) => background) }, "Only backgrounds", ["Record on the bench"]],
    ["sense", {}, "Targets and backgrounds are marked", ["decide"]],
    ["decide", { right: null }, "no rule can be tried", ["sense"]],
    ["decide", { project: { ...demo, ruleSets: empty.ruleSets } }, "There are no rules yet", ["Suggest rules"]],
    ["decide", { right: 0.913 }, "91.3 % of the marked readings", ["Suggest rules"]],
    ["decide", {}, "Next: what does the robot do?", ["act"]],
    ["act", { project: empty }, "The robot does nothing yet", ["Add a row"]],
    ["act", {}, "The robot knows what to do", ["prove"]],
    ["prove", { checks: 0, verdicts: null }, "no checks yet", ["Add the first check"]],
    ["prove", { checks: 1, verdicts: null }, "This course has 1 check. Does it hold?", []],
    [
      "prove",
      { checks: 2, verdicts: null, runShown: false },
      "This course has 2 checks. Do they hold?",
      ["To the run"],
    ],
    ["prove", { verdicts: verdicts("holds", "does not", "not reached") }, "1 of 6 checks fails", []],
    ["prove", { verdicts: verdicts("holds", "not reached", "not reached") }, "2 of 6 checks could not be decided", []],
    ["prove", { verdicts: verdicts("holds", "holds") }, "All checks hold", ["Try a sweep", "ship"]],
    [
      "prove",
      { verdicts: verdicts("holds"), swept: { passed: 31, runs: 40 } },
      "held in 31 of 40 runs",
      ["To the sweep"],
    ],
    ["prove", { verdicts: verdicts("holds"), swept: { passed: 40, runs: 40 } }, "in all 40 of the sweep", ["ship"]],
    ["prove", { verdicts: null, swept: { passed: 1, runs: 40 }, runShown: false }, "held in 1 of 40 runs", []],
    ["ship", { right: 0.5 }, "The rules are not ready yet", ["decide"]],
    ["ship", { verdicts: null }, "Not every check has held", ["prove"]],
    ["ship", { verdicts: verdicts("holds") }, "All is ready", []],
    ["sense", { project: coded({ 1: "coral" }), right: null }, "What the codes stand for is said", ["act"]],
    ["decide", { project: coded({ 1: "coral" }), right: null }, "Codes need no rules", ["act"]],
    ["ship", { project: coded({ 1: "coral" }), right: null, verdicts: verdicts("holds") }, "All is ready", []],
    ["decide", { project: coded({}), right: null }, "no rule can be tried", ["sense"]],
    ["ship", { project: coded({}), right: null }, "The rules are not ready yet", ["decide"]],
  ] as const)("at %s with %j", (stage, now, text, ways) => {
    const next = nextStep(stage, standing(now as Partial<KnownProgress>));
    expect(next.text).toContain(text);
    expect(next.ways.map(named)).toEqual(ways);
  });

  it("is said at every stage, as a sentence", () => {
    for (const { id } of STAGES)
      expect(nextStep(id, standing({ project: empty, right: null, checks: 0 })).text).toMatch(/[.?]$/);
  });
});
