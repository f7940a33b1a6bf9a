import { describe, expect, it } from "vitest";
import { namesOf, parseStep, type Step } from "../behaviour";
import { glasshouseRound, pipeRailCarrier, pottingShed } from "../demo";
import { type ProjectDocument, splitProject } from "../project";
import { machineOf } from "./robots";
import { tryStep } from "./tryStep";

const { document } = splitProject(glasshouseRound());
const project = {
  ...document,
  robot: { ...document.robot, servos: [{ id: "arm", from: -90, to: 90, at: 0 }] },
};
const step = (phrase: string): Step => stepOf(phrase, project);

function stepOf(phrase: string, at: ProjectDocument): Step {
  const parsed = parseStep(phrase, namesOf(at));
  if ("problem" in parsed) throw new Error(parsed.problem.message);
  return parsed.value;
}

describe("one step alone, tried", () => {
  it("goes its way from a stand on bare ground, and comes to rest", () => {
    const tried = tryStep(project, step("drive 30 % for 20 cm"));
    expect(tried.ended).toBe(true);
    // A little farther than it was told: it has to come to a stand.
    expect(tried.mm).toBeGreaterThan(199);
    expect(tried.mm).toBeLessThan(215);
    expect(Math.abs(tried.degrees)).toBeLessThan(0.5);
    expect(tried.slipped).toBe(false);
  });

  it("turns on the spot", () => {
    const tried = tryStep(project, step("turn left 90 at 25 %"));
    expect(tried.degrees).toBeGreaterThan(89);
    expect(tried.degrees).toBeLessThan(97);
    expect(tried.mm).toBeLessThan(1);
  });

  it("without an end is looked at for ten seconds", () => {
    const tried = tryStep(project, step("drive 20 %"));
    expect(tried).toMatchObject({ ended: false, ms: 10_000 });
    expect(tried.mm).toBeGreaterThan(700);
  });

  it("takes as long as it says, and is told by what it gives out", () => {
    expect(tryStep(project, step("wait 0.75 s"))).toMatchObject({ ended: true, ms: 750, mm: 0, outputs: [] });
    expect(tryStep(project, step("lamp coral blink 2 Hz")).outputs).toEqual(["lamp on"]);
    expect(tryStep(project, step("lamp off")).outputs).toEqual(["lamp off"]);
    expect(tryStep(project, step("tone A4 for 0.1 s")).outputs).toEqual(["a tone of 440 Hz"]);
    expect(tryStep(project, step('say "thirsty"')).outputs).toEqual(["says “thirsty”"]);
    expect(tryStep(project, step('show "bay 2"')).outputs).toEqual(["shows “bay 2”"]);
    expect(tryStep(project, step("show picture drop")).outputs).toEqual(["shows the picture of a drop"]);
    expect(tryStep(project, step("servo arm to 45 at 90")).outputs).toEqual(["arm to 45°"]);
  });

  it("slips when it is more than the floor can hold", () => {
    const light = { ...project.robot, tractionMmS2: 200 } as typeof project.robot;
    expect(tryStep({ ...project, robot: light }, step("drive 100 % for 0.3 s")).slipped).toBe(true);
  });

  it("is tried on a rail that goes on both ways, and on a belt that nothing lies on", () => {
    const rail = splitProject(pipeRailCarrier()).document;
    const there = tryStep(rail, stepOf("drive 30 % for 20 cm", rail));
    expect(there).toMatchObject({ ended: true, degrees: 0 });
    expect(there.mm).toBeGreaterThan(199);
    expect(there.mm).toBeLessThan(230);
    expect(tryStep(rail, stepOf("drive -30 %", rail))).toMatchObject({ ended: false, ms: 10_000 });
    const shed = splitProject(pottingShed()).document;
    const { belt } = machineOf(shed.robot);
    const top = machineOf(shed.robot).topSpeed;
    const goes = tryStep(shed, stepOf("drive 50 %", shed)).mm;
    expect(Math.abs(goes / (5 * top) - 1)).toBeLessThan(0.05);
    const [gate] = belt?.gates ?? [];
    expect(tryStep(shed, stepOf(`gate ${gate.id} open`, shed)).outputs).toEqual([`${gate.id} opens`]);
  });

  it("needs something to stand on", () => {
    expect(() => tryStep({ ...project, targets: [] }, step("stop"))).toThrow("there is no ground to try it on");
  });
});
