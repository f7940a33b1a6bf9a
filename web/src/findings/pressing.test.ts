import type { Finding, Level } from "@perceptum/core/findings";
import { expect, it } from "vitest";
import { pressing } from "./pressing";

const finding = (level: Level, title: string, more: Partial<Finding> = {}): Finding => ({
  code: "band-tight",
  level,
  title,
  sentence: "",
  place: { stage: "decide" },
  ...more,
});

it("puts the first error before warnings, and leaves out hints, what was put aside, and other stages", () => {
  const all = [
    finding("warning", "w"),
    finding("hint", "h"),
    finding("error", "other", { place: { stage: "act" } }),
    finding("error", "aside", { aside: true }),
    finding("error", "e"),
    finding("error", "f"),
  ];
  expect(pressing(all, "decide").map(({ title }) => title)).toEqual(["e", "w", "f"]);
  expect(pressing(all.slice(0, 2), "decide").map(({ title }) => title)).toEqual(["w"]);
  expect(pressing([finding("hint", "h")], "decide")).toEqual([]);
});
