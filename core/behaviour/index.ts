export { type AlikeSteps, alikeSteps } from "./alikeSteps";
export * from "./conditions";
export * from "./didSpans";
export * from "./engine";
export { Engine, GATE_RESERVE, type RobotSide } from "./engine/Engine";
export {
  idleBefore,
  LineTime,
  lived,
  MOST_GAP_MS,
  openMoment,
  reachedBy,
  STEP_MS,
  timeOfLine,
} from "./engine/lineTime";
export { DONE, END, FINISHES, MODE, ONLY_IF, ROUTINE, type Rows, STAYS, WHEN } from "./engine/rows";
export { type EngineInput, EngineState, type Note, startState } from "./engineState";
export { everyStep } from "./everyStep";
export { InputSchema, inputValue } from "./given";
export { LookAt } from "./LookAt";
export { ABILITY_WORDS, type Ability, type BeltMachine, type Gate, gateName, type Machine } from "./Machine";
export {
  type Command,
  type CommandLine,
  degreesAt,
  type Face,
  type FaceTime,
  faceOf,
  MAIN_LAMP,
  OUTPUTS,
  type OutputKind,
  obey,
  outputOf,
  wheelSpeeds,
} from "./outputs";
export * from "./ownNames";
export * from "./ProgramEye";
export { type PhraseWords, phraseWords } from "./phraseWords";
export { PICTURE_NAMES, type PictureName, pictureRows, takePicture } from "./pictures";
export * from "./program";
export * from "./rehearse";
export { DoneRoutines, filledStep, parseInput, parseListedStep, withInputs } from "./routines";
export type { PartItem, RowItem } from "./rowItems";
export { parseRuleText, printRuleText } from "./ruleText";
export * from "./schema";
export * from "./steps";
export * from "./stepsAt";
export { type Talk, talkThrough } from "./talk";
export * from "./triggers";
export { TROUBLES, textsOf } from "./troubles";
export { type NameKind, type NameVisitor, visitedSensor } from "./Visitor";
