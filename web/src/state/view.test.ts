import { glasshouseRound } from "@perceptum/core/demo";
import { emptyProject, splitProject } from "@perceptum/core/project";
import { describe, expect, it } from "vitest";
import { opened } from "./document";
import {
  actViewChosen,
  beforeKept,
  cellChosen,
  hovered,
  markChosen,
  playheadMoved,
  playingSet,
  proveTabChosen,
  proveViewChosen,
  ruleChosen,
  ruleSetChosen,
  runChosen,
  runPutBelow,
  sensorChosen,
  speedChosen,
  standSet,
  tapeChosen,
  targetChosen,
  thingChosen,
  viewReducer,
  watchingChosen,
  windowChosen,
} from "./view";

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

describe("what is chosen", () => {
  const after = (...actions: Parameters<typeof viewReducer>[1][]) => actions.reduce(viewReducer, start);

  it("on a tape goes with the tape, but not when the same one is chosen again", () => {
    const [first, second] = document.tapes;
    const marked = after(tapeChosen(first.id), markChosen(2));
    expect(marked.mark).toBe(2);
    expect(viewReducer(marked, tapeChosen(first.id)).mark).toBe(2);
    expect(viewReducer(marked, tapeChosen(second.id)).mark).toBeNull();
  });

  it("as a sensor brings its rule set; another rule set lets the rule go", () => {
    const [, eye] = document.sensors;
    expect(after(sensorChosen({ sensor: eye.id, ruleSet: eye.ruleSet }))).toMatchObject({
      sensor: eye.id,
      ruleSet: eye.ruleSet,
      rule: "coral",
    });
    expect(after(ruleSetChosen(eye.ruleSet)).rule).toBeNull();
  });

  it("as a part of the tape is kept for each tape, until all of it is shown again", () => {
    const [first, second] = document.tapes;
    const both = after(
      windowChosen({ source: first.id, from: 100, to: 900 }),
      windowChosen({ source: second.id, from: 5, to: 50 }),
    );
    expect(both.windows).toEqual({ [first.id]: { from: 100, to: 900 }, [second.id]: { from: 5, to: 50 } });
    expect(viewReducer(both, windowChosen({ source: first.id })).windows).toEqual({ [second.id]: { from: 5, to: 50 } });
  });

  it("on the stand changes only what is said", () => {
    expect(after(standSet({ height: 20 }), standSet({ tilt: 5 })).stand).toEqual({
      ...start.stand,
      height: 20,
      tilt: 5,
    });
  });

  it("for a run changes only what is said, and the rest of the view stays", () => {
    const chosen = after(runChosen({ seed: 7 }), runChosen({ course: "aisle" }));
    expect(chosen).toEqual({ ...start, seed: 7, course: "aisle" });
  });

  it.each([
    [speedChosen(16), { speed: 16 }],
    [watchingChosen("bench"), { watching: "bench" }],
    [beforeKept(document.ruleSets), { before: document.ruleSets }],
    [hovered({ source: "run", t: 5 }), { hover: { source: "run", t: 5 } }],
    [targetChosen(null), { target: null }],
    [actViewChosen("diagram"), { actView: "diagram" }],
    [cellChosen({ routine: "water" }), { cell: { routine: "water" } }],
    [proveViewChosen("sweep"), { proveView: "sweep" }],
    [proveTabChosen("why"), { proveTab: "why" }],
    [thingChosen({ part: "zones", index: 0 }), { thing: { part: "zones", index: 0 } }],
  ] as const)("%# is all that changes", (action, change) => {
    expect(viewReducer(start, action)).toEqual({ ...start, ...change });
  });

  it("is all forgotten when another project is opened", () => {
    const full = after(
      proveViewChosen("sweep"),
      runChosen({ seed: 9 }),
      beforeKept(document.ruleSets),
      speedChosen(16),
    );
    expect(viewReducer(full, opened({ id: "c", project: document, revision: 3 }))).toEqual(start);
  });
});
