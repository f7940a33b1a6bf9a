import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { forgetPlace, keepPlace, placeIn } from "./places";

let kept: Map<string, string>;
beforeEach(() => {
  kept = new Map();
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  });
});
afterEach(() => {
  vi.unstubAllGlobals();
});

describe("where one was in a project", () => {
  it("is kept part by part, for each project by itself, and forgotten with it", () => {
    expect(placeIn("a")).toBeUndefined();
    keepPlace("a", { stage: "prove", course: "aisle" });
    keepPlace("a", { checks: { holding: 5, of: 6, at: 7 } });
    keepPlace("b", { tape: "walk" });
    expect(placeIn("a")).toEqual({ stage: "prove", tape: null, course: "aisle", checks: { holding: 5, of: 6, at: 7 } });
    expect(placeIn("b")).toEqual({ stage: "sense", tape: "walk", course: null });
    forgetPlace("a");
    expect(placeIn("a")).toBeUndefined();
  });

  it("is nowhere where a browser keeps nothing, or what it keeps cannot be read", () => {
    kept.set("perceptum.place.a", "{");
    expect(placeIn("a")).toBeUndefined();
    vi.stubGlobal("localStorage", {
      getItem: () => {
        throw new Error("no access");
      },
      setItem: () => {
        throw new Error("full");
      },
      removeItem: () => {
        throw new Error("no access");
      },
    });
    keepPlace("a", { stage: "act" });
    forgetPlace("a");
    expect(placeIn("a")).toBeUndefined();
  });
});
