import type { ProjectDocument } from "../project/schema";
import type { MarkedTape } from "../teaching";
import { backgroundTaken } from "./backgroundTaken";
import { bandIsPoint } from "./bandIsPoint";
import { bandLoose } from "./bandLoose";
import { bandTight } from "./bandTight";
import { clips } from "./clips";
import { codeNotMapped } from "./codeNotMapped";
import { featureNotReported } from "./featureNotReported";
import { fewReadings } from "./fewReadings";
import { type Finding, type FindingKind, type Level, sceneOf } from "./finding";
import { hueOnGrey } from "./hueOnGrey";
import { noBackground } from "./noBackground";
import { oneLightOnly } from "./oneLightOnly";
import { redNotWrapped } from "./redNotWrapped";
import { ruleNamesMissingTarget } from "./ruleNamesMissingTarget";
import { ruleShadowed } from "./ruleShadowed";
import { settingsOfAnotherSensor } from "./settingsOfAnotherSensor";
import { targetsOverlap } from "./targetsOverlap";
import { targetWithoutResponse } from "./targetWithoutResponse";
import { targetWithoutRule } from "./targetWithoutRule";
import { tooDark } from "./tooDark";

export type { Finding, FindingCode, Level, Place } from "./finding";

/** Every kind of finding. A new one is one more entry here. */
const KINDS: readonly FindingKind[] = [
  ruleNamesMissingTarget,
  featureNotReported,
  settingsOfAnotherSensor,
  codeNotMapped,
  clips,
  tooDark,
  backgroundTaken,
  redNotWrapped,
  hueOnGrey,
  bandIsPoint,
  bandTight,
  bandLoose,
  ruleShadowed,
  targetsOverlap,
  noBackground,
  oneLightOnly,
  fewReadings,
  targetWithoutRule,
  targetWithoutResponse,
];
const ORDER: readonly Level[] = ["error", "warning", "hint"];

/** Reads the project as a mentor would: all that will go wrong, the gravest first. */
export function findAll({ project, tapes }: { project: ProjectDocument; tapes: readonly MarkedTape[] }): Finding[] {
  const scene = sceneOf(project, tapes);
  const found = KINDS.flatMap((kind) => kind.find(scene));
  return found.sort((a, b) => ORDER.indexOf(a.level) - ORDER.indexOf(b.level));
}
