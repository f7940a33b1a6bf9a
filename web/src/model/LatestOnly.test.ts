import { expect, it } from "vitest";
import { LatestOnly } from "./LatestOnly";

it("runs one job at a time and of those asked for meanwhile only the latest", async () => {
  const begun: number[] = [];
  let finish: () => void = () => undefined;
  const latest = new LatestOnly<number>((n) => {
    begun.push(n);
    return new Promise((done) => {
      finish = done;
    });
  });
  for (const n of [1, 2, 3, 4]) latest.ask(n);
  expect(begun).toEqual([1]);
  finish();
  await new Promise((done) => setImmediate(done));
  expect(begun).toEqual([1, 4]);
  finish();
  await new Promise((done) => setImmediate(done));
  latest.ask(5);
  expect(begun).toEqual([1, 4, 5]);
});
