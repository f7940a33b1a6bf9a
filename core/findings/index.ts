import type { ProjectDocument } from "../project";
import type { MarkedTape } from "../teaching";
import { backgroundTaken } from "./backgroundTaken";
import { bandIsPoint } from "./bandIsPoint";
import { bandLoose } from "./bandLoose";
import { bandTight } from "./bandTight";
import { clips } from "./clips";
import { codeNotMapped } from "./codeNotMapped";
import { drivesBackwards } from "./drivesBackwards";
import { featureNotReported } from "./featureNotReported";
import { fewReadings } from "./fewReadings";
import { type Finding, type FindingKind, type Level, sceneOf } from "./finding";
import { firesAgain } from "./firesAgain";
import { hueOnGrey } from "./hueOnGrey";
import { modeUnreachable } from "./modeUnreachable";
import { modeWithoutExit } from "./modeWithoutExit";
import { noBackground } from "./noBackground";
import { noOtherwise } from "./noOtherwise";
import { offCourse } from "./offCourse";
import { oneLightOnly } from "./oneLightOnly";
import { redNotWrapped } from "./redNotWrapped";
import { reversesAtOnce } from "./reversesAtOnce";
import { ruleNamesMissingTarget } from "./ruleNamesMissingTarget";
import { ruleShadowed } from "./ruleShadowed";
import { settingsOfAnotherSensor } from "./settingsOfAnotherSensor";
import { staysOnPlate } from "./staysOnPlate";
import { targetsOverlap } from "./targetsOverlap";
import { targetWithoutResponse } from "./targetWithoutResponse";
import { targetWithoutRule } from "./targetWithoutRule";
import { tooDark } from "./tooDark";
import { tooFast } from "./tooFast";
import { waitsForItself } from "./waitsForItself";

export type { Finding, FindingCode, Level, Place } from "./finding";
export { applyFix, type FixChange } from "./fix";

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
  drivesBackwards,
  offCourse,
  firesAgain,
  staysOnPlate,
  waitsForItself,
  tooFast,
  reversesAtOnce,
  modeUnreachable,
  modeWithoutExit,
  noOtherwise,
];
const ORDER: readonly Level[] = ["error", "warning", "hint"];

/** Reads the project as a mentor would: all that will go wrong, the gravest first. */
export function findAll({ project, tapes }: { project: ProjectDocument; tapes: readonly MarkedTape[] }): Finding[] {
  const scene = sceneOf(project, tapes);
  const found = KINDS.flatMap((kind) => kind.find(scene));
  return found.sort((a, b) => ORDER.indexOf(a.level) - ORDER.indexOf(b.level));
}
