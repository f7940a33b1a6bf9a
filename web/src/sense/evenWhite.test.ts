import { expect, it } from "vitest";
import { unevenWhite } from "./evenWhite";

const taken = (...means: number[]) => means.map((mean, i) => ({ channel: "rgb"[i], mean }));

it("doubts a white that is far from even, as it lies above dark", () => {
  expect(unevenWhite(taken(860, 815, 798), taken(6, 6, 6))).toBeUndefined();
  // Looked at alone it is even; over a bright dark it is not.
  expect(unevenWhite(taken(860, 815, 650), taken(400, 400, 500))).toMatch(/^White is far from even: r lies 3\.1 times/);
  expect(unevenWhite(taken(900, 300, 500), undefined)).toMatch(/r lies 3\.0 times as far above dark as g/);
  expect(unevenWhite([{ channel: "reflected", mean: 900 }], undefined)).toBeUndefined();
});
