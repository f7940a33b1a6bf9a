import { glasshouseRound } from "@perceptum/core/demo";
import { expect, it } from "vitest";
import { enter, press, see } from "../../testing/hand";
import { shownFor } from "../../testing/shown";
import { RoutineInputs } from "./RoutineInputs";
import { StepList } from "./StepList";

const demo = glasshouseRound();
const [patrol] = demo.behaviour.modes;
const [first] = patrol.responses;
const open = () =>
  shownFor(
    demo,
    <>
      <RoutineInputs routine="water" />
      <StepList at={{ routine: "water" }} />
    </>,
  );
const fieldOf = async (name: string) => ((await see("textbox", name)) as HTMLInputElement).value;
const said = () => [...document.querySelectorAll("[role=alert]")].map((e) => e.textContent).join(" ");
const last = () => [...document.querySelectorAll<HTMLTextAreaElement>('[aria-label="Steps"] textarea')].at(-1)?.value;

it("is named in steps, started otherwise, renamed, and taken away once nothing takes it", async () => {
  const { undoable, present } = await open();
  await enter("Add what it takes", "span 2 s");
  await enter("Add a step", "wait span");
  expect(last()).toBe("wait span");
  await enter("span starts from", "250 ms");
  const { steps } = present().behaviour.routines[0];
  expect(steps.at(-1)).toMatchObject({ step: "wait", ms: 250, takes: { 0: "span" } });
  await enter("Name of what it takes: span", "pause");
  expect(last()).toBe("wait pause");
  expect(await fieldOf("pause starts from")).toBe("250 ms");
  expect((await see("button", "pause is in use")).getAttribute("disabled")).not.toBeNull();
  await press("button", `Remove step ${steps.length}`);
  await press("button", "Take pause away");
  expect(present().behaviour.routines[0].inputs).toBeUndefined();
  expect(undoable()).toHaveLength(6);
});

it("is refused with what is wrong, and what was typed stays", async () => {
  await open();
  await enter("Add what it takes", "until 2 s");
  expect(said()).toContain("“until” cannot be its name");
  await enter("Add what it takes", "span 2 s");
  await enter("span starts from", "20 cm");
  expect(said()).toContain("A time is expected, as it was before.");
  await enter("Add a step", "drive span");
  expect(said()).toContain("“%” is expected where “span” stands, which is a time");
});

it("is given by who does the routine", async () => {
  const behaviour = {
    ...demo.behaviour,
    routines: [{ ...demo.behaviour.routines[0], inputs: [{ name: "mark", kind: "target" as const, value: "coral" }] }],
  };
  await shownFor({ ...demo, behaviour }, <StepList at={{ mode: patrol.id, response: first.id }} />);
  await enter("Add a step", "do water with mark Teal tag");
  expect(last()).toBe("do Water with mark Teal tag");
});
