import { wilson } from "./wilson";

/** Trials that are not independent of one another, as the readings of one visit: how many there are, how many hold. */
export interface Cluster {
  n: number;
  right: number;
}

/**
 * The 95 % interval of a share that rests on clusters of unequal size. How much the share varies is taken from what it
 * would be without each of the clusters in turn (the jackknife: Wolter 2007, "Introduction to Variance Estimation",
 * ch. 4); Wilson's interval is then made for as many independent trials as would vary as much (Korn and Graubard 1998,
 * with Student's t). How many clusters that rests on is told by their sizes: a few large ones count for more than many
 * small ones (Kish 1965, "Survey Sampling", 11.7). Few clusters of which most are right seldom show how wrong others can
 * be, and the interval would hold the truth too seldom: as Agresti and Coull (1998) add a few trials of which half hold,
 * three quarters of a mean cluster are added (their size was found by simulation; `bench/intervals.ts` shows the
 * coverage). Where all clusters agree nothing can be told of how they vary: each is one trial then.
 */
export function clusterInterval(clusters: readonly Cluster[]): [low: number, high: number] {
  const { count, total, held, squares } = summed(clusters);
  if (count === 0) return [0, 1];
  const share = held / total;
  if (count === 1) return wilson(share, 1);
  if (share === 0 || share === 1) return wilson(share, (total * total) / squares);
  const added = (ADDED * total) / count;
  const [low, high] = jackknifed([...clusters, { n: added, right: added / 2 }]);
  return [Math.min(low, share), Math.max(high, share)];
}

function summed(clusters: readonly Cluster[]) {
  let [count, total, held, squares] = [0, 0, 0, 0];
  for (const { n, right } of clusters) {
    if (n === 0) continue;
    count++;
    total += n;
    held += right;
    squares += n * n;
  }
  return { count, total, held, squares };
}

/** The size of the cluster that is added, as a share of a mean one. */
const ADDED = 0.75;

/** The same of clusters as they are, some of which are right and some wrong. */
function jackknifed(clusters: readonly Cluster[]): [low: number, high: number] {
  const { count, total, held, squares } = summed(clusters);
  const share = held / total;
  const alike = (total * total) / squares;
  let spread = 0;
  for (const { n, right } of clusters) if (n > 0) spread += ((held - right) / (total - n) - share) ** 2;
  const variance = (spread * (count - 1)) / count;
  const trials = variance === 0 ? total : Math.max(1, (share * (1 - share)) / variance);
  return wilson(share, trials, studentT(((alike - 1) * alike) / count));
}

/**
 * The 97.5 % quantile of Student's t (Abramowitz and Stegun 26.7.5; below three degrees of freedom between the exact
 * values of 1, 2 and 3).
 */
export function studentT(freedom: number): number {
  const [one, two, three] = [12.706204736174698, 4.302652729911275, 3.182446305284263];
  if (freedom <= 1) return one;
  if (freedom < 2) return one * (two / one) ** (freedom - 1);
  if (freedom < 3) return two * (three / two) ** (freedom - 2);
  const z = 1.959963984540054;
  const [z3, z5, z7, z9] = [z ** 3, z ** 5, z ** 7, z ** 9];
  return (
    z +
    (z3 + z) / (4 * freedom) +
    (5 * z5 + 16 * z3 + 3 * z) / (96 * freedom ** 2) +
    (3 * z7 + 19 * z5 + 17 * z3 - 15 * z) / (384 * freedom ** 3) +
    (79 * z9 + 776 * z7 + 1482 * z5 - 1920 * z3 - 945 * z) / (92160 * freedom ** 4)
  );
}
