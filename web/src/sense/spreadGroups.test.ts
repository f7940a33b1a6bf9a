import { glasshouseRound } from "@perceptum/core/demo";
import { splitProject } from "@perceptum/core/project";
import { markedTapes, spreadOf } from "@perceptum/core/teaching";
import { describe, expect, it } from "vitest";
import { groupsOf } from "./spreadGroups";

const { document, readings } = splitProject(glasshouseRound());
const tapes = markedTapes(document, readings);
const { targets, lights } = document;

/** All readings of a target, in one light or in all. */
function readingsOf(target: string, light?: string) {
  return tapes.flatMap((tape) =>
    [...tape.mark].flatMap((m, index) => {
      const mark = tape.head.marks[m - 1];
      return mark?.target === target && (light === undefined || mark.light === light) ? [{ tape, index }] : [];
    }),
  );
}

describe("the rows of the spread", () => {
  it("are the targets in their order, each with all its readings while there are few", () => {
    const groups = groupsOf(tapes, targets, lights, false);
    expect(groups.map((g) => g.target.id)).toEqual(targets.map((t) => t.id));
    for (const group of groups) {
      expect(group.picked).toEqual(readingsOf(group.target.id));
      expect(group.count).toBe(group.picked.length);
    }
  });

  it("taken apart are those of each light in which something is marked", () => {
    const groups = groupsOf(tapes, targets, lights, true);
    expect(groups.length).toBeGreaterThan(targets.length);
    for (const group of groups) {
      expect(group.count).toBe(readingsOf(group.target.id, group.light).length);
      expect(group.count).toBeGreaterThan(0);
      expect(group.name).toContain(lights.find((l) => l.id === group.light)?.name ?? "light not noted");
    }
  });

  it("spread as their readings do, and not at all in what the sensor does not report", () => {
    for (const group of groupsOf(tapes, targets, lights, false)) {
      const sat = Float64Array.from(group.picked, ({ tape, index }) => tape.block.column("sat")[index]);
      expect(group.spread("sat")).toEqual(spreadOf("sat", sat));
      expect(group.spread("reflected")).toBeUndefined();
    }
  });

  it("of very many readings take some, evenly over all tapes", () => {
    const many = Array.from({ length: 60 }, () => tapes).flat();
    const slate = groupsOf(many, targets, lights, false).find((g) => g.target.id === "slate");
    expect(slate?.count).toBe(60 * readingsOf("slate").length);
    expect(slate?.picked.length).toBeLessThanOrEqual(4000);
    expect(slate?.picked.length).toBeGreaterThan(2000);
    const indices = slate?.picked.map(({ tape }) => many.indexOf(tape)) ?? [];
    expect(new Set(indices).size).toBe(tapes.length);
  });

  it("are empty where nothing is marked", () => {
    expect(groupsOf([], targets, lights, true)).toEqual([]);
    const [first] = groupsOf([], targets, lights, false);
    expect(first.count).toBe(0);
    expect(first.spread("hue")).toBeUndefined();
  });
});
