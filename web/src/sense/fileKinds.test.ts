import { expect, it } from "vitest";
import { isPictureFile } from "./fileKinds";

it("pictures and videos are told from readings by type or name", () => {
  expect(isPictureFile({ type: "image/webp", name: "x" })).toBe(true);
  expect(isPictureFile({ type: "", name: "x.MOV" })).toBe(true);
  expect(isPictureFile({ type: "text/csv", name: "png.csv" })).toBe(false);
});
