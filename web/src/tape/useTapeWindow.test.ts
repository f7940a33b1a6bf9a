import fc from "fast-check";
import { expect, it } from "vitest";
import { fittedWindow, zoomed } from "./useTapeWindow";

const part = fc.record({ from: fc.integer({ min: -500, max: 20_000 }), span: fc.integer({ min: 0, max: 30_000 }) });
const length = fc.integer({ min: 0, max: 20_000 });

it("a part always lies on the tape", () => {
  fc.assert(
    fc.property(part, length, ({ from, span }, all) => {
      const fitted = fittedWindow({ from, to: from + span }, all);
      expect(fitted.from).toBeGreaterThanOrEqual(0);
      expect(fitted.to).toBeLessThanOrEqual(all);
      expect(fitted.to).toBeGreaterThanOrEqual(fitted.from);
    }),
  );
});

it("zooming in keeps the time under the pointer at its place", () => {
  const near = zoomed({ from: 0, to: 10_000 }, 2500, 0.5, 10_000);
  expect((2500 - near.from) / (near.to - near.from)).toBeCloseTo(0.25, 9);
  expect(near.to - near.from).toBe(5000);
  expect(zoomed(near, 2500, 100, 10_000)).toEqual({ from: 0, to: 10_000 });
});
