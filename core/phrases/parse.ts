import type { Names } from "./names";
import { PhraseReader } from "./PhraseReader";
import { type Completion, PhraseError, type PhraseProblem } from "./problem";

/** The longest phrase, in characters. */
const MOST_PHRASE = 4000;

/** Parses a whole phrase with `parse`; what is wrong comes back as a value. */
export function parsePhrase<T>(
  phrase: string,
  names: Names,
  parse: (reader: PhraseReader) => T,
): { value: T } | { problem: PhraseProblem } {
  if (phrase.length > MOST_PHRASE)
    return { problem: { message: `a phrase has at most ${MOST_PHRASE} characters`, column: MOST_PHRASE + 1 } };
  try {
    const reader = new PhraseReader(phrase, names);
    const value = parse(reader);
    reader.end();
    return { value };
  } catch (error) {
    if (error instanceof PhraseError) return { problem: { message: error.message, column: error.column } };
    throw error;
  }
}

/** The phrase with a completion taken, ready for the next word. */
export function completed(phrase: string, { from, word }: Completion): string {
  const before = phrase.slice(0, from);
  return `${before}${/[^\s:(,]$/.test(before) ? " " : ""}${word} `;
}

/** Lists what a phrase may go on with: each completes its last words, or follows behind them. */
export function completions(phrase: string, names: Names, parse: (reader: PhraseReader) => unknown): Completion[] {
  if (phrase.length > MOST_PHRASE) return [];
  const reader = new PhraseReader(phrase, names);
  try {
    parse(reader);
    return reader.completing(true);
  } catch (error) {
    if (!(error instanceof PhraseError)) throw error;
    return reader.completing(false);
  }
}
