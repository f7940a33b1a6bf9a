import { emptyProject } from "@perceptum/core/project";
import { guessPlan, lookAt, openTable, type Sensor } from "@perceptum/core/readings";
import { describe, expect, it } from "vitest";
import { newSensor, paintRead, targetFor, usualPeriod } from "./importSensor";

const [belly] = emptyProject("").sensors;

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
    expect(paintRead(belly, [1023, 0, 511.5])).toBe("#ff0080");
    expect(paintRead({ ...belly, order: "bgr" }, [1023, 0, 511.5])).toBe("#8000ff");
    const hue: Sensor = { ...belly, reports: "hue", scale: { hue: [0, 360] } };
    expect(paintRead(hue, [120])).toBe("#29cc29");
    const grey: Sensor = { ...belly, reports: "reflected", scale: { reflected: [0, 100] } };
    expect(paintRead(grey, [20])).toBe("#333333");
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
