import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { glasshouseRound } from "../demo";
import { splitProject } from "../project";
import { ReadingBlock, type Strip } from "../readings";
import { classify } from "../rules";
import { BitMask } from "./BitMask";
import {
  BLOB_ORDER,
  type FoundBlob,
  type Frame,
  FrameEye,
  type FrameForm,
  PixelLabels,
  pixelLabelsOf,
  stripIn,
} from "./index";
import { findBlob, inFrame, type PlainSight } from "./plainSight";

/** A mask as rows of yes and no, and the plain way to do each thing to it. */
type Plain = boolean[][];
const at = (mask: Plain, column: number, row: number) => mask[row]?.[column] ?? false;
const squares = (mask: Plain, n: number, every: boolean): Plain =>
  mask.map((cells, row) =>
    cells.map((_, column) => {
      let [all, any] = [true, false];
      for (let y = row - n; y <= row + n; y++)
        for (let x = column - n; x <= column + n; x++) {
          if (at(mask, x, y)) any = true;
          else all = false;
        }
      return every ? all : any;
    }),
  );

/** Parts whose pixels touch at a side or a corner, found by filling one after the other. */
function plainBlobs(mask: Plain, minArea: number): FoundBlob[] {
  const left = mask.map((cells) => [...cells]);
  const found: FoundBlob[] = [];
  left.forEach((cells, row) => {
    cells.forEach((is, column) => {
      if (!is || !left[row][column]) return;
      const pixels: [number, number][] = [];
      const open: [number, number][] = [[column, row]];
      left[row][column] = false;
      for (let next = open.pop(); next !== undefined; next = open.pop()) {
        const [x, y] = next;
        pixels.push(next);
        for (let v = y - 1; v <= y + 1; v++)
          for (let u = x - 1; u <= x + 1; u++)
            if (at(left, u, v)) {
              left[v][u] = false;
              open.push([u, v]);
            }
      }
      const [xs, ys] = [pixels.map(([x]) => x), pixels.map(([, y]) => y)];
      const [west, north] = [Math.min(...xs), Math.min(...ys)];
      found.push({
        area: pixels.length,
        left: west,
        top: north,
        width: Math.max(...xs) - west + 1,
        height: Math.max(...ys) - north + 1,
      });
    });
  });
  return found
    .filter(({ area }) => area >= minArea)
    .sort((a, b) => b.area - a.area || a.top - b.top || a.left - b.left);
}

/** Room for the plain way to look at pixels. */
const plainSight = (pixels: readonly number[], targets: number): PlainSight => ({
  pixels: Int32Array.from(pixels),
  mask: new Int32Array(pixels.length),
  squareRows: new Int32Array(pixels.length),
  toFill: new Int32Array(pixels.length),
  blobs: new Float64Array(targets * BLOB_ORDER.length),
});

const TARGETS = 3;
/** Colours are told apart by their red alone; the other channels say whether they are where they belong. */
const labelOf = (red: number, green: number, blue: number) => (green === 7 && blue === 9 && red <= TARGETS ? red : 0);

/** A frame of labels as bytes, as a camera of that form gives it. */
function frameOf(labels: readonly (readonly number[])[], form: FrameForm, channels: 3 | 4): Frame {
  const { width, height } = form;
  const data = new Uint8Array(width * height * channels).fill(200);
  labels.forEach((cells, row) => {
    const came = form.rows === "top first" ? row : height - 1 - row;
    cells.forEach((label, column) => {
      const byte = (came * width + column) * channels;
      const colours = { r: label, g: 7, b: 9 };
      [...form.order].forEach((letter, i) => {
        data[byte + i] = colours[letter as "r" | "g" | "b"];
      });
    });
  });
  return { width, height, channels, data };
}

const scene = fc
  .record({
    width: fc.integer({ min: 1, max: 75 }),
    height: fc.integer({ min: 1, max: 30 }),
    seed: fc.integer(),
    /** How often a pixel takes the label of the one before it: from noise to plain areas. */
    calm: fc.constantFrom(0, 0.5, 0.8, 0.95),
    rows: fc.constantFrom("top first" as const, "bottom first" as const),
    order: fc.constantFrom("rgb" as const, "bgr" as const, "grb" as const),
    channels: fc.constantFrom(3 as const, 4 as const),
    erode: fc.integer({ min: 0, max: 10 }),
    dilate: fc.integer({ min: 0, max: 10 }),
    minArea: fc.constantFrom(1, 4, 30),
    cut: fc.option(fc.tuple(...Array.from({ length: 4 }, () => fc.double({ min: 0, max: 1, noNaN: true }))), {
      nil: undefined,
    }),
  })
  .map(({ width, height, seed, calm, cut, ...rest }) => {
    let state = seed | 1;
    const draw = () => {
      state = Math.imul(state, 1664525) + 1013904223;
      return (state >>> 8) / 2 ** 24;
    };
    let label = 0;
    const labels = Array.from({ length: height }, () =>
      Array.from({ length: width }, () => {
        if (draw() >= calm) label = Math.floor(draw() * (TARGETS + 1));
        return label;
      }),
    );
    // Areas go on downwards, too.
    for (let row = 1; row < height; row++)
      for (let column = 0; column < width; column++) if (draw() < calm) labels[row][column] = labels[row - 1][column];
    const strip: Strip | undefined = cut && {
      top: Math.floor(Math.min(cut[0], cut[1]) * height),
      bottom: Math.ceil(Math.max(cut[0], cut[1]) * height),
      left: Math.floor(Math.min(cut[2], cut[3]) * width),
      right: Math.ceil(Math.max(cut[2], cut[3]) * width),
    };
    return { width, height, labels, strip, ...rest };
  });

describe("a frame", () => {
  it("gives the masks and blobs that the plain way gives, whatever its form, strip and cleaning", () => {
    fc.assert(
      fc.property(scene, ({ width, height, labels, strip, rows, order, channels, erode, dilate, minArea }) => {
        const form: FrameForm = { width, height, rows, order };
        const watching = { clean: { erode, dilate }, minArea, ...(strip !== undefined && { strip }) };
        const eye = new FrameEye(new PixelLabels(labelOf), form, watching, TARGETS);
        const frame = frameOf(labels, form, channels);
        // The second time nothing of the first is left.
        eye.see(
          frameOf(
            labels.map((cells) => cells.map((label) => (label + 1) % 4)),
            form,
            channels,
          ),
        );
        eye.see(frame);
        const { top, bottom, left, right } = eye.strip;
        for (let target = 1; target <= TARGETS; target++) {
          const mask = labels.slice(top, bottom).map((cells) => cells.slice(left, right).map((l) => l === target));
          const clean = squares(squares(mask, erode, true), dilate, false);
          clean.forEach((cells, row) => {
            expect(cells.map((_, column) => eye.inMask(target, left + column, top + row))).toEqual(cells);
          });
          const blobs = eye.blobs(target);
          const found = Array.from({ length: blobs.length }, (_, k) => blobs.blob(k, left, top));
          const plain = plainBlobs(clean, minArea).map((b) => ({ ...b, left: b.left + left, top: b.top + top }));
          expect(found).toEqual(plain);
          // Robots' code finds the largest, in the same way.
          const [wide, high] = [right - left, bottom - top];
          const pixels = labels.slice(top, bottom).flatMap((cells) => cells.slice(left, right));
          const sight = plainSight(pixels, 1);
          findBlob(sight, target, 0, wide, high, erode, dilate, Math.max(1, minArea));
          inFrame(sight, 0, left, top, 3, width / 2);
          const [largest] = plain;
          const x = largest && largest.left + (largest.width - 1) / 2;
          expect(Array.from(sight.blobs)).toEqual(
            largest === undefined
              ? [0, ...Array.from(sight.blobs).slice(1)]
              : [
                  largest.area,
                  largest.width,
                  largest.height,
                  x,
                  largest.top + (largest.height - 1) / 2,
                  x - 3,
                  width / 2,
                ],
          );
        }
        expect(eye.inMask(1, left - 1, top)).toBe(false);
        expect(eye.inMask(1, left, bottom)).toBe(false);
      }),
      { numRuns: 150 },
    );
  });

  it("keeps more blobs than there are places for at first", () => {
    const [width, height] = [101, 61];
    const form: FrameForm = { width, height, rows: "top first", order: "rgb" };
    const eye = new FrameEye(new PixelLabels(labelOf), form, { clean: { erode: 0, dilate: 0 }, minArea: 1 }, TARGETS);
    const dots = Array.from({ length: height }, (_, row) =>
      Array.from({ length: width }, (_, column) => (row % 2 === 0 && column % 2 === 0 ? 1 : 0)),
    );
    eye.see(frameOf(dots, form, 3));
    expect(eye.blobs(1).length).toBe(51 * 31);
    expect(eye.blobs(1).blob(52)).toEqual({ area: 1, left: 2, top: 2, width: 1, height: 1 });
    expect(eye.blobs(2).length).toBe(0);
  });

  it("of another size than the camera's is refused", () => {
    const form: FrameForm = { width: 4, height: 3, rows: "top first", order: "rgb" };
    const eye = new FrameEye(new PixelLabels(labelOf), form, { clean: { erode: 0, dilate: 0 }, minArea: 1 }, 1);
    expect(() => eye.see({ width: 3, height: 4, channels: 3, data: new Uint8Array(36) })).toThrow(
      "the frame is 3 × 4 px, not 4 × 3",
    );
  });

  it("has a strip within it, however it is named", () => {
    const size = { width: 640, height: 480 };
    expect(stripIn(size)).toEqual({ top: 0, bottom: 480, left: 0, right: 640 });
    expect(stripIn(size, { top: -5, bottom: 900, left: 700, right: 3 })).toEqual({
      top: 0,
      bottom: 480,
      left: 640,
      right: 640,
    });
  });
});

describe("labels of pixels", () => {
  it("are asked for once a colour, and are what is asked", () => {
    const asked: number[][] = [];
    const labels = new PixelLabels((...colour) => {
      asked.push(colour);
      return colour[0] % 3;
    });
    expect([labels.of(1, 2, 3), labels.of(1, 2, 3), labels.of(255, 0, 254)]).toEqual([1, 1, 0]);
    expect(asked).toEqual([
      [1, 2, 3],
      [255, 0, 254],
    ]);
  });
});

it("labels of pixels are those of readings, by bands and by references", () => {
  const { document } = splitProject(glasshouseRound());
  const [bands] = document.ruleSets;
  const targets = document.targets.map(({ id }) => id);
  const sensor = {
    reports: "rgb" as const,
    scale: { r: [0, 255] as [number, number], g: [0, 255] as [number, number], b: [0, 255] as [number, number] },
  };
  const nearest = {
    ...bands,
    method: "nearest" as const,
    nearest: {
      references: [
        { target: targets[0], hue: 8, sat: 0.7, val: 0.6 },
        { target: targets[1], hue: 190, sat: 0.8, val: 0.4 },
      ],
      reject: 0.3,
    },
  };
  for (const ruleSet of [bands, nearest as typeof bands]) {
    const labels = pixelLabelsOf(ruleSet, targets);
    const given = new Set<number>();
    for (let colour = 0; colour < 1 << 24; colour += 2437) {
      const raw: [number, number, number] = [colour >> 16, (colour >> 8) & 255, colour & 255];
      const block = new ReadingBlock(
        {
          t: Float64Array.of(0),
          channels: { r: Float64Array.of(raw[0]), g: Float64Array.of(raw[1]), b: Float64Array.of(raw[2]) },
        },
        sensor,
      );
      const label = targets.indexOf(classify(ruleSet, block.at(0)) as (typeof targets)[0]) + 1;
      given.add(label);
      if (labels.of(...raw) !== label) expect([raw, labels.of(...raw)]).toEqual([raw, label]);
    }
    expect(given.size).toBeGreaterThan(2);
  }
});

it("a mask has no runs where nothing was put in, and whole rows where all was", () => {
  const mask = new BitMask(70, 2, { erode: 0, dilate: 0 });
  const run = new Int32Array(2);
  mask.clear();
  mask.finish();
  expect([mask.span, mask.nextRun(0, 0, run)]).toEqual([[0, 0], false]);
  mask.clear();
  mask.add(1, 0, 70);
  mask.finish();
  expect([mask.nextRun(1, 0, run), ...run]).toEqual([true, 0, 70]);
  expect(mask.nextRun(1, 70, run)).toBe(false);
});
