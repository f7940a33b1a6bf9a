import { glasshouseRound } from "@perceptum/core/demo";
import type { ResponseId } from "@perceptum/core/names";
import { act } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { choose, enter, keys, names, press, see, seeWords, textOf, until, valueIn } from "../../testing/hand";
import { shownFor, type Working } from "../../testing/shown";
import { cellChosen } from "../model/store/act";
import { undone } from "../model/store/document";
import { mentorWork } from "../workers/mentorWork";
import { ActStage } from "./ActStage";
import { BehaviourWords } from "./BehaviourWords";
import { CellEditor } from "./CellEditor";
import { ModeDiagram } from "./ModeDiagram";
import { OwnNames } from "./OwnNames";
import { ResponseGrid } from "./ResponseGrid";

const demo = glasshouseRound();
const [patrol] = demo.behaviour.modes;
const step = (i: number) => valueIn("textbox", `Step ${i}`);

/** Shows the steps of the first response of Patrol, that to the coral tag. */
async function editor(working?: Working) {
  const made = await shownFor(demo, <CellEditor />, working);
  act(() => void made.store.dispatch(cellChosen({ mode: patrol.id, response: patrol.responses[0].id })));
  return made;
}

describe("steps", () => {
  it("are completed while they are typed, and taken with the keys", async () => {
    await editor();
    await press("textbox", "Add a step");
    await keys("go to as");
    await see("option", "Astride the line");
    await keys("{ArrowDown}{Tab}{Enter}");
    expect(await step(6)).toBe("go to Astride the line");
  });

  it("are chosen from a menu with their fields, where what cannot be read is said", async () => {
    await editor();
    await choose(/Or choose a step/, "count ‹counter› + ‹n›");
    await press("button", "Insert");
    expect(await step(6)).toBe("count tally + 1");
    await choose(/Or choose a step/, /^wait until ‹condition›$/);
    await enter("condition", "corral");
    await seeWords("[role=alert]", /Column 1/);
    await enter("condition", "coral or teal");
    await press("button", "Insert");
    expect(await step(7)).toBe("wait until Coral tag or Teal tag");
  });

  it("are tried alone", async () => {
    await editor({ mentor: mentorWork });
    await press("button", "Try step 5 alone");
    await seeWords('[aria-label="What the step alone does"]', /goes on; after 10 s: the robot is 13\d\.\d cm farther/);
  });

  it("that cannot be read say at which column, and what may have been meant", async () => {
    await editor();
    await enter("Add a step", "follow chalk middle");
    await seeWords("[role=alert]", /^Column 14: left edge, right edge/);
    await enter("Add a step", "lamp corel");
    await seeWords("[role=alert]", /^Column 6: there is no target “corel”; did you mean Coral tag\?$/);
    await enter("Add a step", "tone C5 for 0.2 s");
    expect(await step(6)).toBe("tone C5 for 0.2 s");
    expect(names("alert")).toEqual([]);
  });

  it("become a routine that is renamed everywhere and cannot reach itself", async () => {
    const { present, store } = await shownFor(
      demo,
      <>
        <CellEditor />
        <OwnNames kind="routines" />
      </>,
    );
    act(() => void store.dispatch(cellChosen({ mode: patrol.id, response: patrol.responses[0].id })));
    for (const i of [2, 3, 4]) await press("button", `Pick step ${i}`);
    await enter("Make a routine of the picked steps", "flash");
    await see("button", "Steps of the routine flash");
    expect(await step(2)).toBe("do flash");
    await enter("Name of the routine flash", "signal");
    await see("button", "Steps of the routine signal");
    expect(await step(2)).toBe("do signal");
    await press("button", "Steps of the routine signal");
    await enter("Add a step", "do signal");
    await seeWords("[role=alert]", /reaches itself: signal does signal/);
    expect(present().behaviour.routines.map(({ id, steps }) => [id, steps.length])).toContainEqual(["signal", 3]);
  });
});

describe("steps that stand in several places", () => {
  it("become one routine everywhere, which takes what differs", async () => {
    const { present, undoable, store } = await shownFor(demo, <CellEditor />);
    const bay = present().behaviour.modes[1];
    act(() => void store.dispatch(cellChosen({ mode: bay.id, response: "give-up" as ResponseId })));
    for (const i of [1, 2]) await press("button", `Pick step ${i}`);
    await press("checkbox", 'Also in 2 other places that do the same; it takes words ("no second violet" here)');
    await enter("Make a routine of the picked steps", "give-up");
    expect(await step(1)).toBe("do give-up");
    expect(undoable()).toEqual(["routine give-up made of steps"]);
    const lost = present().behaviour.modes[2].responses.find(({ id }) => id === "lost");
    expect(lost?.steps).toEqual([
      expect.objectContaining({ step: "do", with: [{ input: "words", kind: "text", value: '"no end of the line"' }] }),
    ]);
  });
});

describe("responses", () => {
  it("are copied to other targets and modes at once, moved, and undone", async () => {
    const { present, undoable, store } = await editor();
    const astride = present().behaviour.modes.findIndex(({ name }) => name === "Astride the line");
    const answers = () => present().behaviour.modes[astride].responses.length;
    const before = answers();
    await press("button", "Copy to …");
    await press("checkbox", /Teal tag/);
    await press("checkbox", /Violet tag/);
    await press("checkbox", "Astride the line");
    await press("button", "Add 4 responses");
    expect(undoable()).toEqual(["response copied"]);
    expect(answers()).toBe(before + 2);
    await choose(/move to mode/, "Astride the line");
    expect(undoable()).toEqual(["response copied", expect.stringMatching(/^response moved to /)]);
    expect(answers()).toBe(before + 3);
    act(() => void store.dispatch(undone(2)));
    expect(present().behaviour).toEqual(demo.behaviour);
  });

  it("get guards, and what comes then", async () => {
    const { present } = await editor();
    const answer = () => present().behaviour.modes[0].responses[0];
    await enter("Only if", "tally < 3 and not teal");
    await choose(/Then/, "finish");
    await press("radio", "while present");
    expect(answer()).toMatchObject({ then: "finish", fires: "while present", guard: expect.anything() });
    await enter("Only if", "tally <");
    await seeWords("[role=alert]", /The guard stays as it was\./);
    expect(answer().guard).toBeDefined();
  });

  it("get a row by words", async () => {
    const { present } = await shownFor(demo, <ActStage />);
    await enter("Add a row", "chalk arrives");
    await see("button", /^Chalk line arrives, in Patrol/);
    expect(present().behaviour.modes[0].responses.at(-1)?.when).toEqual({ arrives: ["chalk"] });
  });
});

it("modes, counters and lists are added and named", async () => {
  const { present } = await shownFor(demo, <ActStage />);
  await press("button", "Add mode");
  await enter("Name of the mode Mode 5", "Homeward");
  await enter("Add a counter", "laps");
  await see("button", /^Coral tag arrives, in Homeward: ignored/);
  await press("button", /^Coral tag arrives, in Homeward: ignored/);
  await press("button", "Answer it here");
  await enter("Add a step", "count laps + 1");
  const homeward = () => present().behaviour.modes.find((m) => m.name === "Homeward");
  await until("the step", () => homeward()?.responses[0]?.steps.length === 1);
  expect(present().behaviour.counters).toContain("laps");
});

describe("the grid", () => {
  const focused = () => document.activeElement?.getAttribute("aria-label") ?? "";

  it("is one stop of Tab; the arrow keys go from cell to cell, and Enter chooses", async () => {
    await shownFor(
      demo,
      <>
        <ResponseGrid />
        <CellEditor />
      </>,
    );
    await press("button", /^on entering Patrol/);
    await keys("{ArrowDown}");
    expect(focused()).toMatch(/^Coral tag arrives, in Patrol:/);
    await keys("{ArrowRight}");
    expect(focused()).toMatch(/^Coral tag arrives, in In the bay/);
    await keys("{End}");
    expect(focused()).toMatch(/^Coral tag arrives, in (?!Patrol|In the bay)/);
    await keys("{Home}{ArrowUp}{ArrowUp}");
    expect(focused()).toMatch(/^on entering Patrol/);
    await keys("{ArrowDown}{Enter}");
    expect(await step(1)).toBe("stop");
    // Two cells follow one another in the grid, but not for Tab.
    await keys("{Tab}");
    expect(focused()).not.toMatch(/, in /);
  });

  it("shows all rows, or those of one mode", async () => {
    await shownFor(demo, <ActStage />);
    await press("button", /^on entering In the bay/);
    const rows = () => names("button", /arrives, in In the bay/).length;
    const all = rows();
    await press("checkbox", "only rows of In the bay");
    expect(rows()).toBeLessThan(all);
    expect(names("button", /, in In the bay: ignored/)).toEqual([]);
    await press("checkbox", "only rows of In the bay");
    expect(rows()).toBe(all);
  });
});

it("the behaviour is shown as a diagram whose arrows are chosen, and told in words", async () => {
  await shownFor(
    demo,
    <>
      <ModeDiagram />
      <BehaviourWords />
      <CellEditor />
    </>,
  );
  await press("button", "Teal tag arrives, from Along the line to Astride the line");
  expect(await step(1)).toBe("lamp Teal tag");
  expect(textOf('[aria-label="The behaviour in words"]')).toContain(
    "When Teal tag arrives: light the lamp in Teal tag’s colour, then go on to Astride the line.",
  );
});
