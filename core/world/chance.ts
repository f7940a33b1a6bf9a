import { xoroshiro128plusFromState } from "pure-rand/generator/xoroshiro128plus";
import { normalQuantile } from "../arithmetic";

/** A stream of random numbers for one use. */
export interface Chance {
  /** Uniform in (0, 1), never an end. */
  uniform(): number;
  /** Normal with mean 0 and variance 1. */
  normal(): number;
}

/**
 * The stream of a run's `seed` for one named use, so that more draws in one use leave the others as they were. Every
 * bit of the name and of the seed is mixed into each word of the generator's state: streams of two uses, or of two
 * seeds, are independent from their first draw on.
 */
export function chance(seed: number, use: string): Chance {
  // FNV-1a over the use's name.
  let name = 0x811c9dc5;
  for (let i = 0; i < use.length; i++) name = Math.imul(name ^ use.charCodeAt(i), 0x01000193);
  const high = Math.floor(seed / 0x1_0000_0000);
  const word = (k: number) => mixed(mixed(mixed(mixed(name + k * 0x9e3779b9) ^ use.length) + high) ^ seed);
  const generator = xoroshiro128plusFromState([word(1), word(2), word(3), word(4) | 1]);
  const uniform = () => ((generator.next() >>> 0) + 0.5) / 4294967296;
  return { uniform, normal: () => normalQuantile(uniform()) };
}

/** A word of which each bit depends on every bit of the given one (the finaliser of MurmurHash3). */
function mixed(word: number): number {
  let h = word | 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return h ^ (h >>> 16);
}
