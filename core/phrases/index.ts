export { completions, type Names, type PhraseProblem, PhraseReader, parsePhrase } from "./PhraseReader";
