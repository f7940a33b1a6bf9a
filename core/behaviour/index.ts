export { type Coding, coded, quoted, type StepCode } from "./Coding";
export * from "./conditions";
export * from "./didSpans";
export * from "./engine";
export {
  type Command,
  type EngineInput,
  type EngineState,
  type Note,
  seenLabel,
  seesLabel,
  startState,
} from "./engineState";
export { everyStep } from "./everyStep";
export { GATE_RESERVE } from "./gates";
export { ABILITY_WORDS, type Ability, type BeltMachine, type Gate, gateName, type Machine } from "./Machine";
export { MOST_JOTTED, MOST_NESTED } from "./moment";
export * from "./ownNames";
export { type PhraseWords, phraseWords } from "./phraseWords";
export { PICTURE_NAMES, type PictureName, pictureRows, takePicture } from "./pictures";
export * from "./program";
export * from "./rehearse";
export { parseRuleText, printRuleText } from "./ruleText";
export * from "./schema";
export * from "./steps";
export { MAIN_LAMP } from "./steps/lamp";
export * from "./stepsAt";
export { type Talk, talkThrough } from "./talk";
export * from "./triggers";
export { type NameKind, type NameVisitor, visitedSensor } from "./Visitor";
