import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { TargetId } from "@perceptum/core/names";
import { featuresOf } from "@perceptum/core/readings";
import { classify } from "@perceptum/core/rules";
import { type Frame, FrameEye, type FrameForm, type PixelLabels, pixelLabelsOf } from "@perceptum/core/vision";
import { chance } from "@perceptum/core/world";
import { banded } from "./ruleSet";
import type { Row } from "./table";

const TARGETS = 8;
const CLEAN = 2;
const LEAST = 20;
const FORM: FrameForm = { width: 640, height: 480, rows: "top first", order: "rgb" };

const ruleSet = banded(TARGETS);
const targets = ruleSet.rules.map(({ target }) => target);

/** A grey floor with discs of all targets on it, every pixel with noise of its own. */
function drawnFrame(seed: number): Frame {
  const { width, height } = FORM;
  const draw = chance(seed, "frame");
  const discs = Array.from({ length: 24 }, (_, k) => ({
    x: draw.uniform() * width,
    y: draw.uniform() * height,
    r: 12 + draw.uniform() * 60,
    hue: (k % TARGETS) * 45 + 2,
  }));
  const data = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const disc = discs.findLast((d) => (x - d.x) ** 2 + (y - d.y) ** 2 < d.r ** 2);
      const colour = disc === undefined ? [110, 112, 118] : paintOf(disc.hue);
      for (let c = 0; c < 3; c++)
        data[(y * width + x) * 3 + c] = Math.max(0, Math.min(255, colour[c] + (draw.uniform() - 0.5) * 24));
    }
  return { width, height, channels: 3, data };
}

/** A colour of a hue, saturation 0.7, value 0.7. */
function paintOf(hue: number): number[] {
  const part = (n: number) => {
    const k = (n + hue / 60) % 6;
    return 255 * 0.7 * (1 - 0.7 * Math.max(0, Math.min(k, 4 - k, 1)));
  };
  return [part(5), part(3), part(1)];
}

const timesOf = (rounds: number, work: () => void): { median: number; best: number } => {
  const took = Array.from({ length: rounds }, () => {
    const start = performance.now();
    work();
    return performance.now() - start;
  }).sort((a, b) => a - b);
  return { median: took[rounds >> 1], best: took[0] };
};

const inMs = ({ median, best }: { median: number; best: number }) =>
  `${best.toFixed(2)} ms (half of them ${median.toFixed(2)} ms)`;

/** The blobs of all targets as one number, as the C program makes it. */
function sumOf(eye: FrameEye): bigint {
  let sum = 0n;
  for (let label = 1; label <= TARGETS; label++) {
    const blobs = eye.blobs(label);
    for (let k = 0; k < blobs.length; k++) {
      const { area, left, top, width } = blobs.blob(k);
      sum = BigInt.asUintN(64, sum * 31n + BigInt(area * 7 + left * 5 + top * 3 + left + width));
    }
  }
  return sum;
}

/** The best of the same in C, in ms a frame; undefined where there is no compiler. @throws Error where the blobs differ */
function inC(labels: PixelLabels, frame: Frame, sum: bigint): number | undefined {
  const folder = mkdtempSync(join(tmpdir(), "perceptum-bench-"));
  try {
    const program = join(folder, "vision");
    if (spawnSync("cc", ["-O2", "-o", program, "bench/vision.c"]).status !== 0) return undefined;
    const head = Int32Array.of(frame.width, frame.height, TARGETS, CLEAN, LEAST);
    const table = Uint8Array.from({ length: 1 << 24 }, (_, c) => labels.of(c >> 16, (c >> 8) & 255, c & 255));
    writeFileSync(join(folder, "data"), Buffer.concat([Buffer.from(head.buffer), table, Buffer.from(frame.data)]));
    const [ms, of] = spawnSync(program, [join(folder, "data")], { encoding: "utf8" })
      .stdout.trim()
      .split(" ");
    if (BigInt(of) !== sum) throw new Error("C finds other blobs");
    return Number(ms);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Frames to blobs, beside the same work in C; and every colour's label against a reading's. */
export function benchVision(): Row[] {
  const watching = { clean: { erode: CLEAN, dilate: CLEAN }, minArea: LEAST };
  const frame = drawnFrame(3);
  const labels = pixelLabelsOf(ruleSet, targets);
  const eye = new FrameEye(labels, FORM, watching, TARGETS);
  const empty = timesOf(9, () => {
    labels.table.fill(255);
    eye.see(frame);
  });
  const filling = timesOf(9, () => labels.table.fill(255));
  eye.see(frame);
  const full = timesOf(60, () => eye.see(frame));
  const c = inC(labels, frame, sumOf(eye));
  const first = { median: empty.median - filling.median, best: empty.best - filling.best };
  let other = 0;
  for (let colour = 0; colour < 1 << 24; colour++) {
    const [r, g, b] = [colour >> 16, (colour >> 8) & 255, colour & 255];
    const label = classify(ruleSet, featuresOf(r / 255, g / 255, b / 255));
    if (labels.of(r, g, b) !== targets.indexOf(label as TargetId) + 1) other++;
  }
  return [
    {
      what: "frame 640 × 480, 8 targets, cleaned with n = 2, to blobs",
      measured: inMs(full),
      budget: "≤ 4 ms",
      met: full.median <= 4,
    },
    { what: "… with no colour’s label known yet", measured: inMs(first), budget: "≤ 12 ms", met: first.median <= 12 },
    c === undefined
      ? { what: "… the same in C", measured: "no C compiler here", budget: "" }
      : {
          what: "… against the same in C (cc -O2)",
          measured: `${(full.best / c).toFixed(2)} × (C: ${c.toFixed(2)} ms)`,
          budget: "≤ 2 ×",
          met: full.best / c <= 2,
        },
    {
      what: "labels of all 16,777,216 colours, against readings",
      measured: `${other} differ`,
      budget: "0",
      met: other === 0,
    },
  ];
}
