import { type Cluster, clusterInterval, expMinus } from "@perceptum/core/arithmetic";
import { type Chance, chance } from "@perceptum/core/world";
import type { Row } from "./table";

const REPEATS = 500;
const logistic = (x: number) => (x >= 0 ? 1 / (1 + expMinus(x)) : 1 - 1 / (1 + expMinus(-x)));

/** The interval's share of repeats that hold the truth, and how wide it is in the middle one. */
function coverage(draw: (dice: Chance) => Cluster[], truth: number, seed: number): { held: number; width: number } {
  let held = 0;
  const widths: number[] = [];
  for (let i = 0; i < REPEATS; i++) {
    const [low, high] = clusterInterval(draw(chance(seed + i, "interval")));
    if (low <= truth && truth <= high) held++;
    widths.push(high - low);
  }
  return { held: held / REPEATS, width: widths.sort((a, b) => a - b)[REPEATS >> 1] };
}

/** A sweep of 18 conditions, each with a chance of its own to hold; what a seed draws makes all of them harder or easier. */
function sweep(seeds: number, spread: number) {
  const bases = Array.from({ length: 18 }, (_, c) => 1.2 + 1.3 * Math.sin(c * 2.4));
  const draw = (dice: Chance): Cluster[] =>
    Array.from({ length: seeds }, () => {
      const seed = spread * dice.normal();
      return { n: bases.length, right: bases.filter((base) => dice.uniform() < logistic(base + seed)).length };
    });
  return { draw, truth: truthOf(draw) };
}

/** Visits of unequal length: most are read rightly but for a stray, one in four is of a thing that is half missed. */
function score(visits: number, spread: number) {
  const draw = (dice: Chance): Cluster[] =>
    Array.from({ length: visits }, () => {
      const n = Math.max(2, Math.round(40 * Math.E ** (spread * dice.normal())));
      const share = dice.uniform() < 0.75 ? 0.995 : dice.uniform();
      let right = 0;
      for (let i = 0; i < n; i++) if (dice.uniform() < share) right++;
      return { n, right };
    });
  return { draw, truth: truthOf(draw) };
}

/** The share in very many draws. */
function truthOf(draw: (dice: Chance) => Cluster[]): number {
  const dice = chance(9, "truth");
  let [n, right] = [0, 0];
  for (let i = 0; i < 4000; i++)
    for (const cluster of draw(dice)) {
      n += cluster.n;
      right += cluster.right;
    }
  return right / n;
}

/** How often the intervals of sweep and score hold the truth: 95 % is what they say. */
export function benchIntervals(): Row[] {
  const cases = [
    ...[10, 20, 50].flatMap((seeds) =>
      [0, 1, 2].map((spread) => ({
        what: `sweep, ${seeds} seeds, ${["alike", "unlike", "very unlike"][spread]}`,
        ...sweep(seeds, spread),
      })),
    ),
    ...[20, 40, 100].flatMap((visits) =>
      [0.3, 1].map((spread) => ({
        what: `score, ${visits} visits, ${spread < 1 ? "nearly alike in length" : "of very unequal length"}`,
        ...score(visits, spread),
      })),
    ),
  ];
  return cases.map(({ what, draw, truth }) => {
    const { held, width } = coverage(draw, truth, 900_000);
    return {
      what: `95 % interval: ${what}`,
      measured: `holds the truth in ${(held * 100).toFixed(1)} % of ${REPEATS}; ± ${(width * 50).toFixed(1)} %`,
      budget: "93 to 97 %",
      met: held >= 0.93 && held <= 0.97,
    };
  });
}
