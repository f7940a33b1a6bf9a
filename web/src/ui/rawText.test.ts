import { expect, it } from "vitest";
import { rawText } from "./rawText";

it("a raw value is shown whole, or to four digits that count", () => {
  expect([1023, 0, -5, 0.123456, 12.34567, 0.5, 1e-7].map(rawText)).toEqual([
    "1023",
    "0",
    "-5",
    "0.1235",
    "12.35",
    "0.5",
    "1e-7",
  ]);
});
