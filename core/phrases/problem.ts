/** What is wrong with a phrase: a sentence, and the column (from 1) where it goes wrong. */
export interface PhraseProblem {
  message: string;
  column: number;
}

/** The same as a sentence, with its place. */
export const tellProblem = ({ message, column }: PhraseProblem): string =>
  `Column ${column}: ${message}${message.endsWith("?") ? "" : "."}`;

/** Thrown inside the parser only; `parsePhrase` turns it into a value. */
export class PhraseError extends Error {
  constructor(
    message: string,
    readonly column: number,
  ) {
    super(message);
  }
}

/** A word or name that a phrase may go on with, and where in the phrase it begins. */
export interface Completion {
  from: number;
  word: string;
}
