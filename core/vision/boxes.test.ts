import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { packFrame } from "../../demo/packFrame";
import { bedWatch } from "../demo";
import { numbered, type TargetId } from "../names";
import { decodePng } from "../png";
import { splitProject } from "../project";
import type { Box, CameraSensor } from "../readings";
import { classify, type RuleSet, ruleSetOf } from "../rules";
import { arbitraryReferences, arbitraryRuleSet, SOME_TARGETS } from "../rules/arbitrary";
import { judgeTapes, markedTapes } from "../teaching";
import {
  allPixels,
  colourRules,
  FactGatherer,
  type Frame,
  frameScore,
  MOST_PICKED,
  marksOfBoxes,
  measured,
  PixelLabels,
  pickedOf,
  pixelLabelsOf,
  pixelsOfBoxes,
  taughtBy,
} from ".";

const { document, readings, frames } = splitProject(bedWatch(packFrame));
const [sensor] = document.sensors as CameraSensor[];
const frame = (name: string) =>
  frames[name] === undefined ? undefined : decodePng(Buffer.from(frames[name], "base64"));
const box = (more: Partial<Box> = {}): Box => ({
  id: "box-1" as never,
  t: 0,
  target: "coral" as TargetId,
  left: 0,
  top: 0,
  width: 1,
  height: 1,
  ...more,
});

describe("the pixels of a box", () => {
  it("lie evenly over the middle four fifths of each side, at most 5000", () => {
    const side = fc.integer({ min: 1, max: 1920 });
    fc.assert(
      fc.property(side, side, fc.nat(50), fc.nat(50), (width, height, left, top) => {
        const { columns, rows } = pickedOf({ left, top, width, height });
        expect(columns.length * rows.length).toBeLessThanOrEqual(MOST_PICKED);
        // Few are left out that could be taken.
        const all = Math.max(1, Math.round(width * 0.8)) * Math.max(1, Math.round(height * 0.8));
        expect(columns.length * rows.length).toBeGreaterThan(0.75 * Math.min(all, MOST_PICKED) - 80);
        for (const [places, from, long] of [
          [columns, left, width],
          [rows, top, height],
        ] as const) {
          expect(new Set(places).size).toBe(places.length);
          expect(places[0]).toBeGreaterThanOrEqual(from + Math.floor((long - Math.max(1, Math.round(0.8 * long))) / 2));
          expect(places[places.length - 1]).toBeLessThan(from + Math.ceil(long * 0.9) + 1);
          const steps = places.slice(1).map((place, i) => place - places[i]);
          if (steps.length > 0) expect(Math.max(...steps) - Math.min(...steps)).toBeLessThanOrEqual(1);
        }
      }),
    );
  });

  it("are read where they stand in the frame, whatever its order and rows", () => {
    const form = { ...sensor, order: "bgr" as const, frame: { width: 4, height: 3, rows: "bottom first" as const } };
    // Each byte says where it stands.
    const data = Uint8Array.from({ length: 4 * 3 * 3 }, (_, i) => i);
    const own: Frame = { width: 4, height: 3, channels: 3, data };
    const pixels = pixelsOfBoxes([box({ left: 2, top: 0 }), box({ left: 1, top: 2 })], form, () => own);
    // The upper row comes last; channels are by their place on the wire.
    expect(Object.values(pixels?.channels ?? {}).map((column) => [...column])).toEqual([
      [30, 3],
      [31, 4],
      [32, 5],
    ]);
    expect(marksOfBoxes([box({ left: 2 }), box({ width: 10, height: 10 })])).toEqual([
      { id: "mark-1", from: 0, to: 0, target: "coral" },
      { id: "mark-2", from: 1, to: 64, target: "coral" },
    ]);
  });

  it("wait until all their frames are there", () => {
    expect(pixelsOfBoxes([box()], sensor, () => undefined)).toBeUndefined();
    expect(allPixels(document, readings, () => undefined).size).toBe(0);
    expect(taughtBy(document, readings, new Map()).readings.size).toBe(0);
  });

  it("teach as readings do: each is judged as its colour is", () => {
    const pixels = allPixels(document, readings, frame);
    const { project, readings: taught } = taughtBy(document, readings, pixels);
    const tapes = markedTapes(project, taught);
    const { score } = judgeTapes(project, tapes);
    const [tape] = tapes;
    const boxes = document.tapes[0].boxes ?? [];
    expect(score.visits.length).toBe(boxes.length);
    expect(score.marked).toBe(tape.block.length);
    const ruleSet = ruleSetOf(document, sensor);
    let right = 0;
    for (let i = 0; i < tape.block.length; i += 97) {
      const { target } = boxes[tape.mark[i] - 1];
      const label = classify(ruleSet, tape.block.at(i));
      const kind = document.targets.find((t) => t.id === target)?.kind;
      if (kind === "background" ? label === "unknown" : label === target) right++;
    }
    expect(right / Math.ceil(tape.block.length / 97)).toBeGreaterThan(0.99);
    expect(score.right / score.marked).toBeGreaterThan(0.99);
  });
});

it("a project without cameras is taught as it is", () => {
  const other = { tapes: [], sensors: [] };
  expect(taughtBy(other, readings, new Map()).project).toBe(other);
});

describe("a frame's score", () => {
  const [tape] = document.tapes;
  const times = readings.get(tape.id)?.t ?? new Float64Array();
  const gatherer = new FactGatherer(sensor, ruleSetOf(document, sensor), document.targets);
  for (const name of tape.frames ?? []) gatherer.look(frame(name) as Frame);
  const facts = gatherer.of(tape.id, times);
  const score = (boxes: readonly Box[]) =>
    Object.fromEntries(
      frameScore({ boxes: [...boxes], marks: [] }, document.targets, facts).map(({ target, ...rest }) => [
        target,
        rest,
      ]),
    );

  it("counts the frames that have a target where it is boxed", () => {
    const chalk = (tape.boxes ?? []).filter((b) => b.target === "chalk");
    expect(score(chalk).chalk).toEqual({ target: undefined, shown: chalk.length, right: chalk.length, wrong: 0 });
  });

  it("counts one that is found on a box of something else as wrong, and one that is found elsewhere as missed", () => {
    const [first] = (tape.boxes ?? []).filter((b) => b.target === "chalk");
    expect(score([{ ...first, target: "teal" as TargetId }]).chalk).toMatchObject({ shown: 0, wrong: 1 });
    const aside = { ...first, left: 0, top: 110, width: 5, height: 5 };
    expect(score([aside]).chalk).toMatchObject({ shown: 1, right: 0, wrong: 0 });
  });

  it("takes what is marked for a stretch as shown in each of its frames", () => {
    const marks = numbered("mark", [{ from: 0, to: 1e9, target: "chalk" as TargetId }]);
    const [chalk] = frameScore({ marks }, document.targets, facts);
    expect(chalk).toMatchObject({ target: "chalk", shown: times.length });
    expect(chalk.right).toBeGreaterThan(times.length / 2);
  });
});

describe("labels that take other rules", () => {
  const colour = fc.nat((1 << 24) - 1);
  const of = (labels: PixelLabels, at: number) => labels.of(at >> 16, (at >> 8) & 255, at & 255);

  it("are those of new ones, after any changes of rules and whatever colours occurred before", () => {
    const change = fc.record({
      rules: arbitraryRuleSet,
      shift: fc.double({ min: -0.2, max: 0.2, noNaN: true }),
      nearest: arbitraryReferences,
    });
    const withBound = (rules: RuleSet, shift: number): RuleSet => ({
      ...rules,
      rules: rules.rules.map((rule) => ({
        ...rule,
        any: rule.any.map(({ id, all }) => ({
          id,
          all: all.map((t) => (t.from === undefined ? t : { ...t, from: t.from + shift })),
        })),
      })),
    });
    fc.assert(
      fc.property(
        fc.array(change, { minLength: 2, maxLength: 5 }),
        fc.array(colour, { maxLength: 60 }),
        (all, drawn) => {
          const labels = new PixelLabels(() => 0);
          for (const [k, { rules, shift, nearest }] of all.entries()) {
            // As a bound that is dragged, and as a set or a method that is chosen in the place of another.
            const byReferences: RuleSet = { ...rules, method: "nearest", nearest };
            for (const set of [rules, withBound(rules, shift), byReferences, rules]) {
              labels.renew(colourRules(set, SOME_TARGETS));
              const fresh = pixelLabelsOf(set, SOME_TARGETS);
              const asked = drawn.slice(0, Math.ceil(((k + 1) * drawn.length) / all.length));
              expect(asked.map((at) => of(labels, at))).toEqual(asked.map((at) => of(fresh, at)));
            }
          }
        },
      ),
      { numRuns: 20 },
    );
  });

  it("forget what they knew where that is too much to be judged anew", () => {
    const labels = new PixelLabels(() => 1);
    for (let at = 0; at < (1 << 19) + 5; at++) of(labels, at);
    labels.renew({
      labelOf: (red, green, blue) => (red + green + blue) % 7,
      again: () => {
        throw new Error("too many");
      },
    });
    expect([of(labels, 5), of(labels, 1 << 19)]).toEqual([5, 8 % 7]);
  });
});

it("a blob is measured from its box, its error from the set point", () => {
  const found = { area: 9, left: 10, top: 20, width: 5, height: 4 };
  expect(measured(found, sensor)).toEqual({
    area: 9,
    width: 5,
    height: 4,
    x: 12,
    y: 21.5,
    error: 12 - 79.5,
    halfFrame: 80,
  });
  expect(measured(found, { ...sensor, setPoint: 10 }).error).toBe(2);
});
