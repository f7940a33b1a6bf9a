import { pottingShed } from "@perceptum/core/demo";
import type { TargetId } from "@perceptum/core/names";
import { splitProject } from "@perceptum/core/project";
import { type BeltCourse, Course, paintsOf, reportPieces, run } from "@perceptum/core/world";
import { describe, expect, it } from "vitest";
import { beltScale } from "./beltScale";
import { beltScene, spread, tellBelt } from "./beltScene";
import { byShares, inOrder, pieceAdded, pieceMoved, pieceRemoved, pieceRepainted, rowOf } from "./pieceEdit";

const { document } = splitProject(pottingShed());
const [course] = document.courses as BeltCourse[];
const t = (id: string) => id as TargetId;
const withRow = (...row: string[]): BeltCourse => ({ ...course, pieces: { ...course.pieces, order: row.map(t) } });
const wordsOf = (c: BeltCourse) => (rowOf(c) ?? []).map((piece) => paintsOf(piece).join("/")).join(" ");

describe("the row of pieces", () => {
  it("gets one at its end or behind the chosen one, loses one, and has one moved or painted anew", () => {
    const row = withRow("coral", "teal", "amber");
    expect(wordsOf(pieceAdded(row, t("violet"), null).course)).toBe("coral teal amber violet");
    const behind = pieceAdded(row, t("violet"), 0);
    expect([wordsOf(behind.course), behind.at]).toEqual(["coral violet teal amber", 1]);
    expect(wordsOf(pieceRemoved(row, 1))).toBe("coral amber");
    expect(wordsOf(pieceMoved(row, 0, 2))).toBe("teal amber coral");
    expect(wordsOf(pieceMoved(row, 2, 0))).toBe("amber coral teal");
    expect(pieceMoved(row, 7, 0)).toBe(row);
    expect(wordsOf(pieceRepainted(row, 1, { oneOf: [t("teal"), t("chalk")] }))).toBe("coral teal/chalk amber");
  });

  it("becomes shares as it stood, and shares a row in which each has its part all along", () => {
    const shares = byShares(withRow("coral", "teal", "coral", "coral"), t("amber"));
    expect(shares.pieces.order).toEqual({
      draw: [
        { target: "coral", weight: 3 },
        { target: "teal", weight: 1 },
      ],
      count: 4,
    });
    expect(rowOf(shares)).toBeNull();
    const row = inOrder({
      ...shares,
      pieces: { ...shares.pieces, order: { ...shares.pieces.order, count: 8 } as never },
    });
    expect(rowOf(row)?.filter((piece) => piece === "teal")).toHaveLength(2);
    expect(
      rowOf(row)
        ?.slice(0, 4)
        .filter((piece) => piece === "teal"),
    ).toHaveLength(1);
    expect(byShares(withRow(), t("amber")).pieces.order).toEqual({ draw: [{ target: "amber", weight: 1 }], count: 20 });
    for (const made of [shares, row, byShares(withRow(), t("amber"))])
      expect(Course.safeParse(made).success).toBe(true);
  });
});

describe("a belt at a moment of a run", () => {
  const trace = run(document, { course: course.id, seed: 1 });
  const report = reportPieces(trace);
  const at = (ms: number) => beltScene(document.robot, course, trace, ms);

  it("has every piece once: on its way, in a crate or jammed", () => {
    for (let ms = 0; ms <= trace.endMs; ms += 700) {
      const { pieces, crates, jammed } = at(ms);
      const fallen = crates.flatMap(({ held }) => held.map(({ count }) => count)).reduce((a, b) => a + b, 0);
      expect(pieces.length + fallen + jammed).toBe(report.length);
      expect(fallen).toBe(report.filter(({ into, t: when = Infinity }) => into !== null && when <= ms).length);
    }
  });

  it("opens a gate over the time that it takes, and crosses out what does not belong in a crate", () => {
    const told = trace.outputs.find(({ command }) => command.kind === "gate" && command.open);
    if (told === undefined || told.command.kind !== "gate") throw new Error("no gate moved");
    const { gate } = told.command;
    const open = (ms: number) => at(ms).gates.find(({ id }) => id === gate)?.open;
    expect([open(told.t - 5), open(told.t + 50), open(told.t + 100)]).toEqual([0, 0.5, 1]);
    const last = at(trace.endMs).crates.at(-1);
    expect(last?.name).toBe("End crate");
    expect(last?.held.filter(({ wrong }) => wrong).map(({ count }) => count)).toEqual([1, 1]);
    expect(last?.held.find(({ target }) => target === "chalk")?.wrong).toBe(false);
  });

  it("is told in words", () => {
    const words = tellBelt(at(trace.endMs), course.size[0], (id) => id);
    expect(words).toMatch(/^0 pieces on the belt; Coral crate holds 5 coral; .*End crate holds .*4 chalk/);
    expect(tellBelt(beltScene(document.robot, course, null, 0), course.size[0], (id) => id)).toBe(
      "0 pieces on the belt",
    );
  });
});

describe("the drawing of a belt", () => {
  it("spreads crates as near as can be to their gates, none over another, within its room", () => {
    expect(spread([100, 300], 60, 0, 400)).toEqual([100, 300]);
    expect(spread([100, 110, 390], 60, 0, 400)).toEqual([100, 160, 370]);
    expect(spread([390, 395], 60, 0, 400)).toEqual([310, 370]);
    for (let n = 1; n < 7; n++) {
      const places = spread(Array(n).fill(200), 60, 0, 400);
      const sorted = [...places].sort((a, b) => a - b);
      expect(sorted[0]).toBeGreaterThanOrEqual(30 - 1e-9 - Math.max(0, n * 60 - 400));
      sorted.slice(1).forEach((x, i) => expect(x - sorted[i]).toBeGreaterThanOrEqual(60));
    }
  });

  it("is to scale in any room, its start left and its end right", () => {
    for (const [width, height] of [
      [715, 370],
      [190, 243],
      [1300, 700],
    ]) {
      const { scale, x, y, deep } = beltScale([900, 120], width, height);
      expect(x(900) - x(0)).toBeCloseTo(900 * scale, 9);
      expect(y(0) - y(120)).toBeCloseTo(120 * scale, 9);
      expect([x(0) > 0, x(900) < width, y(0) + deep < height]).toEqual([true, true, true]);
    }
  });
});
