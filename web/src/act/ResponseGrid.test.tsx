import { glasshouseRound } from "@perceptum/core/demo";
import { expect, it } from "vitest";
import { keys, see, until } from "../../testing/hand";
import { shownFor } from "../../testing/shown";
import { ResponseEditor } from "./ResponseEditor";
import { ResponseGrid } from "./ResponseGrid";

const demo = glasshouseRound();
const [patrol, other] = demo.behaviour.modes;
const [first] = patrol.responses;

it("a response is dragged by keyboard from its editor to another mode's cell, as one change", async () => {
  const { present, undoable } = await shownFor(
    demo,
    <>
      <ResponseGrid />
      <ResponseEditor cell={{ mode: patrol.id, response: first.id }} response={first} modeName={patrol.name} />
    </>,
  );
  const before = other.responses.length;
  (await see("button", "Drag to a mode …")).focus();
  await keys("{Enter}");
  await until("a cell", () => document.activeElement?.tagName === "TD");
  const row = (document.activeElement as HTMLElement).parentElement as HTMLElement;
  const column = (cell: Element | null) => [...row.children].indexOf(cell as Element);
  while (column(document.activeElement) !== 2) await keys("{Tab}");
  await keys("{Enter}");
  await until("the change", () => undoable().length === 1);
  const [here, there] = present().behaviour.modes;
  expect(here.responses.some(({ id }) => id === first.id)).toBe(false);
  expect(there.responses).toHaveLength(before + 1);
});
