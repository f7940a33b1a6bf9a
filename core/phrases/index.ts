export { capital } from "./capital";
export { INPUT_KINDS, type Input, InputKind, type InputValue, type PhraseValue } from "./inputKinds";
export { takeAnyInput, takeInput } from "./inputs";
export { allNamed, type Ids, type Named, type Names, type NamesKind, NO_NAMES, named } from "./names";
export { PhraseReader } from "./PhraseReader";
export { completed, completions, parsePhrase } from "./parse";
export { type Completion, type PhraseProblem, tellProblem } from "./problem";
export { inUnit, lengthIn, lengthOf, percent, printLength, printTime, takeLength, timeIn } from "./units";
