import { describe, expect, it } from "vitest";
import { namesOf, parseStep, type Step } from "../behaviour";
import { glasshouseRound } from "../demo";
import { splitProject } from "../project";
import { tryStep } from "./tryStep";

const { document } = splitProject(glasshouseRound());
const project = {
  ...document,
  robot: { ...document.robot, servos: [{ id: "arm", from: -90, to: 90, at: 0 }] },
};
const names = namesOf(project);

function step(phrase: string): Step {
  const parsed = parseStep(phrase, names);
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
    expect(tryStep(project, step("lamp coral blink 2 Hz")).outputs).toEqual(["lamp main on"]);
    expect(tryStep(project, step("lamp off")).outputs).toEqual(["lamp main off"]);
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

  it("needs something to stand on", () => {
    expect(() => tryStep({ ...project, targets: [] }, step("stop"))).toThrow("there is no ground to try it on");
  });
});
