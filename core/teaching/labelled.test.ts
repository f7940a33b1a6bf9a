import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { glasshouseRound } from "../demo";
import { numbered } from "../names";
import { splitProject } from "../project";
import { marksOfLabels } from "./labelled";

const { document } = splitProject(glasshouseRound());
const { targets, lights } = document;
const times = (n: number) => Float64Array.from({ length: n }, (_, i) => i * 20);
const marked = (labels: readonly string[], notes?: Parameters<typeof marksOfLabels>[4]) =>
  marksOfLabels(times(labels.length), labels, targets, lights, notes);

describe("labels beside readings become marks", () => {
  it("one for each run, from its first reading to its last", () => {
    expect(marked(["coral", "coral", "", "coral", "teal"]).marks).toEqual(
      numbered("mark", [
        { from: 0, to: 20, target: "coral" },
        { from: 60, to: 60, target: "coral" },
        { from: 80, to: 80, target: "teal" },
      ]),
    );
  });

  it("by a target's id, name in any letters, or its code", () => {
    expect(marked(["coral", "Coral tag", " coral TAG ", "CO", "sl"]).marks.map((m) => m.target)).toEqual([
      "coral",
      "coral",
      "coral",
      "coral",
      "slate",
    ]);
  });

  it("where nothing or unknown is noted there is none; other words are told, the commonest first", () => {
    expect(marked(["", "unknown", "Unknown", "pink", "blue", "blue"])).toEqual({
      marks: [],
      unknown: [
        { word: "blue", count: 2 },
        { word: "pink", count: 1 },
      ],
    });
  });

  it("another light or height begins another mark; what is no light and no height is left out", () => {
    const labels = ["coral", "coral", "coral", "coral", "coral"];
    const { marks } = marked(labels, {
      lights: ["Dusk", "dusk", "moonshine", "noon-sun", "noon-sun"],
      heights: [14, 14, 14, 14, -3],
    });
    expect(marks).toEqual(
      numbered("mark", [
        { from: 0, to: 0, target: "coral", light: "dusk", height: 14 },
        { from: 20, to: 20, target: "coral", light: "dusk", height: 14 },
        { from: 40, to: 40, target: "coral", height: 14 },
        { from: 60, to: 60, target: "coral", light: "noon-sun", height: 14 },
        { from: 80, to: 80, target: "coral", light: "noon-sun" },
      ]),
    );
  });

  it("that cover each labelled reading once, and no other", () => {
    const words = ["coral", "Teal tag", "", "unknown", "pink"];
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...words), { maxLength: 60 }), (labels) => {
        const { marks, unknown } = marked(labels);
        labels.forEach((word, i) => {
          const over = marks.filter((m) => i * 20 >= m.from && i * 20 <= m.to).map((m) => m.target);
          expect(over).toEqual(word === "coral" ? ["coral"] : word === "Teal tag" ? ["teal"] : []);
        });
        expect(unknown.reduce((sum, u) => sum + u.count, 0)).toBe(labels.filter((w) => w === "pink").length);
        for (let k = 1; k < marks.length; k++) expect(marks[k].from).toBeGreaterThan(marks[k - 1].to);
      }),
    );
  });

  it("of no readings there are none", () => {
    expect(marked([])).toEqual({ marks: [], unknown: [] });
  });
});
