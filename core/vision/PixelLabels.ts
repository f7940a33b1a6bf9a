import type { TargetId } from "../names";
import { ReadingBlock, type Scaling } from "../readings";
import { classifyBlockAgain, colourLabeller, type Relabelled, type RuleSet, SieveMemory } from "../rules";

/** What a pixel's colour is taken for: 0 for unknown, k for the k-th target. Colours are as the camera gives them, 0..255. */
export type LabelOfColour = (red: number, green: number, blue: number) => number;

/** What colours are judged by: one after another, and many at once after earlier rules. */
export interface ColourRules {
  labelOf: LabelOfColour;
  again(colours: ReadingBlock, memory: SieveMemory): Relabelled;
}

/** Among labels: not asked yet. Labels are at most 254. */
export const NOT_YET = 255;

/** So many colours that occurred are judged anew at once; of more, each is when it occurs again. */
const MOST_KNOWN = 1 << 19;

/** How a pixel's bytes are readings. */
const PIXELS: Scaling = { reports: "rgb", scale: { r: [0, 255], g: [0, 255], b: [0, 255] } };

/**
 * The labels of all 2²⁴ colours that a pixel can have. Each is worked out when a pixel of it first occurs, and is known
 * from then on; other rules are another table, or this one renewed.
 */
export class PixelLabels {
  /** By red · 65536 + green · 256 + blue. */
  readonly table = new Uint8Array(1 << 24).fill(NOT_YET);
  private labelOf: LabelOfColour;
  /** The places of the colours that occurred, so many of them. */
  private known = new Uint32Array(1 << 12);
  private count = 0;
  /** They as readings, what was found out about these by the rules before, and which labels the table has of them. */
  private judged: { block: ReadingBlock; memory: SieveMemory; labels: Uint8Array | null } | null = null;

  /** @param rules labels are 0..254 */
  constructor(rules: ColourRules | LabelOfColour) {
    this.labelOf = typeof rules === "function" ? rules : rules.labelOf;
  }

  /**
   * Takes other rules. The colours that occurred are judged by them at once, which is quick where a bound was moved;
   * where they are many, all is forgotten.
   */
  renew(rules: ColourRules): void {
    this.labelOf = rules.labelOf;
    if (this.count > MOST_KNOWN) {
      this.table.fill(NOT_YET);
      this.count = 0;
      this.judged = null;
    } else if (this.count > 0) this.judgeAnew(rules);
  }

  private judgeAnew(rules: ColourRules): void {
    const { table, known } = this;
    if (this.judged?.block.length !== this.count)
      this.judged = { block: this.readingsOfKnown(), memory: new SieveMemory(), labels: null };
    const { block, memory, labels: before } = this.judged;
    const { labels, changed } = rules.again(block, memory);
    // What has changed is told against the memory's own labels; the table may have others.
    if (changed !== null && labels === before) for (const i of changed.at) table[known[i]] = labels[i];
    else for (let i = 0; i < labels.length; i++) table[known[i]] = labels[i];
    this.judged.labels = labels;
  }

  private readingsOfKnown(): ReadingBlock {
    const { known, count } = this;
    const channel = (shift: number) => Float64Array.from({ length: count }, (_, i) => (known[i] >> shift) & 255);
    const channels = { r: channel(16), g: channel(8), b: channel(0) };
    return new ReadingBlock({ t: new Float64Array(count), channels }, PIXELS);
  }

  of(red: number, green: number, blue: number): number {
    const place = (red << 16) | (green << 8) | blue;
    const known = this.table[place];
    if (known !== NOT_YET) return known;
    const label = this.labelOf(red, green, blue);
    this.table[place] = label;
    if (this.count === this.known.length && this.count < MOST_KNOWN) {
      const more = new Uint32Array(2 * this.count);
      more.set(this.known);
      this.known = more;
    }
    // One more than there is room for: they are too many.
    if (this.count <= MOST_KNOWN) this.known[this.count++] = place;
    return label;
  }
}

/** The labels that a rule set gives to pixels, as it gives them to readings of red, green and blue from 0 to 255. */
export const pixelLabelsOf = (ruleSet: RuleSet, targets: readonly TargetId[]): PixelLabels =>
  new PixelLabels(colourRules(ruleSet, targets));

/** What a rule set takes colours for. */
export function colourRules(ruleSet: RuleSet, targets: readonly TargetId[]): ColourRules {
  const label = colourLabeller(ruleSet, targets);
  return {
    labelOf: (red, green, blue) => label(red / 255, green / 255, blue / 255),
    again: (colours, memory) => classifyBlockAgain(ruleSet, colours, targets, memory),
  };
}
