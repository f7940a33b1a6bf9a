import fc from "fast-check";
import { expect, it } from "vitest";
import { Series } from "./Series";

it("is as an array would be, whatever comes and goes, and what was given out stays as it was", () => {
  const step = fc.oneof(
    fc.record({ push: fc.integer({ min: 1, max: 3000 }) }),
    fc.record({ drop: fc.integer({ min: 0, max: 2500 }) }),
  );
  fc.assert(
    fc.property(fc.array(step, { maxLength: 12 }), fc.nat(2000), (steps, from) => {
      const series = new Series();
      const array: number[] = [];
      const given: [Float64Array, number[]][] = [];
      let next = 0.5;
      for (const step of steps) {
        if ("push" in step)
          for (let i = 0; i < step.push; i++) {
            series.push(next);
            array.push(next++);
          }
        else {
          series.drop(step.drop);
          array.splice(0, step.drop);
        }
        given.push([series.view(from), array.slice(from)]);
      }
      expect(series.length).toBe(array.length);
      expect(series.last).toBe(array.at(-1));
      for (const [view, was] of given) expect([...view]).toEqual(was);
    }),
    { numRuns: 60 },
  );
});
