import { emptyProject } from "@perceptum/core/project";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { edited, gestureEnded, opened } from "./document";
import { makeStore } from "./store";

const project = emptyProject("Glasshouse round");

let store: ReturnType<typeof makeStore>;
let told: string[];
/** One move of a drag. */
const move = (name: string, held = true) =>
  store.dispatch(
    edited({
      edit: { edit: "renameProject", args: { name } },
      project: { ...project, name },
      did: "bound moved",
      gesture: { by: "drag", of: "bound" },
      held,
    }),
  );
const name = () => store.getState().document.present?.name ?? "";

beforeEach(() => {
  vi.useFakeTimers();
  store = makeStore();
  store.dispatch(opened({ id: "1", project, revision: 1 }));
  told = [];
  store.subscribe(() => told.push(name()));
});
afterEach(() => {
  vi.useRealTimers();
});

describe("what a drag changes", () => {
  it("is in the store at once, and told when its judgement is there", () => {
    move("moved");
    expect([name(), told]).toEqual(["moved", []]);
    store.drawHeld();
    expect(told).toEqual(["moved"]);
    // Nothing waits any more.
    store.drawHeld();
    vi.runAllTimers();
    expect(told).toEqual(["moved"]);
  });

  it("is told without a judgement that takes long", () => {
    move("moved");
    vi.advanceTimersByTime(24);
    expect(told).toEqual([]);
    vi.advanceTimersByTime(1);
    expect(told).toEqual(["moved"]);
  });

  it("waits for whatever else is to be drawn with it, in any order, but not for long", () => {
    move("first");
    const done = store.holdMore();
    store.drawHeld();
    expect(told).toEqual([]);
    done();
    expect(told).toEqual(["first"]);
    move("second");
    store.holdMore()();
    expect(told).toEqual(["first"]);
    store.drawHeld();
    expect(told).toEqual(["first", "second"]);
    move("third");
    store.holdMore();
    store.drawHeld();
    vi.advanceTimersByTime(25);
    expect(told).toEqual(["first", "second", "third"]);
  });

  it("is told once for several moves, and with whatever else changes", () => {
    move("first");
    move("second");
    store.drawHeld();
    expect(told).toEqual(["second"]);
    move("third");
    store.dispatch(gestureEnded());
    expect(told).toEqual(["second", "third"]);
  });

  it("is told at once where nothing has to be judged", () => {
    move("moved", false);
    expect(told).toEqual(["moved"]);
  });
});
