import { glasshouseRound } from "@perceptum/core/demo";
import type { ThingId } from "@perceptum/core/names";
import { emptyProject, splitProject } from "@perceptum/core/project";
import { describe, expect, it } from "vitest";
import { actViewChosen, cellChosen } from "./act";
import { opened } from "./document";
import { proveTabChosen, proveViewChosen, runChosen, thingChosen } from "./prove";
import { standSet, watchingChosen } from "./sense";
import { type AppStore, makeStore } from "./store";
import {
  beforeKept,
  hovered,
  markChosen,
  playheadMoved,
  playingSet,
  ruleChosen,
  ruleSetChosen,
  runPutBelow,
  sensorChosen,
  speedChosen,
  tapeChosen,
  targetChosen,
  viewReducer,
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

  it("has the sensor chosen whose tape is shown, with its rules", () => {
    const [, other] = document.sensors;
    const [set] = document.ruleSets;
    const own = { ...set, id: "own" as typeof set.id, rules: [] };
    const project = {
      ...document,
      ruleSets: [set, own],
      sensors: document.sensors.map((s) => (s.id === other.id ? { ...s, ruleSet: own.id } : s)),
      tapes: [document.tapes[0], { ...document.tapes[1], sensor: other.id }],
    };
    expect(viewReducer(start, opened({ id: "c", project, revision: 1 }))).toMatchObject({
      sensor: other.id,
      ruleSet: "own",
      tape: "aisle-walk-noon-sun",
      rule: null,
    });
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
  /** The store with the project opened, and what is chosen in it after some actions. */
  const after = (...actions: Parameters<AppStore["dispatch"]>[0][]) => {
    const store = makeStore();
    for (const action of [opened({ id: "a", project: document, revision: 1 }), ...actions]) store.dispatch(action);
    const { view, sense, act, prove } = store.getState();
    return { view, sense, act, prove };
  };
  const begin = after();

  it("on a tape goes with the tape, but not when the same one is chosen again", () => {
    const [first, second] = document.tapes;
    const marked = [tapeChosen(first.id), markChosen(document.tapes[0].marks[2].id)];
    expect(after(...marked).view.mark).toBe("mark-3");
    expect(after(...marked, tapeChosen(first.id)).view.mark).toBe("mark-3");
    expect(after(...marked, tapeChosen(second.id)).view.mark).toBeNull();
  });

  it("as a sensor brings its rule set; another rule set lets the rule go", () => {
    const [, eye] = document.sensors;
    const { view } = after(sensorChosen({ sensor: eye.id, ruleSet: eye.ruleSet }));
    expect(view).toMatchObject({ sensor: eye.id, ruleSet: eye.ruleSet, rule: "coral" });
    expect(after(ruleSetChosen(eye.ruleSet)).view.rule).toBeNull();
  });

  it("as a part of the tape is kept for each tape, until all of it is shown again", () => {
    const [first, second] = document.tapes;
    const both = [
      windowChosen({ source: first.id, from: 100, to: 900 }),
      windowChosen({ source: second.id, from: 5, to: 50 }),
    ];
    expect(after(...both).view.windows).toEqual({
      [first.id]: { from: 100, to: 900 },
      [second.id]: { from: 5, to: 50 },
    });
    expect(after(...both, windowChosen({ source: first.id })).view.windows).toEqual({
      [second.id]: { from: 5, to: 50 },
    });
  });

  it.each([
    ["the speed", [speedChosen(16)], { view: { speed: 16 } }],
    ["what is kept to compare", [beforeKept(document.ruleSets)], { view: { before: document.ruleSets } }],
    ["the pointer", [hovered({ source: "run", t: 5 })], { view: { hover: { source: "run", t: 5 } } }],
    ["the target", [targetChosen(null)], { view: { target: null } }],
    ["what Sense looks at", [watchingChosen("bench")], { sense: { watching: "bench" } }],
    [
      "the stand",
      [standSet({ height: 20 }), standSet({ tilt: 5 })],
      { sense: { stand: { ...begin.sense.stand, height: 20, tilt: 5 } } },
    ],
    ["what Act shows", [actViewChosen("diagram")], { act: { shown: "diagram" } }],
    ["a cell", [cellChosen({ routine: "water" })], { act: { cell: { routine: "water" } } }],
    ["what Prove works on", [proveViewChosen("sweep")], { prove: { shown: "sweep" } }],
    ["the tab beside the course", [proveTabChosen("why")], { prove: { tab: "why" } }],
    [
      "a part of the course",
      [thingChosen({ part: "zones", id: "zone-1" as ThingId })],
      { prove: { thing: { part: "zones", id: "zone-1" as ThingId } } },
    ],
    ["the next run", [runChosen({ seed: 7 }), runChosen({ course: "aisle" })], { prove: { seed: 7, course: "aisle" } }],
  ] as const)("of %s is all that changes", (_, actions, changes) => {
    const changed = Object.entries(changes).map(([slice, change]) => [
      slice,
      { ...begin[slice as keyof typeof begin], ...change },
    ]);
    expect(after(...actions)).toEqual({ ...begin, ...Object.fromEntries(changed) });
  });

  it("is all forgotten when another project is opened", () => {
    const full = [proveViewChosen("sweep"), runChosen({ seed: 9 }), beforeKept(document.ruleSets), speedChosen(16)];
    expect(after(...full, standSet({ tilt: 9 }), opened({ id: "c", project: document, revision: 3 }))).toEqual(begin);
  });
});
