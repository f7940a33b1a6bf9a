import { hueAhead } from "../colour";
import type { TargetId } from "../names";
import type { Feature } from "../readings";
import type { Target } from "../rules";
import type { Spread } from "./spread";

/** Two targets whose middle 90 % overlap in every feature, and the one in which they do so least. */
export interface Overlap {
  a: TargetId;
  b: TargetId;
  feature: Feature;
  /** The share of the narrower of the two ranges that both cover, 0..1. */
  share: number;
}

/** The features that are compared: the others follow from these. */
const COMPARED: readonly Feature[] = ["hue", "sat", "val", "reflected"];

/**
 * Pairs that no single band can keep apart: their 5–95 % ranges overlap in every feature that both have. Two
 * backgrounds need not be kept apart.
 */
export function overlaps(
  targets: readonly Target[],
  spread: (target: TargetId, feature: Feature) => Spread | undefined,
): Overlap[] {
  return targets.flatMap((a, i) =>
    targets.slice(i + 1).flatMap((b): Overlap[] => {
      if (a.kind === "background" && b.kind === "background") return [];
      const shares = COMPARED.flatMap((feature) => {
        const [of, other] = [spread(a.id, feature), spread(b.id, feature)];
        return of && other ? [{ feature, share: sharedRange(feature, of, other) }] : [];
      });
      if (shares.length === 0) return [];
      const least = shares.reduce((x, y) => (y.share < x.share ? y : x));
      return least.share > 0 ? [{ a: a.id, b: b.id, ...least }] : [];
    }),
  );
}

function sharedRange(feature: Feature, a: Spread, b: Spread): number {
  if (feature !== "hue") return shared([a.low, a.high], [b.low, b.high]);
  const [wa, wb] = [hueAhead(a.low, a.high), hueAhead(b.low, b.high)];
  const ahead = hueAhead(a.low, b.low);
  // The second range begins within the first, or the first within the second.
  return Math.max(shared([0, wa], [ahead, ahead + wb]), shared([0, wa], [ahead - 360, ahead - 360 + wb]));
}

function shared([a, b]: [number, number], [c, d]: [number, number]): number {
  const both = Math.min(b, d) - Math.max(a, c);
  if (both < 0) return 0;
  const narrower = Math.min(b - a, d - c);
  return narrower === 0 ? 1 : both / narrower;
}
