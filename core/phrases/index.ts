export {
  type Completion,
  completions,
  type Ids,
  type Named,
  type Names,
  named,
  type PhraseProblem,
  PhraseReader,
  parsePhrase,
  tellProblem,
} from "./PhraseReader";
