import { wrapHue } from "../colour";
import { FEATURE_FACTS, type Feature, valueShownAs } from "../readings";
import type { Test } from "../rules";
import type { MarkedTape } from "./marked";
import { spreadOf, valuesOfTarget } from "./spread";

/** How far beyond its readings a new rule reaches, in shown units (degrees, percent). */
const REACH = 4;
/** Below this saturation a hue test would only follow noise. */
const GREY = 0.2;

/**
 * Bands for a new rule: around the target's own marked readings, or a loose start where there are none. Nothing is
 * weighed against other targets here.
 */
export function firstBands(tapes: readonly MarkedTape[], target: number): Test[] {
  const values = (feature: Feature) =>
    Float64Array.from(tapes.flatMap((tape) => [...valuesOfTarget(tape.block.column(feature), tape.truth, target)]));
  const gives = (feature: Feature) => tapes.every((tape) => tape.block.features.includes(feature));
  if (gives("reflected") && tapes.length > 0) {
    const spread = spreadOf("reflected", values("reflected"));
    return spread
      ? [{ feature: "reflected", from: whole("reflected", spread.min, -1), to: whole("reflected", spread.max, 1) }]
      : [{ feature: "reflected", from: 0.5 }];
  }
  const hueBand = (): Test[] => {
    const hue = spreadOf("hue", values("hue"));
    return hue
      ? [{ feature: "hue", from: wrapHue(Math.floor(hue.min) - REACH), to: wrapHue(Math.ceil(hue.max) + REACH) }]
      : [];
  };
  if (!gives("sat")) return gives("hue") ? hueBand() : [];
  const sat = spreadOf("sat", values("sat"));
  const val = spreadOf("val", values("val"));
  if (sat === undefined || val === undefined) return [{ feature: "sat", from: 0.5 }];
  if (sat.mean < GREY) {
    return [
      { feature: "sat", to: whole("sat", sat.max, 1) },
      { feature: "val", from: whole("val", val.min, -1), to: whole("val", val.max, 1) },
    ];
  }
  return [
    ...hueBand(),
    { feature: "sat", from: whole("sat", sat.min, -1) },
    { feature: "val", from: whole("val", val.min, -1) },
  ];
}

/** The whole figure so far beyond a value. */
function whole(feature: "sat" | "val" | "reflected", value: number, outwards: 1 | -1): number {
  const shown = (outwards === 1 ? Math.ceil(value * 100) : Math.floor(value * 100)) + outwards * REACH;
  return valueShownAs(feature, Math.max(0, Math.min(FEATURE_FACTS[feature].max * 100, shown)));
}
