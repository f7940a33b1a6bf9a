import { screen } from "@testing-library/react";
import { useState } from "react";
import { expect, it, vi } from "vitest";
import { shown } from "../../testing/shown";
import { Check, CheckGroup } from "./Check";
import { FileButton } from "./FileButton";
import { NumberField } from "./NumberField";
import { ProgressBar } from "./ProgressBar";

function OwnNumber({ onChange }: { onChange: (value: number) => void }) {
  const [value, setValue] = useState(5);
  const change = (next: number) => {
    setValue(next);
    onChange(next);
  };
  return <NumberField label="Width in mm" value={value} low={1} high={10} by={0.5} onChange={change} />;
}

it("a number is typed, stepped by its arrow keys within its range, and kept where what is typed is none", async () => {
  const onChange = vi.fn();
  const { hand } = shown(<OwnNumber onChange={onChange} />);
  const field = screen.getByRole("textbox", { name: "Width in mm" });
  await hand.clear(field);
  await hand.type(field, "7,5{Enter}");
  expect(onChange).toHaveBeenLastCalledWith(7.5);
  await hand.keyboard("{ArrowUp}");
  expect(onChange).toHaveBeenLastCalledWith(8);
  await hand.keyboard("{Shift>}{ArrowUp}{/Shift}");
  expect(onChange).toHaveBeenLastCalledWith(10);
  await hand.clear(field);
  await hand.type(field, "wide{Enter}");
  expect(screen.getByRole("alert").textContent).toBe("Width in mm: a number from 1 to 10.");
  expect(field.getAttribute("aria-invalid")).toBe("true");
  expect(onChange).toHaveBeenLastCalledWith(10);
  await hand.keyboard("{Escape}");
  expect(screen.queryByRole("alert")).toBeNull();
});

it("of a group of boxes any may be ticked; what is chosen keeps the order of the items", async () => {
  const onChange = vi.fn();
  const items = ["red", "green", "blue"].map((id) => ({ id, words: id }));
  const { hand } = shown(<CheckGroup label="Colours" items={items} chosen={["blue"]} onChange={onChange} />);
  expect(screen.getByRole("group", { name: "Colours" })).toBeDefined();
  await hand.click(screen.getByRole("checkbox", { name: "red" }));
  expect(onChange).toHaveBeenLastCalledWith(["red", "blue"]);
  await hand.click(screen.getByRole("checkbox", { name: "blue" }));
  expect(onChange).toHaveBeenLastCalledWith([]);
});

it("a box has its words, or a label that only screen readers tell", async () => {
  const onChange = vi.fn();
  const { hand } = shown(
    <>
      <Check checked={false} onChange={onChange}>
        reversed
      </Check>
      <Check label="Take the rule" checked onChange={onChange} />
    </>,
  );
  await hand.click(screen.getByText("reversed"));
  expect(onChange).toHaveBeenLastCalledWith(true);
  await hand.click(screen.getByRole("checkbox", { name: "Take the rule" }));
  expect(onChange).toHaveBeenLastCalledWith(false);
});

it("a button lets one choose files", async () => {
  const onFiles = vi.fn();
  const { hand, container } = shown(<FileButton text="Import …" accept=".csv,.png" several onFiles={onFiles} />);
  expect(screen.getByRole("button", { name: "Import …" })).toBeDefined();
  const input = container.querySelector("input[type=file]") as HTMLInputElement;
  expect([input.accept, input.multiple]).toEqual([".csv,.png", true]);
  const files = [new File(["t,r"], "walk.csv"), new File(["t,r"], "other.csv")];
  await hand.upload(input, files);
  expect(onFiles).toHaveBeenCalledWith(files);
});

it("work that takes long tells how far it is, and can be cancelled", async () => {
  const onCancel = vi.fn();
  const { hand } = shown(
    <ProgressBar label="Reading" share={0.25} began={performance.now() - 1000} onCancel={onCancel} />,
  );
  const bar = screen.getByRole("progressbar", { name: "Reading" });
  expect([bar.getAttribute("aria-valuenow"), bar.getAttribute("aria-valuetext")]).toEqual(["25", "25%"]);
  expect(document.body.textContent).toMatch(/25 %, about \d s/);
  await hand.click(screen.getByRole("button", { name: "Cancel" }));
  expect(onCancel).toHaveBeenCalledOnce();
});
