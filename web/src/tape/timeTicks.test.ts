import { expect, it } from "vitest";
import { timeTicks } from "./timeTicks";

it("puts at most thirteen ticks on round seconds, from the start", () => {
  for (const length of [0, 480, 5_000, 49_780, 120_000, 4_000_000]) {
    const ticks = timeTicks(length);
    expect(ticks[0]).toEqual({ t: 0, text: "0 s" });
    expect(ticks.length).toBeLessThanOrEqual(13);
    expect(ticks.every(({ t }) => t <= length)).toBe(true);
  }
  expect(
    timeTicks(49_780)
      .map((t) => t.text)
      .slice(0, 3),
  ).toEqual(["0 s", "5 s", "10 s"]);
  expect(timeTicks(900)[1]).toEqual({ t: 100, text: "0.1 s" });
});
