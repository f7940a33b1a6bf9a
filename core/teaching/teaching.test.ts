import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { glasshouseRound } from "../demo";
import { numbered } from "../names";
import { splitProject } from "../project";
import { FEATURE_FACTS, ReadingBlock } from "../readings";
import { classify, type RuleSet, setBound, spansOf } from "../rules";
import {
  addToScore,
  emptyScore,
  firstBands,
  flipsOf,
  hueSeam,
  JudgeAgain,
  judgeTapes,
  markedTapes,
  markOfEach,
  spreadOf,
  tally,
} from ".";

const { document, readings } = splitProject(glasshouseRound());
const tapes = markedTapes(document, readings);
const grounds = [{ kind: "tag" }, { kind: "tag" }, { kind: "background" }] as const;

describe("spread", () => {
  it("has mean, deviation, range and quantiles of plain values", () => {
    const values = Float64Array.from({ length: 101 }, (_, i) => i / 100);
    expect(spreadOf("sat", values)).toMatchObject({ count: 101, min: 0, max: 1 });
    expect(spreadOf("sat", values)?.mean).toBeCloseTo(0.5, 12);
    expect(spreadOf("sat", values)?.low).toBeCloseTo(0.05, 12);
    expect(spreadOf("sat", Float64Array.of(2, 4, 4, 4, 5, 5, 7, 9))?.deviation).toBeCloseTo(2.138, 3);
  });

  it("goes round the circle for hue, and leaves out greys", () => {
    const spread = spreadOf("hue", Float64Array.of(350, 355, 0, 5, 10, Number.NaN));
    expect(spread?.count).toBe(5);
    expect(spread?.min).toBeCloseTo(350, 9);
    expect(spread?.max).toBeCloseTo(10, 9);
    expect(Math.min(spread?.mean ?? 9, 360 - (spread?.mean ?? 9))).toBeLessThan(1e-9);
  });

  it("has nothing to say of nothing", () => {
    expect(spreadOf("sat", new Float64Array())).toBeUndefined();
    expect(spreadOf("hue", Float64Array.of(Number.NaN))).toBeUndefined();
  });
});

describe("a mark", () => {
  it("holds every reading from its beginning on, of several at one time as well", () => {
    const t = Float64Array.of(0, 10, 10, 10, 20);
    const column = Float64Array.of(1, 2, 3, 4, 5);
    const block = new ReadingBlock({ t, channels: { r: column, g: column, b: column } }, document.sensors[0]);
    const { id: target } = document.targets[0];
    expect([...markOfEach(block, [{ from: 10, to: 20, target }])]).toEqual([0, 1, 1, 1, 1]);
    expect([...markOfEach(block, [{ from: 11, to: 19, target }])]).toEqual([0, 0, 0, 0, 0]);
    expect([...markOfEach(block, [{ from: -5, to: 0, target }])]).toEqual([1, 0, 0, 0, 0]);
  });
});

describe("score", () => {
  it("counts truth against label; a background is right while it is taken for no target", () => {
    const score = emptyScore(3);
    const mark = Uint16Array.of(1, 1, 2, 3, 3, 3, 0);
    const marks = [0, 1, 1].map((l) => ({
      from: 0,
      to: 1,
      target: document.targets[0].id,
      light: document.lights[l].id,
    }));
    const by = { targets: grounds, lights: document.lights };
    const tape = { head: { marks: numbered("mark", marks) }, mark, truth: Uint8Array.of(1, 1, 2, 3, 3, 3, 0) };
    addToScore(score, tally(tape, Uint8Array.of(1, 2, 0, 0, 1, 3, 1), by), by);
    expect(score.counts).toEqual([
      [0, 1, 1, 0],
      [1, 0, 0, 0],
      [1, 1, 0, 1],
    ]);
    expect([score.marked, score.right, score.visits]).toEqual([
      6,
      3,
      [
        { n: 2, right: 1 },
        { n: 1, right: 0 },
        { n: 3, right: 2 },
      ],
    ]);
    expect(score.byLight).toEqual([
      { light: "overcast", marked: 2, right: 1, targets: 2, found: 1, grounds: 0, taken: 0 },
      { light: "noon-sun", marked: 4, right: 2, targets: 1, found: 0, grounds: 3, taken: 1 },
    ]);
  });
});

describe("a change of rules", () => {
  it("gains, loses, or only labels otherwise", () => {
    const into = new Uint8Array(6);
    const flips = flipsOf(
      Uint8Array.of(1, 1, 3, 3, 0, 1),
      Uint8Array.of(0, 1, 1, 0, 0, 0),
      Uint8Array.of(1, 0, 0, 3, 1, 2),
      grounds,
      into,
    );
    expect(flips).toEqual({ gained: 2, lost: 1, other: 3 });
    expect([...into]).toEqual([1, 2, 1, 3, 3, 3]);
  });
});

describe("marks", () => {
  it("hold from their first to their last reading, later ones over earlier ones", () => {
    const [{ block }] = tapes;
    const target = document.targets[0].id;
    const marks = markOfEach(block, [
      { from: 30, to: 80, target },
      { from: 60, to: 60, target },
    ]);
    expect([...marks.slice(0, 6)]).toEqual([0, 0, 1, 2, 1, 0]);
  });

  it("past the end of a tape hold nothing", () => {
    const [{ block }] = tapes;
    expect(markOfEach(block, [{ from: 1e9, to: 2e9, target: document.targets[0].id }]).every((m) => m === 0)).toBe(
      true,
    );
  });
});

describe("judging all tapes", () => {
  it("gives the score of its tapes and the spans in which something is seen", () => {
    const { score, tapes: judged } = judgeTapes(document, tapes);
    expect(score.marked).toBe(tapes.reduce((sum, t) => sum + t.truth.filter((x) => x > 0).length, 0));
    const wrong = score.counts[7][1];
    expect(score.right).toBe(score.marked - wrong);
    const noon = judged.get(document.tapes[1].id);
    expect(noon?.spans.length).toBeGreaterThan(6);
  });

  it("finds spans of what is not 0", () => {
    expect(spansOf(Uint8Array.of(0, 2, 2, 0, 1, 3))).toEqual([
      { from: 1, to: 2, target: 2 },
      { from: 4, to: 4, target: 1 },
      { from: 5, to: 5, target: 3 },
    ]);
  });
});

it("cuts the hue axis where nothing lies", () => {
  expect(hueSeam(tapes)).toBe(300);
  const magenta = tapes.map((tape) => ({
    ...tape,
    block: {
      ...tape.block,
      column: (f: string) =>
        f === "hue" ? new Float64Array(tape.truth.length).fill(301) : new Float64Array(tape.truth.length).fill(0.9),
    },
  }));
  const seam = hueSeam(magenta as unknown as typeof tapes);
  expect(Math.min(Math.abs(seam - 301), 360 - Math.abs(seam - 301))).toBeGreaterThan(90);
});

it("gives a new rule bands that take all its own marked readings", () => {
  document.targets.forEach((target, i) => {
    const rules = {
      ...document.ruleSets[0],
      rules: [
        {
          id: "new" as never,
          target: target.id,
          on: true,
          any: numbered("clause", [{ all: firstBands(tapes, i + 1) }]),
        },
      ],
    };
    for (const { block, truth } of tapes)
      for (let k = 0; k < block.length; k += 7)
        if (truth[k] === i + 1) expect(classify(rules, block.at(k))).toBe(target.id);
  });
});

describe("tapes that are judged over and over", () => {
  const [floor, ...others] = document.ruleSets;
  type Move = (set: RuleSet) => RuleSet;
  const rule = fc.nat(floor.rules.length - 1);
  const bound = fc
    .tuple(rule, fc.constantFrom("hue", "sat", "val"), fc.constantFrom("from", "to"), fc.integer({ min: 0, max: 40 }))
    .map(
      ([i, feature, end, share]): Move =>
        (set) =>
          setBound(
            set,
            { rule: set.rules[i].id, clause: set.rules[i].any[0].id, feature, end },
            (share / 40) * FEATURE_FACTS[feature].max,
            true,
          ),
    );
  const steady = fc
    .record({ hits: fc.constant(1), of: fc.integer({ min: 1, max: 6 }), release: fc.integer({ min: 1, max: 5 }) })
    .map(
      (other): Move =>
        (set) => ({ ...set, steady: { ...set.steady, ...other } }),
    );
  const method = fc.constantFrom("bands", "nearest").map(
    (method): Move =>
      (set) => ({ ...set, method }),
  );
  const off = rule.map(
    (k): Move =>
      (set) => ({ ...set, rules: set.rules.map((r, i) => (i === k ? { ...r, on: !r.on } : r)) }),
  );
  const move = fc.oneof({ weight: 3, arbitrary: bound }, steady, method, off);

  it("are judged as they are once, and flip as they do against others", () => {
    fc.assert(
      fc.property(fc.array(move, { minLength: 1, maxLength: 8 }), (moves) => {
        const again = new JudgeAgain();
        const start = judgeTapes(document, tapes);
        let set: RuleSet = floor;
        for (const step of moves) {
          set = step(set);
          const project = { ...document, ruleSets: [set, ...others] };
          const once = judgeTapes(project, tapes);
          expect(again.judge(project, tapes)).toEqual(once);
          for (const tape of tapes) {
            const before = start.tapes.get(tape.head.id)?.labels ?? new Uint8Array();
            const now = once.tapes.get(tape.head.id)?.labels ?? new Uint8Array();
            expect(again.flips(tape, before, document.targets)).toEqual(
              flipsOf(tape.truth, before, now, document.targets),
            );
          }
        }
      }),
      { numRuns: 25 },
    );
  });
});
