import { glasshouseRound } from "@perceptum/core/demo";
import { expect, it } from "vitest";
import { enter, keys, press, see, textOf, until } from "../../testing/hand";
import { shownFor } from "../../testing/shown";
import { StepList } from "./StepList";

const demo = glasshouseRound();
const [patrol] = demo.behaviour.modes;
const [first] = patrol.responses;
const phrases = () =>
  [...document.querySelectorAll<HTMLTextAreaElement>('[aria-label="Steps"] [aria-label^="Step "]')].map(
    ({ value }) => value,
  );
const focused = () => document.activeElement?.getAttribute("aria-label") ?? "";

const open = () => shownFor(demo, <StepList at={{ mode: patrol.id, response: first.id }} />);

it("shows each step as its phrase", async () => {
  await open();
  expect(phrases()).toHaveLength(first.steps.length);
});

it("are moved by their arrows and by Alt with the arrow keys, each as one change", async () => {
  const { undoable } = await open();
  const before = phrases();
  await press("button", "Move step 2 up");
  const [a, b, ...others] = before;
  expect(phrases()).toEqual([b, a, ...others]);
  (await see("textbox", "Step 1")).focus();
  await keys("{Alt>}{ArrowDown}{/Alt}");
  expect(phrases()).toEqual(before);
  expect(undoable()).toHaveLength(2);
});

it("are removed, and where a typo is said the step stays", async () => {
  await open();
  const before = phrases();
  await press("button", "Remove step 1");
  expect(phrases()).toEqual(before.slice(1));
  await enter("Step 1", "lamp corel");
  expect(textOf("[role=alert]")).toContain("there is no target “corel”");
});

it("are dragged by keyboard: picked up, taken from place to place, put down or left where they were", async () => {
  const { undoable } = await open();
  const before = phrases();
  (await see("button", "Drag step 1")).focus();
  await keys("{Enter}");
  await until("a place", () => /^Place \d/.test(focused()));
  while (focused() !== `Place 3 of ${before.length}`) await keys("{Tab}");
  await keys("{Enter}");
  const [a, b, c, ...others] = before;
  await until("the new order", () => phrases().join() === [b, c, a, ...others].join());
  expect(undoable()).toHaveLength(1);
  (await see("button", "Drag step 2")).focus();
  await keys("{Enter}");
  await until("a place", () => /^Place \d/.test(focused()));
  await keys("{Escape}");
  await until("the handle", () => focused() === "Drag step 2");
  expect(undoable()).toHaveLength(1);
});
