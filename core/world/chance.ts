import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import { normalQuantile } from "../arithmetic";

/** A stream of random numbers for one use. */
export interface Chance {
  /** Uniform in (0, 1), never an end. */
  uniform(): number;
  /** Normal with mean 0 and variance 1. */
  normal(): number;
}

/** The stream of a run's `seed` for one named use, so that more draws in one use leave the others as they were. */
export function chance(seed: number, use: string): Chance {
  // FNV-1a over the use's name, folded into the seed.
  let hash = 0x811c9dc5 ^ (seed | 0);
  for (let i = 0; i < use.length; i++) hash = Math.imul(hash ^ use.charCodeAt(i), 0x01000193);
  const generator = xoroshiro128plus(hash);
  const uniform = () => ((generator.next() >>> 0) + 0.5) / 4294967296;
  return { uniform, normal: () => normalQuantile(uniform()) };
}
