export { capital } from "./capital";
export { INPUT_KINDS, type Input, InputKind, type InputValue } from "./inputKinds";
export { takeAnyInput, takeInput } from "./inputs";
export { allNamed, type Ids, type Named, type Names, type NamesKind, NO_NAMES, named } from "./names";
export {
  type Completion,
  completed,
  completions,
  type PhraseProblem,
  PhraseReader,
  parsePhrase,
  tellProblem,
} from "./PhraseReader";
export { inUnit, lengthIn, lengthOf, percent, printLength, printTime, takeLength, timeIn } from "./units";
