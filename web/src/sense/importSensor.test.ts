import type { TargetId } from "@perceptum/core/names";
import { emptyProject } from "@perceptum/core/project";
import { guessPlan, lookAt, openTable, type Sensor } from "@perceptum/core/readings";
import { BenchStand } from "@perceptum/core/world";
import { describe, expect, it } from "vitest";
import { newSensor, paintRead, targetFor, usualPeriod } from "./importSensor";

const {
  sensors: [belly],
  lights: [light],
  targets: [floor],
} = emptyProject("");
const still: Sensor = { ...belly, optics: { ...belly.optics, read: 0, shot: 0 } };
const over = (under: TargetId) => ({
  under,
  beside: null,
  share: 1,
  light: light.id,
  height: belly.optics.bestMm,
  tilt: 0,
  tremble: 0,
});

describe("what an import makes", () => {
  it("is a sensor with the period of its times", () => {
    expect(usualPeriod([0, 50, 100, 150, 900, 950])).toBe(50);
    expect(usualPeriod([0, 0, 0])).toBeUndefined();
    expect(usualPeriod([5])).toBeUndefined();
    const plan = { report: "hue" as const, channels: { hue: 1 }, time: { everyMs: 20 } };
    expect(newSensor("Old eye", plan, { hue: 360 }, ["belly"], belly.ruleSet, 50)).toMatchObject({
      id: "old-eye",
      reports: "hue",
      periodMs: 50,
      scale: { hue: [0, 360] },
    });
  });

  it("is a target in the colour of its readings, with a code of its own", () => {
    // What the sensor reads over this paint, without noise.
    const bench = new BenchStand(still, [light], [{ ...floor, paint: "#e4573d" }], over(floor.id), 1);
    const raw = bench.read();
    const channels = (hex: string) => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));
    channels(paintRead(still, light, raw)).forEach((x, c) =>
      expect(Math.abs(x - [0xe4, 0x57, 0x3d][c])).toBeLessThan(3),
    );
    const [r, g, b] = raw;
    expect(paintRead({ ...still, order: "bgr" }, light, [b, g, r])).toBe(paintRead(still, light, raw));
    // White and dark say how a reading is judged, not what it was of.
    const reference = { dark: [10, 10, 10], white: [600, 600, 600] };
    expect(paintRead({ ...still, reference }, light, raw)).toBe(paintRead(still, light, raw));
    const hue: Sensor = { ...belly, reports: "hue", scale: { hue: [0, 360] } };
    expect(paintRead(hue, light, [120])).toBe("#29cc29");
    const grey: Sensor = { ...belly, reports: "reflected", scale: { reflected: [0, 100] } };
    expect(paintRead(grey, light, [20])).toBe("#333333");
    const first = targetFor("rose", [], [], "#aa3344");
    expect(first).toMatchObject({ id: "rose", code: "RO", name: "rose", paint: "#aa3344" });
    expect(targetFor("rosebay", [first], [], "#aa3344").code).not.toBe("RO");
  });
});

describe("a column of time", () => {
  const timeOf = (name: string, values: readonly number[]) => {
    const text = `${name},r,g,b\n${values.map((v) => `${v},1,2,3`).join("\n")}\n`;
    const table = openTable(text, "csv");
    if ("error" in table) throw new Error(table.error);
    return guessPlan(table, lookAt(table), "rgb").time;
  };

  it.each([
    ["time in seconds", 1000],
    ["Time (s)", 1000],
    ["time_ms", 1],
    ["t [ms]", 1],
    ["elapsed µs", 0.001],
    ["seconds", 1000],
    ["timestamp", 1000],
  ])("called “%s” is one, with its unit", (name, unitMs) => {
    expect(timeOf(name, [0, 0.02, 0.04, 0.06])).toEqual({ column: 0, unitMs });
  });

  it("is no other column", () => {
    expect(timeOf("times answered", [5, 1, 9, 2])).toEqual({ everyMs: 20 });
  });
});
