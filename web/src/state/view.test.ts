import { glasshouseRound } from "@perceptum/core/demo";
import { emptyProject, splitProject } from "@perceptum/core/project";
import { describe, expect, it } from "vitest";
import { opened } from "./document";
import { playheadMoved, playingSet, ruleChosen, runPutBelow, tapeChosen, viewReducer } from "./view";

const { document } = splitProject(glasshouseRound());
const start = viewReducer(undefined, opened({ id: "a", project: document, revision: 1 }));

describe("the view of a project that was opened", () => {
  it("begins on the last tape, in the middle of its first target, with the first rule chosen", () => {
    expect(start.tape).toBe("aisle-walk-noon-sun");
    const mark = document.tapes[1].marks.find((m) => m.target === "coral");
    expect(start.playheads["aisle-walk-noon-sun"]).toBe(((mark?.from ?? 0) + (mark?.to ?? 0)) / 2);
    expect([start.rule, start.target]).toEqual(["coral", "coral"]);
  });

  it("has nothing chosen where there is nothing", () => {
    expect(viewReducer(start, opened({ id: "b", project: emptyProject("x"), revision: 1 }))).toMatchObject({
      tape: null,
      rule: null,
      target: null,
      playheads: {},
    });
  });

  it("keeps a playhead for each source, and stops playing when the source changes", () => {
    const [first, second] = document.tapes;
    let view = viewReducer(start, playheadMoved({ source: first.id, t: 500 }));
    view = viewReducer(viewReducer(view, playingSet(true)), tapeChosen(first.id));
    expect([view.playing, view.playheads[first.id], view.playheads[second.id]]).toEqual([
      false,
      500,
      start.playheads[second.id],
    ]);
    expect(viewReducer(viewReducer(view, playingSet(true)), runPutBelow(true)).playing).toBe(false);
  });

  it("chooses a rule's target with it, and keeps the target when the rule is let go", () => {
    const [, teal] = document.ruleSets[0].rules;
    const chosen = viewReducer(start, ruleChosen({ rule: teal.id, target: teal.target }));
    expect([chosen.rule, chosen.target]).toEqual(["teal", "teal"]);
    expect(viewReducer(chosen, ruleChosen(null))).toMatchObject({ rule: null, target: "teal" });
  });
});
