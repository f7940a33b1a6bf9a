import { glasshouseRound } from "@perceptum/core/demo";
import { splitProject } from "@perceptum/core/project";
import { run, verdicts } from "@perceptum/core/world";
import { describe, expect, it } from "vitest";
import { momentOf } from "./momentOf";

const { document } = splitProject(glasshouseRound());
const trace = run(document, { course: "aisle", light: "overcast", seed: 1 });
const last = {
  trace,
  project: document,
  base: document,
  under: "",
  choice: { course: "aisle" },
  verdicts: verdicts(trace).map((v) => v.verdict),
};
const at = (kind: string, text: string) =>
  trace.notes.find((n) => n.kind === kind && JSON.stringify(n).includes(text))?.t ?? Number.NaN;

describe("what the robot shows", () => {
  it("is its pose at every tick, and the last one after the end", () => {
    expect(momentOf(last, 0)).toMatchObject({ x: 160, y: 400, heading: 0, modeName: "Patrol" });
    expect(momentOf(last, 1003).x).toBe(trace.x[200]);
    expect(momentOf(last, 1e9).y).toBe(trace.y.at(-1));
  });

  it("is the mode's name as it changes", () => {
    const bay = at("mode", "bay");
    expect([momentOf(last, bay - 1).modeName, momentOf(last, bay).modeName]).toEqual(["Patrol", "In the bay"]);
  });

  it("is a blinking lamp, twice a second on and off, until it is switched off", () => {
    const lit = at("step", "lamp coral blink 2 Hz");
    expect([0, 200, 300, 600].map((ms) => momentOf(last, lit + ms).lamp)).toEqual([
      "#e4573d",
      "#e4573d",
      null,
      "#e4573d",
    ]);
    expect(momentOf(last, at("step", "lamp off")).lamp).toBeNull();
  });

  it("is what its display was told last", () => {
    expect(momentOf(last, 0).display).toBe("");
    expect(momentOf(last, trace.endMs).display).toBe("tally 2");
  });
});
