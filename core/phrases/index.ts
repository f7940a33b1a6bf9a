export { capital } from "./capital";
export { type Ids, type Named, type Names, type NamesKind, named } from "./names";
export {
  type Completion,
  completed,
  completions,
  type PhraseProblem,
  PhraseReader,
  parsePhrase,
  tellProblem,
} from "./PhraseReader";
export { inUnit, lengthIn, lengthOf, printLength, printTime, takeLength, timeIn } from "./units";
