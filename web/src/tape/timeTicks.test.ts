import { expect, it } from "vitest";
import { timeTicks } from "./timeTicks";

it("puts at most thirteen ticks on round seconds, from the start", () => {
  for (const length of [0, 480, 5_000, 49_780, 120_000, 4_000_000]) {
    const ticks = timeTicks(0, length);
    expect(ticks[0]).toEqual({ t: 0, text: "0 s" });
    expect(ticks.length).toBeLessThanOrEqual(13);
    expect(ticks.every(({ t }) => t <= length)).toBe(true);
  }
  const texts = (from: number, to: number) => timeTicks(from, to).map((t) => t.text);
  expect(texts(0, 49_780).slice(0, 3)).toEqual(["0 s", "5 s", "10 s"]);
  expect(texts(0, 900)[1]).toBe("0.1 s");
  // Fewer where there is less room.
  expect(timeTicks(0, 49_780, 4).map((t) => t.text)).toEqual(["0 s", "20 s", "40 s"]);
});

it("begins within the part that is shown", () => {
  expect(timeTicks(1234, 1834)[0]).toEqual({ t: 1250, text: "1.25 s" });
});
