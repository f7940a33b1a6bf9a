import type { int, num } from "../../arithmetic";
import { FEATURES } from "../../readings";
import type { Engine } from "./Engine";

/** Gives how clearly a sensor's newest reading is of a target, −1..1; above 0 it is taken for it; NaN before the first. */
export function clarityOf(e: Engine, eye: int, label: int): num {
  const features = eye < 0 ? null : e.features[eye];
  return features === null ? Number.NaN : e.p.clarity(eye, features, label);
}

/** A feature of the newest reading of a sensor; NaN before the first, and where it does not report it. */
export function featureOf(e: Engine, eye: int, feature: int): num {
  const features = eye < 0 ? null : e.features[eye];
  return features === null ? Number.NaN : features[FEATURES[feature]];
}

/** A whole number between two texts. */
export function withNumber(before: string, figure: num, after: string): string {
  return `${before}${figure}${after}`;
}
