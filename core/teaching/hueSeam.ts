import type { MarkedTape } from "./marked";

/** Where the hue axis is cut if nothing lies there. */
export const USUAL_SEAM = 300;
const BIN = 5;
/** Hues of what is greyer than this are left out: they lie everywhere. */
const GREY = 0.25;

/**
 * A hue at which no marked reading with colour lies, to cut the circle at: the usual one if 15° to either side of it
 * are free, else the middle of the widest free stretch.
 */
export function hueSeam(tapes: readonly MarkedTape[]): number {
  const bins = new Array<boolean>(360 / BIN).fill(false);
  for (const { block, truth } of tapes) {
    const hue = block.column("hue");
    const sat = block.column("sat");
    // A sensor that reports only hues knows no grey: every hue of its counts.
    const grey = block.features.includes("sat") ? (i: number) => !(sat[i] > GREY) : () => false;
    for (let i = 0; i < truth.length; i++) if (truth[i] !== 0 && !grey(i)) bins[Math.floor(hue[i] / BIN)] = true;
  }
  const taken = (bin: number) => bins[((bin % bins.length) + bins.length) % bins.length];
  const usual = USUAL_SEAM / BIN;
  if ([-3, -2, -1, 0, 1, 2].every((off) => !taken(usual + off))) return USUAL_SEAM;
  let best = { start: usual, length: 0 };
  for (let start = 0; start < bins.length; start++) {
    let length = 0;
    while (length < bins.length && !taken(start + length)) length++;
    if (length > best.length) best = { start, length };
  }
  return Math.round(((best.start + best.length / 2) * BIN) % 360);
}
