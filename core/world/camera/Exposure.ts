import { linearToDisplay } from "../../colour";
import { type CameraSensor, isSrgb } from "../../readings";

/** Pixels of one paint in one light: `k` is the signal in the middle of the frame, without glare. */
export interface PaintRun {
  row: number;
  from: number;
  to: number;
  k: readonly [number, number, number];
}

/** An exposure that goes by the scene brings its mean to this share of full scale, as far as so many times does. */
const MIDDLE_GREY = 0.18;
const MOST_EXPOSURE = 16;
/** This share of a frame may be brighter than `WHITE`, which leaves room for noise. */
const MOST_WHITE = 0.01;
const WHITE = 0.85;

/** The byte of each level of a signal, of as many levels as there are; sRGB has more than one in most bytes. */
const LINEAR_BYTES = Uint8Array.from({ length: 256 }, (_, i) => i);
const SRGB_LEVELS = 4095;
const SRGB_BYTES = Uint8Array.from({ length: SRGB_LEVELS + 1 }, (_, i) =>
  Math.round(linearToDisplay(i / SRGB_LEVELS) * 255),
);

/** Exposes and encodes a camera's signals as its values ask for: linear ones as they are, sRGB by the scene or held. */
export class Exposure {
  /** The byte of each level of a signal, from none to full scale. */
  readonly bytes: Uint8Array;
  /** The sum of `fall` over a row's pixels before each column; null where nothing goes by the scene. */
  private readonly fallBefore: Float64Array | null;

  /** @param fall the share of light that is left toward the corners, for each pixel */
  constructor(
    private readonly sensor: CameraSensor,
    fall: Float64Array,
  ) {
    this.bytes = isSrgb(sensor) ? SRGB_BYTES : LINEAR_BYTES;
    const { width, height } = sensor.frame;
    this.fallBefore = isSrgb(sensor) && sensor.camera.exposure !== "held" ? sumsBefore(fall, width, height) : null;
  }

  /** Gives the factor on a frame's signals: its mean comes to a middle grey, unless too much of it would be white. */
  of(runs: readonly PaintRun[]): number {
    const { fallBefore } = this;
    if (fallBefore === null) return 1;
    const { width, height } = this.sensor.frame;
    let sum = 0;
    const brightest = runs.map(({ row, from, to, k }) => {
      const fall = fallBefore[row * (width + 1) + to] - fallBefore[row * (width + 1) + from];
      sum += ((k[0] + k[1] + k[2]) / 3) * fall;
      return { level: (Math.max(k[0], k[1], k[2]) * fall) / (to - from), pixels: to - from };
    });
    brightest.sort((a, b) => b.level - a.level);
    let last = 0;
    for (let over = brightest[0].pixels; over < MOST_WHITE * width * height; over += brightest[last].pixels) last++;
    const by = Math.min((MIDDLE_GREY * width * height) / sum, WHITE / brightest[last].level);
    return Math.min(MOST_EXPOSURE, Math.max(1 / MOST_EXPOSURE, by));
  }
}

/** Sums each row's values before each column, and all of them at its end. */
function sumsBefore(values: Float64Array, width: number, height: number): Float64Array {
  const sums = new Float64Array((width + 1) * height);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const at = row * (width + 1) + column;
      sums[at + 1] = sums[at] + values[row * width + column];
    }
  return sums;
}
