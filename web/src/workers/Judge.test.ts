import { glasshouseRound, pipeRailCarrier } from "@perceptum/core/demo";
import { splitProject } from "@perceptum/core/project";
import type { RuleSet } from "@perceptum/core/rules";
import { figuresOf, judgeTapes, markedTapes } from "@perceptum/core/teaching";
import { describe, expect, it } from "vitest";
import { Judge } from "./Judge";

const { document, readings } = splitProject(glasshouseRound());
const { sensors, targets, lights, tapes, ruleSets } = document;

function standing(): Judge {
  const judge = new Judge();
  judge.setReadings([...readings]);
  judge.setProject({ sensors, targets, lights, tapes });
  return judge;
}

/** The demo's rules with coral's lower bound of value somewhere else, as a drag leaves them. */
const draggedTo = (from: number): RuleSet[] =>
  ruleSets.map((set) => ({
    ...set,
    rules: set.rules.map((rule) =>
      rule.id !== "coral"
        ? rule
        : {
            ...rule,
            any: rule.any.map(({ id, all }) => ({
              id,
              all: all.map((t) => (t.feature === "val" ? { ...t, from } : t)),
            })),
          },
    ),
  }));

describe("the judge", () => {
  it("judges as the core does, however often the rules change", () => {
    const judge = standing();
    const marked = markedTapes(document, readings);
    for (const from of [0.42, 0.5, 0.9, 0.1, 0.42]) {
      const answer = judge.judge(draggedTo(from));
      const { tapes: judged, score } = judgeTapes({ ...document, ruleSets: draggedTo(from) }, marked);
      expect(answer.score).toEqual(figuresOf(score));
      expect(new Map(answer.tapes)).toEqual(judged);
      expect([answer.change, answer.before]).toEqual([null, null]);
    }
  });

  it("says what a drag gains and loses against its beginning, not against the move before", () => {
    const judge = standing();
    judge.compareWith("drag", ruleSets);
    const narrower = judge.judge(draggedTo(0.55)).change;
    // Drawn in, the band lets the terracotta go that it took.
    expect(narrower?.gained).toBeGreaterThan(100);
    expect(narrower?.lost).toBe(0);
    const shut = judge.judge(draggedTo(0.99)).change;
    expect(shut?.lost).toBeGreaterThan(300);
    expect(judge.judge(draggedTo(0.55)).change).toEqual(narrower);
    // So does one that begins at the rules that were judged last.
    const settled = standing();
    settled.judge(ruleSets);
    settled.compareWith("drag", ruleSets);
    expect(settled.judge(draggedTo(0.55)).change).toEqual(narrower);
    expect(settled.judge(draggedTo(0.99)).change).toEqual(shut);
    expect(judge.judge(ruleSets).change).toEqual({ gained: 0, lost: 0, other: 0 });
    judge.compareWith("drag", null);
    expect(judge.judge(draggedTo(0.99)).change).toBeNull();
  });

  it("shows where it differs from the rules that are kept, and how good those were", () => {
    const judge = standing();
    judge.compareWith("before", ruleSets);
    const { before, score } = judge.judge(draggedTo(0.99));
    const kept = judge.judge(ruleSets);
    expect(before?.score).toEqual(kept.score);
    expect(score.right).toBe(kept.score.right + (before?.flips.gained ?? 0) - (before?.flips.lost ?? 0));
    const differing = new Map(before?.tapes);
    for (const { id } of tapes) {
      const [then, now] = [kept, judge.judge(draggedTo(0.99))].map(
        (a) => a.tapes.find(([tape]) => tape === id)?.[1].labels ?? new Uint8Array(),
      );
      const flipped = new Set(
        differing.get(id)?.flatMap(({ from, to }) => Array.from({ length: to - from + 1 }, (_, k) => from + k)),
      );
      expect([...now].every((label, i) => (label !== then[i]) === flipped.has(i))).toBe(true);
    }
  });

  it("judges anew what it compares with when marks change", () => {
    const judge = standing();
    judge.compareWith("before", ruleSets);
    const first = judge.judge(draggedTo(0.99)).before;
    judge.setProject({ sensors, targets, lights, tapes: tapes.map((tape) => ({ ...tape, marks: [] })) });
    const unmarked = judge.judge(draggedTo(0.99)).before;
    expect(unmarked?.score.marked).toBe(0);
    expect(unmarked?.flips).toEqual({
      gained: 0,
      lost: 0,
      other: (first?.flips.gained ?? 0) + (first?.flips.lost ?? 0) + (first?.flips.other ?? 0),
    });
  });

  it("begins with another project as a new one does", () => {
    const judge = standing();
    judge.compareWith("before", ruleSets);
    judge.compareWith("drag", ruleSets);
    judge.judge(draggedTo(0.99));
    const other = splitProject(pipeRailCarrier());
    const ground = (({ sensors, targets, lights, tapes }) => ({ sensors, targets, lights, tapes }))(other.document);
    const fresh = new Judge();
    for (const one of [judge, fresh]) {
      one.begin([...other.readings]);
      one.setProject(ground);
    }
    expect(judge.judge(other.document.ruleSets)).toEqual(fresh.judge(other.document.ruleSets));
  });

  it("forgets readings that are not held any more", () => {
    const judge = standing();
    judge.setReadings([...readings].slice(0, 1));
    expect(judge.judge(ruleSets).tapes.map(([id]) => id)).toEqual([tapes[0].id]);
  });
});
