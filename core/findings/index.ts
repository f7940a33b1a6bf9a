import { backgroundTaken } from "./backgroundTaken";
import { bandIsPoint } from "./bandIsPoint";
import type { Finding, FindingKind, FindingScene, Level } from "./finding";
import { hueOnGrey } from "./hueOnGrey";
import { noBackground } from "./noBackground";
import { targetWithoutResponse } from "./targetWithoutResponse";

export type { Finding, FindingCode, FindingScene, Level, Place } from "./finding";

/** Every kind of finding. A new one is one more entry here. */
const KINDS: readonly FindingKind[] = [backgroundTaken, hueOnGrey, bandIsPoint, targetWithoutResponse, noBackground];
const ORDER: readonly Level[] = ["error", "warning", "hint"];

/** Reads the project as a mentor would: all that will go wrong, the gravest first. */
export function findAll(scene: FindingScene): Finding[] {
  const found = KINDS.flatMap((kind) => kind.find(scene));
  return found.sort((a, b) => ORDER.indexOf(a.level) - ORDER.indexOf(b.level));
}
