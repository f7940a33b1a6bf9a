import { expect, it } from "vitest";
import { offeredTemplates, offeredWords } from "./offeredSteps";

const openings = (can: Parameters<typeof offeredTemplates>[0]) =>
  new Set(offeredTemplates(can, false).map((template) => template.split(" ")[0]));

it("the menu has the steps that the robot can carry out, and no others", () => {
  expect(
    ["drive", "turn", "wheels", "follow", "stop", "lamp"].filter((word) => openings(["drive", "turn"]).has(word)),
  ).toEqual(["drive", "turn", "wheels", "follow", "stop", "lamp"]);
  const onRail = openings(["drive"]);
  expect(["drive", "stop", "lamp"].every((word) => onRail.has(word))).toBe(true);
  expect(["turn", "wheels", "follow"].some((word) => onRail.has(word))).toBe(false);
  expect(openings([]).has("drive")).toBe(false);
});

it("the menu has following by camera only where there is a camera", () => {
  const byCamera = (hasCamera: boolean) =>
    offeredTemplates(["drive", "turn"], hasCamera).some((template) => template.includes("by camera"));
  expect([byCamera(true), byCamera(false)]).toEqual([true, false]);
});

it("words that begin such a step are not offered; within a step all are", () => {
  const words = [
    { from: 0, word: "turn" },
    { from: 0, word: "tone" },
    { from: 5, word: "turn" },
  ];
  expect(offeredWords(words, ["drive"]).map(({ from, word }) => `${from} ${word}`)).toEqual(["0 tone", "5 turn"]);
});
