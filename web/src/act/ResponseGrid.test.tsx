import { glasshouseRound } from "@perceptum/core/demo";
import { screen, waitFor, within } from "@testing-library/react";
import { expect, it } from "vitest";
import { shownFor } from "../../testing/shown";
import { ResponseEditor } from "./ResponseEditor";
import { ResponseGrid } from "./ResponseGrid";

const demo = glasshouseRound();
const [patrol, other] = demo.behaviour.modes;
const [first] = patrol.responses;

it("a response is dragged by keyboard from its editor to another mode's cell, as one change", async () => {
  const { hand, present, undoable } = await shownFor(
    demo,
    <>
      <ResponseGrid />
      <ResponseEditor cell={{ mode: patrol.id, response: first.id }} response={first} />
    </>,
  );
  const before = other.responses.length;
  screen.getByRole("button", { name: "Drag to a mode …" }).focus();
  await hand.keyboard("{Enter}");
  await waitFor(() => expect(document.activeElement?.tagName).toBe("TD"));
  const row = (document.activeElement as HTMLElement).parentElement as HTMLElement;
  const column = (cell: Element | null) => [...row.children].indexOf(cell as Element);
  while (column(document.activeElement) !== 2) await hand.tab();
  await hand.keyboard("{Enter}");
  await waitFor(() => expect(undoable()).toHaveLength(1));
  const [here, there] = present().behaviour.modes;
  expect(here.responses.some(({ id }) => id === first.id)).toBe(false);
  expect(there.responses).toHaveLength(before + 1);
  expect(within(screen.getByRole("table")).getAllByRole("row").length).toBeGreaterThan(3);
});
