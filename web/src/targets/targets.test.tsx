import { glasshouseRound } from "@perceptum/core/demo";
import { expect, it } from "vitest";
import { keys, press, put, see, seeNo, seeWords } from "../../testing/hand";
import { shownFor } from "../../testing/shown";
import { TargetList } from "./TargetList";

it("targets are added with a code of their own, renamed, and deleted only while nothing uses them", async () => {
  const { present } = await shownFor(glasshouseRound(), <TargetList />);
  await press("button", "Add target");
  await put("Name", "Moss tag");
  await put("Code", "mo");
  await seeWords("[role=alert]", /^Moss strip already has the code mo\.$/);
  await put("Code", "MT");
  await press("button", "Add");
  await press("button", "Change Moss tag");
  await press("button", "Delete");
  await seeNo("button", /^Moss tag/);
  await press("button", "Change Coral tag");
  await seeWords("[role=dialog]", /Used by a rule, marks of Aisle walk, overcast/);
  await keys("{Escape}");
  await seeNo("dialog", /./);
  // A code that was made from the name goes on with it.
  await press("button", "Change Coral tag");
  await put("Name", "Plum tag");
  await press("button", "Save");
  await see("button", /^Plum tag, \d+ marked readings/);
  expect(present().targets.find((t) => t.id === "coral")).toMatchObject({ name: "Plum tag", code: "PL" });
  expect(present().targets.map(({ name }) => name)).not.toContain("Moss tag");
});
