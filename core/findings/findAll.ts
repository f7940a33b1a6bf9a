import type { ProjectDocument } from "../project";
import type { MarkedTape } from "../teaching";
import type { FrameFacts } from "../vision";
import { isAside } from "./aside";
import { backgroundTaken } from "./backgroundTaken";
import { bandIsPoint } from "./bandIsPoint";
import { bandLoose } from "./bandLoose";
import { bandTight } from "./bandTight";
import { clips } from "./clips";
import { codeNotMapped } from "./codeNotMapped";
import { codesExchanged } from "./codesExchanged";
import { crateNobodySendsTo } from "./crateNobodySendsTo";
import { drivesBackwards } from "./drivesBackwards";
import { featureNotReported } from "./featureNotReported";
import { fewReadings } from "./fewReadings";
import { type Finding, type FindingKind, type Level, sceneOf } from "./finding";
import { firesAgain } from "./firesAgain";
import { fringe, picturesNotLinear, stripMisses, twoBlobs } from "./frameFindings";
import { gateClosesEarly } from "./gateClosesEarly";
import { gateTooLate } from "./gateTooLate";
import { gateWaits } from "./gateWaits";
import { hueOnGrey } from "./hueOnGrey";
import { modeUnreachable } from "./modeUnreachable";
import { modeWithoutExit } from "./modeWithoutExit";
import { neverCounted } from "./neverCounted";
import { neverReached } from "./neverReached";
import { noBackground } from "./noBackground";
import { noOtherwise } from "./noOtherwise";
import { offCourse } from "./offCourse";
import { oneLightOnly } from "./oneLightOnly";
import { otherHeight } from "./otherHeight";
import { piecesTooClose } from "./piecesTooClose";
import { redNotWrapped } from "./redNotWrapped";
import { referencesMiss } from "./referencesMiss";
import { rejectSmall } from "./rejectSmall";
import { rejoinSwallows } from "./rejoinSwallows";
import { reversesAtOnce } from "./reversesAtOnce";
import { ruleNamesMissingTarget } from "./ruleNamesMissingTarget";
import { ruleShadowed } from "./ruleShadowed";
import { sensorNotMounted } from "./sensorNotMounted";
import { servoBeyondRange } from "./servoBeyondRange";
import { settingsOfAnotherSensor } from "./settingsOfAnotherSensor";
import { sharedUnlike } from "./sharedUnlike";
import { staysOnPlate } from "./staysOnPlate";
import { stepNotForRobot } from "./stepNotForRobot";
import { swingsOff } from "./swingsOff";
import { targetsOverlap } from "./targetsOverlap";
import { targetWithoutResponse } from "./targetWithoutResponse";
import { targetWithoutRule } from "./targetWithoutRule";
import { tooDark } from "./tooDark";
import { tooFast } from "./tooFast";
import { underDeadBand } from "./underDeadBand";
import { waitsForItself } from "./waitsForItself";
import { wrongOrder } from "./wrongOrder";

/** Every kind of finding. A new one is one more entry here. */
export const FINDINGS: readonly FindingKind[] = [
  ruleNamesMissingTarget,
  featureNotReported,
  settingsOfAnotherSensor,
  codeNotMapped,
  codesExchanged,
  wrongOrder,
  stripMisses,
  fringe,
  picturesNotLinear,
  sharedUnlike,
  otherHeight,
  clips,
  tooDark,
  backgroundTaken,
  redNotWrapped,
  hueOnGrey,
  bandIsPoint,
  referencesMiss,
  rejectSmall,
  rejoinSwallows,
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
  stepNotForRobot,
  swingsOff,
  gateTooLate,
  gateClosesEarly,
  gateWaits,
  piecesTooClose,
  crateNobodySendsTo,
  waitsForItself,
  sensorNotMounted,
  neverCounted,
  neverReached,
  servoBeyondRange,
  tooFast,
  underDeadBand,
  reversesAtOnce,
  modeUnreachable,
  modeWithoutExit,
  noOtherwise,
  twoBlobs,
];
const ORDER: readonly Level[] = ["error", "warning", "hint"];

/**
 * Reads the project as a mentor would: all that will go wrong, the gravest first, and what was put aside last. Fixes are
 * proposals: whether one mends, `FixTrial` tells.
 */
export function findAll({
  project,
  tapes,
  frames = [],
}: {
  project: ProjectDocument;
  tapes: readonly MarkedTape[];
  frames?: readonly FrameFacts[];
}): Finding[] {
  const scene = sceneOf(project, tapes, frames);
  const found = FINDINGS.flatMap((kind) => kind.find(scene)).map((f) =>
    isAside(project, f) ? { ...f, aside: true as const } : f,
  );
  const rank = ({ aside, level }: Finding) => ORDER.indexOf(level) + (aside ? ORDER.length : 0);
  return found.sort((a, b) => rank(a) - rank(b));
}
