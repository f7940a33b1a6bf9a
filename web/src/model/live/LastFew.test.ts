import { expect, it } from "vitest";
import { LastFew } from "./LastFew";

it("works in order, keeps the last few of those that wait, and tells of all others", async () => {
  const begun: number[] = [];
  const going: (() => void)[] = [];
  let passed = 0;
  const few = new LastFew<number>(
    3,
    (n) => {
      begun.push(n);
      return new Promise((done, fail) => going.push(n === 7 ? () => fail(new Error("it is gone")) : done));
    },
    () => passed++,
  );
  const goOn = async () => {
    going.shift()?.();
    await new Promise(setImmediate);
  };
  for (let n = 0; n < 8; n++) few.push(n);
  // The first is under way; 5, 6 and 7 wait, and four gave way to them.
  expect([begun, passed]).toEqual([[0], 4]);
  await goOn();
  few.push(8);
  for (let i = 0; i < 4; i++) await goOn();
  expect([begun, passed]).toEqual([[0, 5, 6, 7, 8], 5]);
  few.push(9);
  expect(begun).toEqual([0, 5, 6, 7, 8, 9]);
});
