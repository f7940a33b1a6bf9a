import { describe, expect, it } from "vitest";
import { glasshouseRound } from "../demo";
import type { ModeId, ResponseId, StepId } from "../names";
import { type ProjectDocument, splitProject } from "../project";
import { alikeSteps, DoneRoutines, type ListedStep, namesOf, parseStep, printStep, withInputs } from ".";

const { document } = splitProject(glasshouseRound());
const names = namesOf(document);

/** The demo's behaviour with these steps, a phrase each, in the first responses of its first mode. */
function withSteps(...lists: string[][]): ProjectDocument["behaviour"] {
  const [mode, ...modes] = document.behaviour.modes;
  const responses = mode.responses.map((response, i) => {
    const steps = (lists[i] ?? ["stop"]).map((phrase, k): ListedStep => {
      const read = parseStep(phrase, names);
      if ("problem" in read) throw new Error(read.problem.message);
      return { ...read.value, id: `step-${k + 1}` as StepId };
    });
    return { ...response, steps };
  });
  const emptied = modes.map((one) => ({ ...one, entering: [], responses: [] }));
  return { ...document.behaviour, modes: [{ ...mode, entering: [], responses }, ...emptied], routines: [] };
}
const mode = document.behaviour.modes[0].id as ModeId;
const at = (i: number) => ({ mode, response: document.behaviour.modes[0].responses[i].id as ResponseId });
const ids = (...numbers: number[]) => numbers.map((n) => `step-${n}` as StepId);
const found = (picked: readonly StepId[], ...lists: string[][]) => alikeSteps(withSteps(...lists), at(0), picked);

describe("steps that stand elsewhere too", () => {
  it("differ by numbers, targets and texts, each an input; those that go together are one", () => {
    const { inputs, steps, others } = found(
      ids(1, 2, 3),
      ["lamp coral blink 2 Hz", "wait 2 s", "turn left 90 at 30 %"],
      ["stop", "lamp teal blink 4 Hz", "wait 500 ms", "turn left 90 at 45 %"],
      ["lamp coral blink 2 Hz", "wait 2 s", "turn left 90 at 45 %", "stop"],
    );
    expect(inputs).toEqual([
      { name: "mark", kind: "target", value: "coral" },
      { name: "times", kind: "number", value: "2" },
      { name: "time", kind: "time", value: "2 s" },
      { name: "pace", kind: "speed", value: "30 %" },
    ]);
    expect(steps.map((step) => withInputs(printStep(step), names, step.takes))).toEqual([
      "lamp mark blink times Hz",
      "wait time",
      "turn left 90 at pace",
    ]);
    expect(others).toEqual([
      {
        at: at(1),
        steps: ids(2, 3, 4),
        given: [
          { input: "mark", kind: "target", value: "teal" },
          { input: "times", kind: "number", value: "4" },
          { input: "time", kind: "time", value: "500 ms" },
          { input: "pace", kind: "speed", value: "45 %" },
        ],
      },
      { at: at(2), steps: ids(1, 2, 3), given: [{ input: "pace", kind: "speed", value: "45 %" }] },
    ]);
    const same = found(ids(1, 2), ["wait 2 s", "drive 30 % for 2 s"], ["wait 3 s", "drive 30 % for 3 s"]);
    expect(same.inputs).toEqual([{ name: "time", kind: "time", value: "2 s" }]);
    const apart = found(ids(1, 2), ["wait 2 s", "drive 30 % for 2 s"], ["wait 3 s", "drive 30 % for 4 s"]);
    expect(apart.inputs.map(({ name }) => name)).toEqual(["time", "time-2"]);
  });

  it.each([
    ["another way to say where", ["lamp coral"], ["lamp off"]],
    ["left for right", ["turn left 90 at 30 %"], ["turn right 90 at 30 %"]],
    ["another order", ["stop", "wait 2 s"], ["wait 2 s", "stop"]],
    ["a value that no input can be", ["count tally + 1"], ["count tally - 1"]],
  ])("are not the same with %s", (_, own, other) => {
    expect(found(ids(...own.map((_, i) => i + 1)), own, other).others).toEqual([]);
  });

  it("do as a routine with their values what they did", () => {
    const lists = [
      ["drive 30 % for 20 cm", 'say "dry"', "wait 2 s"],
      ["drive -20 % for 5 cm", 'say "wet"', "wait 2 s"],
    ];
    const behaviour = withSteps(...lists);
    const { inputs, steps, others } = alikeSteps(behaviour, at(0), ids(1, 2, 3));
    const routine = { id: "told", name: "told", inputs, steps: [...steps] };
    const done = new DoneRoutines({ ...behaviour, routines: [routine] });
    const written = (place: number) => done.all[place].steps.map((step) => printStep(step));
    expect(written(done.place("told"))).toEqual(lists[0]);
    expect(written(done.place("told", others[0].given))).toEqual(lists[1]);
  });

  it("are not looked for where steps take something of their routine", () => {
    const behaviour = withSteps(["wait 3 s"]);
    const taking = { id: "step-1" as StepId, step: "wait", ms: 2000, takes: { 0: "span" } } as ListedStep;
    const routine = { id: "pause", name: "Pause", inputs: [], steps: [taking] };
    expect(alikeSteps({ ...behaviour, routines: [routine] }, { routine: "pause" }, ids(1)).others).toEqual([]);
    expect(alikeSteps({ ...behaviour, routines: [routine] }, at(0), ids(1)).others).toEqual([]);
  });
});
