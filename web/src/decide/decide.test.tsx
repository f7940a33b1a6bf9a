import { glasshouseRound } from "@perceptum/core/demo";
import { joinReadings, splitProject } from "@perceptum/core/project";
import { act } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { choose, enter, names, press, see, seeNo, seeWords, slide, textOf, until } from "../../testing/hand";
import { shownFor } from "../../testing/shown";
import { undone } from "../model/store/document";
import { Judge } from "../workers/Judge";
import { teacherWork } from "../workers/teacherWork";
import { AddRule } from "./AddRule";
import { NearestPanel } from "./NearestPanel";
import { RuleList } from "./RuleList";
import { ScoreShare } from "./ScorePanel";
import { SteadyPanel } from "./SteadyPanel";
import { SuggestionSheet } from "./SuggestionSheet";
import { TeachButton } from "./TeachButton";
import { WhyPanel } from "./WhyPanel";

const demo = glasshouseRound();

describe("rules", () => {
  const open = () => shownFor(demo, <RuleList />);

  it("follow their compact form, and stay where that cannot be read", async () => {
    const { present } = await open();
    const clauses = () => present().ruleSets[0].rules[0].any;
    await enter("Compact form of Coral tag’s rule", "hue 354..20 and sat >= 56 % or not val <= 10 %");
    expect(clauses()).toHaveLength(2);
    await enter("Compact form of Coral tag’s rule", "hue 354..");
    await seeWords("[role=alert]", /The rule stays as it was/);
    expect(clauses()).toHaveLength(2);
  });

  it("are copied, and get another clause that can be left out again", async () => {
    const { present } = await open();
    const clauses = () => present().ruleSets[0].rules.map((rule) => rule.any.length);
    await press("button", "Copy Coral tag’s rule");
    await see("button", /^Rule 2, Coral tag/);
    await press("button", "Or: another clause for Coral tag’s rule");
    expect(clauses().toSorted()).toEqual([1, 1, 1, 1, 1, 2]);
    await press("button", "Leave out clause 2 of Coral tag’s rule");
    expect(clauses()).toEqual([1, 1, 1, 1, 1, 1]);
  });

  it("are switched off and on, reordered, deleted and added from the marks", async () => {
    const { present } = await shownFor(
      demo,
      <>
        <RuleList />
        <AddRule />
      </>,
    );
    await press("button", "Switch off");
    await see("button", /^Rule 1, Coral tag, off/);
    await press("button", "Switch on");
    await press("button", "Move Coral tag’s rule down");
    await see("button", /^Rule 2, Coral tag/);
    await press("button", "Delete");
    await seeNo("button", /Rule \d, Coral tag/);
    await choose(/Add a rule for …/, "Coral tag");
    await see("button", /^Rule 5, Coral tag/);
    expect(present().ruleSets[0].rules.map((r) => r.target)).toEqual(["teal", "amber", "violet", "chalk", "coral"]);
  });

  it("take another test and lose one, and an emptied bound is open", async () => {
    const { present } = await open();
    await choose(/Add a test to Coral tag/, "lightness");
    await enter("Coral tag, lower lightness bound", "20");
    await press("button", "Leave out the saturation test");
    await enter("Coral tag, lower value bound", " ");
    expect(present().ruleSets[0].rules[0].any[0].all).toEqual([
      { feature: "hue", from: 350, to: 16 },
      { feature: "val" },
      { feature: "light", from: 20 },
    ]);
  });

  it("keep a bound where what is typed is no number", async () => {
    const { undoable } = await open();
    await enter("Coral tag, lower value bound", "dark");
    await see("alert", /^/);
    expect(undoable()).toEqual([]);
  });

  it("are steadied by whole numbers within their limits, at a cost that is told", async () => {
    const { present } = await shownFor(demo, <SteadyPanel />, { judge: new Judge() });
    const costs = '[aria-label="Steadying"]';
    await seeWords(costs, /arrives 60 ms \(9 mm\)/);
    await enter("Readings needed", "9");
    await seeWords("[role=alert]", /from 1 to 4/);
    const before = textOf('[aria-label="Flicker"]');
    await enter("Readings needed", "1");
    await seeWords(costs, /arrives 20 ms \(3 mm\)/);
    await enter("Readings without it", "1");
    await until("another flicker", () => textOf('[aria-label="Flicker"]') !== before);
    await enter("Speed in cm/s", "30");
    await seeWords(costs, /arrives 20 ms \(6 mm\)/);
    expect(present().ruleSets[0].steady).toMatchObject({ hits: 1 });
  });

  it("are made from the stretch at the playhead", async () => {
    const { present } = await shownFor(demo, <TeachButton />);
    await press("button", "Teach from this stretch");
    await choose(/These are readings of/, "Amber strip");
    await press("button", "Teach");
    await seeNo("dialog", /./);
    const amber = present().ruleSets[0].rules.find((r) => r.target === "amber");
    expect(amber?.any[0].all[0].from).toBeGreaterThan(340);
  });
});

describe("the suggestion", () => {
  const sheet = <SuggestionSheet onClose={() => undefined} />;

  it("is taken but for the rules that are left out", async () => {
    const { present, undoable } = await shownFor(demo, sheet, { judge: new Judge(), teacher: teacherWork });
    await press("checkbox", "Take the rule for Violet tag");
    expect(textOf('[aria-label="Tried light by light"]')).toMatch(/Overcast\d+ of \d+/);
    const violet = () => present().ruleSets[0].rules.find((r) => r.target === "violet");
    const before = violet();
    await press("button", "Take 4 of 5");
    expect(undoable()).toEqual(["suggestion taken"]);
    expect(violet()).toEqual(before);
    expect(present().ruleSets[0].rules).not.toEqual(demo.ruleSets[0].rules);
  });

  it("tells of a mark that is too long, trims it, and compares both methods", async () => {
    const project = splitProject(demo);
    const tape = { ...project.document.tapes[0] };
    const mark = tape.marks.find((m) => m.target === "coral") as (typeof tape.marks)[number];
    const end = mark.to + 200;
    tape.marks = tape.marks
      .map((m) => (m !== mark && m.from > mark.from && m.from <= end ? { ...m, from: end + 1 } : m))
      .filter((m) => m.from <= m.to)
      .map((m) => (m === mark ? { ...m, to: end } : m));
    const document = { ...project.document, tapes: [tape, ...project.document.tapes.slice(1)] };
    const whole = joinReadings(document, project.readings);
    const { present, store } = await shownFor(whole, sheet, { judge: new Judge(), teacher: teacherWork });
    await seeWords("[role=dialog]", /the bands judge [\d.]+\s% rightly, nearest references [\d.]+\s%/);
    expect(textOf('[aria-label="Marks that look wrong"]')).toMatch(/The last 0\.\d\d s of a mark of Coral tag/);
    await press("button", /^Trim the mark of Coral tag/);
    const trimmed = present().tapes[0].marks.find((m) => m.target === "coral" && m.from === mark.from);
    expect(trimmed?.to).toBeLessThan(end);
    expect(trimmed?.to).toBeGreaterThanOrEqual(mark.to - 40);
    await seeNo("button", /^Trim the mark of Coral tag/);
    await press("button", "Take nearest references");
    expect(present().ruleSets[0].method).toBe("nearest");
    expect(present().ruleSets[0].nearest.references.length).toBeGreaterThan(8);
    act(() => void store.dispatch(undone(1)));
    expect(present().ruleSets[0].method).toBe("bands");
  });
});

it("nearest references come from marks, reject what lies far, and are typed and deleted", async () => {
  const nearest = { ...demo, ruleSets: demo.ruleSets.map((set) => ({ ...set, method: "nearest" as const })) };
  const { present } = await shownFor(
    nearest,
    <>
      <NearestPanel />
      <ScoreShare />
    </>,
    { judge: new Judge() },
  );
  const right = () => Number.parseFloat(textOf('[aria-label="Share judged rightly"]'));
  await until("nothing known", () => right() < 80);
  await press("button", "References from marks");
  await until("a good share", () => right() > 97);
  await enter("Coral tag, hue of reference 1", "12");
  expect(present().ruleSets[0].nearest.references[0].hue).toBe(12);
  await press("button", "Delete reference 1, Coral tag");
  expect(present().ruleSets[0].nearest.references).toHaveLength(15);
  expect(names("button", /^Delete reference/)).toHaveLength(15);
  await slide("reject beyond", 0);
  await until("more rejected", () => right() < 97);
});

it("a reading says why it is taken for what it is, and is made otherwise by the smallest change", async () => {
  const { undoable } = await shownFor(demo, <WhyPanel />, { judge: new Judge() });
  await seeWords('[aria-label="Why"]', /Why Coral tag, at 5\.82 s/);
  await press("button", "Make it so: unknown");
  await seeWords('[aria-label="Why"]', /^Why unknown/);
  expect(undoable()).toEqual(["reading made unknown"]);
});
