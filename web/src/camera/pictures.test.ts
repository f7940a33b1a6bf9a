import { expect, it } from "vitest";
import { byNumber, commonSize } from "./pictures";

it("pictures come in the order of the last number in their names", () => {
  const names = ["bed-10.png", "bed-9.png", "bed-2 (v3).png", "b.png", "a.png", "run2-1.jpg"].map((name) => ({ name }));
  expect(
    [...names]
      .sort(byNumber)
      .map(({ name }) => name)
      .filter((name) => /bed/.test(name)),
  ).toEqual(["bed-2 (v3).png", "bed-9.png", "bed-10.png"]);
  expect([{ name: "b.png" }, { name: "a.png" }].sort(byNumber)[0].name).toBe("a.png");
});

it("the size that most pictures have counts", () => {
  const size = (width: number) => ({ size: { width, height: 10 } });
  expect(commonSize([size(20), size(30), size(30)])).toEqual({ width: 30, height: 10 });
  expect(commonSize([])).toBeUndefined();
});
