import { glasshouseRound } from "@perceptum/core/demo";
import { expect, it } from "vitest";
import { axisValue } from "../prove/sweep/axisValue";
import { sensorText } from "./sensorWords";

const [floor] = glasshouseRound().sensors;

it("a sensor says what it reports, on which scale, in which order and how often", () => {
  expect(sensorText(floor)).toBe("red, green, blue, 0–1023, every 20 ms");
  expect(sensorText({ ...floor, order: "grb" })).toBe("red, green, blue, 0–1023, sent as grb, every 20 ms");
  expect(sensorText({ ...floor, reports: "hsv", scale: { h: [0, 360], s: [0, 100], v: [0, 100] }, periodMs: 50 })).toBe(
    "hue, saturation, value, 0–360 and 0–100, every 50 ms",
  );
});

it("what a sweep varies is said with its unit", () => {
  const light = (id: string) => `“${id}”`;
  expect([
    axisValue("light", "dusk", light),
    axisValue("start", "South door", light),
    axisValue("height", -2, light),
    axisValue("speed", 1.1, light),
    axisValue("noise", 2, light),
  ]).toEqual(["“dusk”", "South door", "−2 mm", "× 1.1", "× 2"]);
});
