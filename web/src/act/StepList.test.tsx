import { glasshouseRound } from "@perceptum/core/demo";
import { screen, waitFor, within } from "@testing-library/react";
import { expect, it } from "vitest";
import { shownFor } from "../../testing/shown";
import { StepList } from "./StepList";

const demo = glasshouseRound();
const [patrol] = demo.behaviour.modes;
const [first] = patrol.responses;

async function steps() {
  const made = await shownFor(demo, <StepList at={{ mode: patrol.id, response: first.id }} />);
  const phrases = () =>
    within(screen.getByRole("list", { name: "Steps" }))
      .getAllByRole("textbox")
      .map((box) => (box as HTMLTextAreaElement).value);
  return { ...made, phrases };
}

it("shows each step as its phrase", async () => {
  const { phrases } = await steps();
  expect(phrases()).toHaveLength(first.steps.length);
});

it("are moved by their arrows and by Alt with the arrow keys, each as one change", async () => {
  const { hand, phrases, undoable } = await steps();
  const before = phrases();
  await hand.click(screen.getByRole("button", { name: "Move step 2 up" }));
  const [a, b, ...others] = before;
  expect(phrases()).toEqual([b, a, ...others]);
  screen.getByRole("textbox", { name: "Step 1" }).focus();
  await hand.keyboard("{Alt>}{ArrowDown}{/Alt}");
  expect(phrases()).toEqual(before);
  expect(undoable()).toHaveLength(2);
});

it("are removed, and where a typo is said the step stays", async () => {
  const { hand, phrases } = await steps();
  const before = phrases();
  await hand.click(screen.getByRole("button", { name: "Remove step 1" }));
  expect(phrases()).toEqual(before.slice(1));
  const field = screen.getByRole("textbox", { name: "Step 1" });
  await hand.clear(field);
  await hand.type(field, "lamp corel{Enter}");
  expect(screen.getByRole("alert").textContent).toContain("there is no target “corel”");
});

it("are dragged by keyboard: picked up, taken from place to place, put down or left where they were", async () => {
  const { hand, phrases, undoable } = await steps();
  const before = phrases();
  screen.getByRole("button", { name: "Drag step 1" }).focus();
  await hand.keyboard("{Enter}");
  await waitFor(() => expect(document.activeElement?.getAttribute("aria-label")).toMatch(/^Place \d/));
  while (document.activeElement?.getAttribute("aria-label") !== `Place 3 of ${before.length}`) await hand.tab();
  await hand.keyboard("{Enter}");
  const [a, b, c, ...others] = before;
  await waitFor(() => expect(phrases()).toEqual([b, c, a, ...others]));
  expect(undoable()).toHaveLength(1);
  screen.getByRole("button", { name: "Drag step 2" }).focus();
  await hand.keyboard("{Enter}");
  await waitFor(() => expect(document.activeElement?.getAttribute("aria-label")).toMatch(/^Place \d/));
  await hand.keyboard("{Escape}");
  await waitFor(() => expect(document.activeElement?.getAttribute("aria-label")).toBe("Drag step 2"));
  expect(undoable()).toHaveLength(1);
});
