import { glasshouseRound } from "@perceptum/core/demo";
import { splitProject } from "@perceptum/core/project";
import { run, verdicts } from "@perceptum/core/world";
import { describe, expect, it } from "vitest";
import { momentOf } from "./momentOf";
import { tellTrail } from "./tellTrail";

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

describe("a lamp that blinks", () => {
  // Coral's answer blinks at 2 Hz: it is dark a quarter of a second after it began.
  const blink = trace.outputs.find(({ command }) => command.kind === "lamp" && command.blinkHz === 2)?.t ?? Number.NaN;

  it("is dark half of the time, and lit throughout where it would flash too often", () => {
    expect([momentOf(last, blink + 10).lamp, momentOf(last, blink + 260).lamp]).toEqual(["#e4573d", null]);
    expect([momentOf(last, blink + 260, 2).lamp, momentOf(last, blink + 260, 1.9).lamp]).toEqual([null, "#e4573d"]);
  });
});

describe("the trail in words", () => {
  it("says where it leads and what was seen on it up to then", () => {
    expect(tellTrail(last, 0)).toBe("The trail goes from 16, 40 cm to 16, 40 cm; nothing was seen on it.");
    const first = trace.notes.find((note) => note.kind === "arrives")?.t ?? Number.NaN;
    expect(tellTrail(last, first)).toMatch(
      /^The trail goes from 16, 40 cm to \d+, 40 cm; seen on it: .+ at \d\.\d s by .+\.$/,
    );
  });
});

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

describe("its sounder and servos", () => {
  const told = (outputs: (typeof trace)["outputs"]) => ({
    ...last,
    trace: { ...trace, outputs },
    project: {
      ...document,
      robot: { ...document.robot, servos: [{ id: "arm", from: -90, to: 90, at: 10 }] },
    },
  });

  it("sound for as long as they were told, and words for a while", () => {
    const heard = told([
      { t: 100, command: { kind: "tone", hertz: 440, ms: 300 } },
      { t: 1000, command: { kind: "say", text: "thirsty" } },
    ]);
    expect([50, 100, 399, 400, 1000, 2199, 2200].map((t) => momentOf(heard, t).sound)).toEqual([
      "",
      "♪ 440 Hz",
      "♪ 440 Hz",
      "",
      "“thirsty”",
      "“thirsty”",
      "",
    ]);
  });

  it("turn at their speed, and from where they are when they are told anew", () => {
    const turning = told([
      { t: 0, command: { kind: "servo", servo: "arm", degrees: 70, degreesPerSecond: 60 } },
      { t: 500, command: { kind: "servo", servo: "arm", degrees: 0, degreesPerSecond: 80 } },
    ]);
    const at = (t: number) => momentOf(turning, t).servos;
    expect(at(0)).toEqual([{ name: "arm", degrees: 10 }]);
    expect(at(250)[0].degrees).toBeCloseTo(25, 9);
    expect(at(500)[0].degrees).toBeCloseTo(40, 9);
    expect(at(750)[0].degrees).toBeCloseTo(20, 9);
    expect(at(5000)[0].degrees).toBe(0);
  });

  it("a picture takes the place of a text, a tune sounds note by note, and named lamps are listed while they are lit", () => {
    const shown = told([
      { t: 0, command: { kind: "show", text: "bay 2" } },
      { t: 0, command: { kind: "lamp", lamp: "go", colour: "#00ff00", blinkHz: 0 } },
      { t: 5, command: { kind: "picture", picture: "drop" } },
      {
        t: 20,
        command: {
          kind: "tune",
          tones: [
            { hertz: 440, ms: 100 },
            { hertz: 0, ms: 50 },
            { hertz: 880, ms: 100 },
          ],
        },
      },
      { t: 900, command: { kind: "lamp", lamp: "go", colour: null, blinkHz: 0 } },
    ]);
    expect(momentOf(shown, 4)).toMatchObject({ display: "bay 2", picture: null });
    expect(momentOf(shown, 10)).toMatchObject({
      display: "",
      picture: "drop",
      lamps: [{ name: "go", colour: "#00ff00" }],
    });
    const heard = [60, 130, 180, 280].map((t) => momentOf(shown, t).sound);
    expect(heard).toEqual(["♪ 440 Hz", "♪ rest", "♪ 880 Hz", ""]);
    expect(momentOf(shown, 900).lamps).toEqual([]);
  });
});
