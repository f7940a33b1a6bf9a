import { expect, it, vi } from "vitest";
import { LatestOnly } from "./LatestOnly";

const fail = (error: unknown) => {
  throw error;
};

it("tells of a job that threw, and goes on with the latest of those asked for meanwhile", async () => {
  const failed = vi.fn();
  const done: number[] = [];
  const latest = new LatestOnly<number>(async (n) => {
    if (n === 1) throw new Error("no light");
    done.push(n);
  }, failed);
  for (const n of [1, 2, 3]) latest.ask(n);
  await new Promise((go) => setImmediate(go));
  expect([failed.mock.calls, done]).toEqual([[[new Error("no light")]], [3]]);
});

it("runs one job at a time and of those asked for meanwhile only the latest", async () => {
  const begun: number[] = [];
  let finish: () => void = () => undefined;
  const latest = new LatestOnly<number>((n) => {
    begun.push(n);
    return new Promise((done) => {
      finish = done;
    });
  }, fail);
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
