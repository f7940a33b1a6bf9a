import type { TargetId } from "../names";
import { lazyFeatures } from "../readings";
import { labeller, type RuleSet } from "../rules";

/** What a pixel's colour is taken for: 0 for unknown, k for the k-th target. Colours are as the camera gives them, 0..255. */
export type LabelOfColour = (red: number, green: number, blue: number) => number;

/** Among labels: not asked yet. Labels are at most 254. */
export const NOT_YET = 255;

/**
 * The labels of all 2²⁴ colours that a pixel can have. Each is worked out when a pixel of it first occurs, and is known
 * from then on; other rules are another table.
 */
export class PixelLabels {
  /** By red · 65536 + green · 256 + blue. */
  readonly table = new Uint8Array(1 << 24).fill(NOT_YET);

  /** @param labelOf gives 0..254 */
  constructor(private labelOf: LabelOfColour) {}

  /** Takes other rules: all that was known is forgotten. It is quicker than a new table, whose memory has to be had first. */
  renew(labelOf: LabelOfColour): void {
    this.labelOf = labelOf;
    this.table.fill(NOT_YET);
  }

  of(red: number, green: number, blue: number): number {
    const place = (red << 16) | (green << 8) | blue;
    const known = this.table[place];
    if (known !== NOT_YET) return known;
    const label = this.labelOf(red, green, blue);
    this.table[place] = label;
    return label;
  }
}

/** The labels that a rule set gives to pixels, as it gives them to readings of red, green and blue from 0 to 255. */
export const pixelLabelsOf = (ruleSet: RuleSet, targets: readonly TargetId[]): PixelLabels =>
  new PixelLabels(labelOfColour(ruleSet, targets));

/** What a rule set takes a colour for. */
export function labelOfColour(ruleSet: RuleSet, targets: readonly TargetId[]): LabelOfColour {
  const label = labeller(ruleSet, targets);
  return (red, green, blue) => label(lazyFeatures(red / 255, green / 255, blue / 255));
}
