import { glasshouseRound } from "@perceptum/core/demo";
import type { Finding } from "@perceptum/core/findings";
import { numbered } from "@perceptum/core/names";
import { emptyProject, splitProject } from "@perceptum/core/project";
import type { Verdict } from "@perceptum/core/world";
import { describe, expect, it } from "vitest";
import { isStage, stageProgress } from "./stages";

const { document } = splitProject(glasshouseRound());
const finding = (level: Finding["level"], stage: Finding["place"]["stage"]) =>
  ({ code: "no-background", level, title: "", sentence: "", place: { stage } }) as Finding;
const verdict = (outcome: Verdict["outcome"]): Verdict => ({ outcome, figure: "" });

describe("how far the stages are", () => {
  it("is nowhere in an empty project", () => {
    expect(stageProgress(emptyProject("x"), [], false, [])).toEqual({
      sense: "empty",
      decide: "empty",
      act: "empty",
      prove: "empty",
      ship: "empty",
    });
  });

  it("is ready where all is there, and begun before it was run", () => {
    expect(stageProgress(document, [], true, [])).toEqual({
      sense: "ready",
      decide: "ready",
      act: "ready",
      prove: "begun",
      ship: "begun",
    });
    expect(stageProgress(document, [], true, [verdict("holds")])).toMatchObject({ prove: "ready", ship: "ready" });
    expect(stageProgress(document, [], false, [verdict("holds")])).toMatchObject({ decide: "begun", ship: "empty" });
  });

  it("is as ready by references, where the nearest one counts", () => {
    const nearest = {
      ...document,
      ruleSets: document.ruleSets.map((set) => ({
        ...set,
        method: "nearest" as const,
        rules: [],
        nearest: { ...set.nearest, references: numbered("reference", [{ target: document.targets[0].id, hue: 10 }]) },
      })),
    };
    expect(stageProgress(nearest, [], true, [verdict("holds")])).toMatchObject({ decide: "ready", ship: "ready" });
    const none = {
      ...nearest,
      ruleSets: nearest.ruleSets.map((set) => ({ ...set, nearest: { references: [], reject: 1 } })),
    };
    expect(stageProgress(none, [], true, [verdict("holds")])).toMatchObject({ decide: "empty", ship: "empty" });
  });

  it("has findings for errors, warnings and failed checks, not for hints", () => {
    expect(
      stageProgress(
        document,
        [finding("error", "decide"), finding("warning", "sense"), finding("hint", "act")],
        true,
        [],
      ),
    ).toMatchObject({
      decide: "findings",
      sense: "findings",
      act: "ready",
    });
    expect(stageProgress(document, [{ ...finding("error", "decide"), aside: true }], true, []).decide).toBe("ready");
    expect(stageProgress(document, [], true, [verdict("holds"), verdict("does not")]).prove).toBe("findings");
    expect(stageProgress(document, [], true, [verdict("not reached")]).prove).toBe("begun");
  });

  it("is known for five stages by name", () => {
    expect(["sense", "decide", "act", "prove", "ship"].every(isStage)).toBe(true);
    expect([undefined, "settings"].some(isStage)).toBe(false);
  });
});
