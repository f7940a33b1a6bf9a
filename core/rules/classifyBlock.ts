import { hueWithin } from "../colour";
import { type TargetId, UNKNOWN } from "../names";
import { type Feature, type Features, featureValue, lazyFeatures, type ReadingBlock } from "../readings";
import { NearestRules } from "./nearest";
import type { Rule, RuleSet } from "./ruleSetSchema";
import type { Relabelled, SieveMemory } from "./SieveMemory";
import { GROUP, type LabelledClause, letsStand, lowestBit, type Sieve, sieveOf } from "./sieve";

/**
 * Labels of many readings as numbers: 0 is unknown, k is the k-th of `targets`, counted from 1.
 */
export type Labels = Uint8Array<ArrayBuffer>;

/** Readings taken together, so that their bits stay in the fastest cache. */
const STRIDE = 2048;

/**
 * Labels a whole block, reading by reading the same as `classify`. Each clause is a bit. A feature's range is cut into
 * cells, and for each cell it is known beforehand which clauses a value there lets stand; only in a cell that holds a
 * bound are the tests asked one by one. What is left after all features is the set of clauses that hold, and its
 * lowest bit is the first of them.
 *
 * @param targets the order that the labels count in; a rule whose target is not among them labels 0.
 * @throws RangeError for more than 255 targets.
 */
export function classifyBlock(ruleSet: RuleSet, block: ReadingBlock, targets: readonly TargetId[]): Labels {
  if (ruleSet.method === "bands") return byFirstClause(clausesFor(ruleSet, targets), block);
  const labels = new Uint8Array(block.length);
  const labelOf = labelIn(targets);
  new NearestRules(ruleSet.nearest).label(block, labels, labelOf);
  return labels;
}

/**
 * The same with a memory of earlier rules on the same block, which it takes less time to change a little.
 * @throws RangeError for more than 255 targets.
 */
export function classifyBlockAgain(
  ruleSet: RuleSet,
  block: ReadingBlock,
  targets: readonly TargetId[],
  memory: SieveMemory,
): Relabelled {
  if (ruleSet.method === "bands") return memory.label(block, clausesFor(ruleSet, targets));
  return { labels: classifyBlock(ruleSet, block, targets), changed: null };
}

/**
 * Labels one reading after another, the same as `classify`, for what is asked of every reading of a run: what the rules
 * say is laid out once.
 * @throws RangeError for more than 255 targets.
 */
export function labeller(ruleSet: RuleSet, targets: readonly TargetId[]): (features: Features) => number {
  if (ruleSet.method === "nearest") {
    const labelOf = labelIn(targets);
    const nearest = new NearestRules(ruleSet.nearest);
    return (features) => {
      const label = nearest.classify(features);
      return label === UNKNOWN ? 0 : labelOf(label);
    };
  }
  const groups = groupsOf(clausesFor(ruleSet, targets)).map((group) => ({ ...group, label: labelsOf(group.clauses) }));
  return (features) => {
    for (let g = 0; g < groups.length; g++) {
      const { sieves, all, label } = groups[g];
      let set = all;
      for (let k = 0; k < sieves.length; k++) set &= letsStand(sieves[k], featureValue(features, sieves[k].feature));
      if (set !== 0) return label[lowestBit(set)];
    }
    return 0;
  };
}

/**
 * The same of red, green and blue as fractions, one after another: for pixels, of which a frame has hundreds of
 * thousands. Hue, saturation and value are worked out in place, each only when a sieve asks for it.
 * @throws RangeError for more than 255 targets.
 */
export function colourLabeller(
  ruleSet: RuleSet,
  targets: readonly TargetId[],
): (r: number, g: number, b: number) => number {
  const groups = ruleSet.method === "bands" ? groupsOf(clausesFor(ruleSet, targets)) : [];
  const features = groups[0]?.sieves.map((sieve) => sieve.feature) ?? [];
  if (groups.length !== 1 || features.some((feature) => !HEXCONE.includes(feature))) {
    const label = labeller(ruleSet, targets);
    return (r, g, b) => label(lazyFeatures(r, g, b));
  }
  const [{ sieves, all, clauses }] = groups;
  const label = labelsOf(clauses);
  return (r, g, b) => {
    const max = Math.max(r, g, b);
    const delta = max - Math.min(r, g, b);
    let set = all;
    for (let k = 0; k < sieves.length && set !== 0; k++) {
      const sieve = sieves[k];
      let value: number;
      switch (sieve.feature) {
        case "hue":
          value = hueWithin(r, g, b, max, delta);
          break;
        case "sat":
          value = max === 0 ? 0 : delta / max;
          break;
        case "val":
          value = max;
          break;
        case "r":
          value = r;
          break;
        case "g":
          value = g;
          break;
        default:
          value = b;
      }
      set &= letsStand(sieve, value);
    }
    return set === 0 ? 0 : label[lowestBit(set)];
  };
}

/** What can be worked out in place. */
const HEXCONE: readonly Feature[] = ["r", "g", "b", "hue", "sat", "val"];

function labelIn(targets: readonly TargetId[]): (target: TargetId) => number {
  if (targets.length > 255) throw new RangeError(`at most 255 targets can be told apart, not ${targets.length}`);
  return (target) => targets.indexOf(target) + 1;
}

function clausesFor(ruleSet: RuleSet, targets: readonly TargetId[]): LabelledClause[] {
  const labelOf = labelIn(targets);
  return clausesOf(ruleSet, (rule) => labelOf(rule.target));
}

/**
 * Which rule takes each reading of a block, by its place among the rules from 1; 0 where none does. Of a set of bands,
 * whatever method it uses.
 */
export const rulesOfBlock = (ruleSet: RuleSet, block: ReadingBlock): Labels =>
  byFirstClause(
    clausesOf(ruleSet, (_, i) => i + 1),
    block,
  );

/** The clauses of the rules that are on, in their order, each with the label that `label` gives its rule. */
const clausesOf = ({ rules }: RuleSet, label: (rule: Rule, index: number) => number): LabelledClause[] =>
  rules.flatMap((rule, i) => (rule.on ? rule.any.map(({ all }) => ({ label: label(rule, i), tests: all })) : []));

/** Labels a block by the first clause that holds. */
function byFirstClause(clauses: readonly LabelledClause[], block: ReadingBlock): Labels {
  const labels = new Uint8Array(block.length);
  // From the last group to the first, so that the first clause that holds has the last word.
  for (const group of groupsOf(clauses).toReversed()) labelBySieves(group, block, labels);
  return labels;
}

/** Clauses whose bits fit into one number, and a sieve for each feature that they test. */
interface SievedGroup {
  clauses: readonly LabelledClause[];
  sieves: readonly Sieve[];
  /** All of them, as a set. */
  all: number;
}

function groupsOf(clauses: readonly LabelledClause[]): SievedGroup[] {
  const groups: SievedGroup[] = [];
  for (let start = 0; start < clauses.length; start += GROUP) {
    const own = clauses.slice(start, start + GROUP);
    const features = [...new Set(own.flatMap((c) => c.tests.map((t) => t.feature)))];
    groups.push({ clauses: own, sieves: features.map((f) => sieveOf(f, own)), all: 2 ** own.length - 1 });
  }
  return groups;
}

/** The label of each clause, by the place of its bit. */
const labelsOf = (clauses: readonly LabelledClause[]) => Uint8Array.from(clauses, (c) => c.label);

function labelBySieves({ clauses, sieves, all }: SievedGroup, block: ReadingBlock, labels: Labels): void {
  const columns = sieves.map((sieve) => block.column(sieve.feature));
  const label = labelsOf(clauses);
  const standing = new Int32Array(STRIDE);
  for (let start = 0; start < labels.length; start += STRIDE) {
    const size = Math.min(STRIDE, labels.length - start);
    standing.fill(all, 0, size);
    sieves.forEach((sieve, k) => {
      passThrough(sieve, columns[k], start, size, standing);
    });
    for (let i = 0; i < size; i++) if (standing[i] !== 0) labels[start + i] = label[lowestBit(standing[i])];
  }
}

/** Takes out of each reading's set the clauses that its value of one feature does not let stand. */
function passThrough(sieve: Sieve, column: Float64Array, start: number, size: number, standing: Int32Array): void {
  for (let i = 0; i < size; i++) standing[i] &= letsStand(sieve, column[start + i]);
}
