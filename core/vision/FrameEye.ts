import type { Clean, Strip } from "../readings";
import { BitMask } from "./BitMask";
import { BlobList } from "./BlobList";
import { type Frame, type FrameForm, type PixelPlaces, placesIn, stripIn } from "./frame";
import { NOT_YET, type PixelLabels } from "./PixelLabels";

/** What of a camera's frames counts, and what counts as a blob. */
export interface Watching {
  strip?: Strip;
  clean: Clean;
  /** A blob has at least so many px. */
  minArea: number;
}

/**
 * Looks at one frame after another: labels the pixels of the strip, and finds the blobs of every target, cleaned. Nothing
 * is made anew from frame to frame.
 */
export class FrameEye {
  readonly strip: Strip;
  private readonly masks: readonly BitMask[];
  private readonly lists: readonly BlobList[];

  /** @param targets how many targets the labels count, from 1 on */
  constructor(
    private readonly labels: PixelLabels,
    private readonly form: FrameForm,
    private readonly watching: Watching,
    targets: number,
  ) {
    this.strip = stripIn(form, watching.strip);
    const { top, bottom, left, right } = this.strip;
    this.masks = Array.from({ length: targets + 1 }, () => new BitMask(right - left, bottom - top, watching.clean));
    this.lists = Array.from({ length: targets + 1 }, () => new BlobList());
  }

  /** @throws RangeError for a frame of another size */
  see(frame: Frame): void {
    const { width, height } = this.form;
    if (frame.width !== width || frame.height !== height)
      throw new RangeError(`the frame is ${frame.width} × ${frame.height} px, not ${width} × ${height}`);
    for (let label = 1; label < this.masks.length; label++) this.masks[label].clear();
    this.fillMasks(frame);
    for (let label = 1; label < this.masks.length; label++) {
      const mask = this.masks[label];
      mask.finish();
      this.lists[label].find(mask, this.watching.minArea);
    }
  }

  /** The blobs of a label, the largest first. */
  blobs(label: number): BlobList {
    return this.lists[label];
  }

  /** Whether a pixel of the upright frame is in the cleaned mask of a label. */
  inMask(label: number, column: number, row: number): boolean {
    const { top, bottom, left, right } = this.strip;
    if (column < left || column >= right || row < top || row >= bottom) return false;
    return this.masks[label].has(column - left, row - top);
  }

  /** Every run of pixels of a label's cleaned mask, row after row, in px of the strip. */
  eachRun(label: number, told: (row: number, from: number, to: number) => void): void {
    const mask = this.masks[label];
    const [first, last] = mask.span;
    const run = new Int32Array(2);
    for (let row = first; row < last; row++)
      for (let column = 0; mask.nextRun(row, column, run); column = run[1]) told(row, run[0], run[1]);
  }

  /** Puts every pixel into the mask of its label, a run of one label at a time. */
  private fillMasks(frame: Frame): void {
    const { top, bottom, left, right } = this.strip;
    const { data, channels } = frame;
    const places = placesIn(frame, this.form);
    const bytes = new Uint8Array(data.buffer, data.byteOffset, data.length);
    for (let row = top; row < bottom; row++) {
      const at = places.rowStart(row) + left * channels;
      fillRow(bytes, at, channels, places, this.labels, this.masks, row - top, right - left);
    }
  }
}

/** Puts the `long` pixels from byte `at` on, which are a row of the strip, into the masks of their labels. */
function fillRow(
  bytes: Uint8Array,
  at: number,
  channels: number,
  { red, green, blue }: PixelPlaces,
  labels: PixelLabels,
  masks: readonly BitMask[],
  row: number,
  long: number,
): void {
  const { table } = labels;
  let [r, g, b] = [at + red, at + green, at + blue];
  let label = 0;
  let from = 0;
  for (let i = 0; i < long; i++) {
    let own = table[(bytes[r] << 16) | (bytes[g] << 8) | bytes[b]];
    if (own !== label) {
      if (own === NOT_YET) own = labels.of(bytes[r], bytes[g], bytes[b]);
      if (own >= masks.length) own = 0;
      if (own !== label) {
        if (label !== 0) masks[label].add(row, from, i);
        label = own;
        from = i;
      }
    }
    r += channels;
    g += channels;
    b += channels;
  }
  if (label !== 0) masks[label].add(row, from, long);
}
