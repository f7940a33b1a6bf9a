/** The things of a project that a phrase may name. */
export interface Names {
  targets: readonly string[];
  sensors: readonly string[];
  modes: readonly string[];
  lamps: readonly string[];
  counters: readonly string[];
  lists: readonly string[];
  routines: readonly string[];
  buttons: readonly string[];
  servos: readonly string[];
}

/** What is wrong with a phrase: a sentence, and the column (from 1) where it goes wrong. */
export interface PhraseProblem {
  message: string;
  column: number;
}

/** Thrown inside the parser only; `parsePhrase` turns it into a value. */
class PhraseError extends Error {
  constructor(
    message: string,
    readonly column: number,
  ) {
    super(message);
  }
}

interface Token {
  kind: "number" | "word" | "text" | "sign" | "end";
  text: string;
  column: number;
}

const TOKEN =
  /\s+|(-?\d+(?:\.\d+)?(?:e[-+]?\d+)?)|([A-Za-z][A-Za-z0-9#]*(?:-[a-z0-9]+)*)|("[^"]*")|(#[0-9a-fA-F]{6}|\.\.|>=|<=|[-+><=%(),:])/y;

function tokensOf(phrase: string): Token[] {
  const tokens: Token[] = [];
  TOKEN.lastIndex = 0;
  while (TOKEN.lastIndex < phrase.length) {
    const column = TOKEN.lastIndex + 1;
    const match = TOKEN.exec(phrase);
    if (match === null) {
      const rest = phrase.slice(column - 1);
      throw new PhraseError(
        rest.startsWith('"') ? "the quoted text has no closing quote" : `“${rest[0]}” is not part of any phrase`,
        column,
      );
    }
    const [, number, word, text, sign] = match;
    if (number !== undefined) tokens.push({ kind: "number", text: number, column });
    else if (word !== undefined) tokens.push({ kind: "word", text: word, column });
    else if (text !== undefined) tokens.push({ kind: "text", text: text.slice(1, -1), column });
    else if (sign !== undefined) tokens.push({ kind: "sign", text: sign, column });
  }
  tokens.push({ kind: "end", text: "", column: phrase.length + 1 });
  return tokens;
}

/** The longest text in quotes. */
const MAX_TEXT = 200;
/** Brackets and `not` lie within one another to this depth. */
const MAX_DEPTH = 20;

/** Reads a phrase from left to right. Every `take…` fails with the column and what was expected. */
export class PhraseReader {
  private readonly tokens: Token[];
  private at = 0;
  private depth = 0;
  /** The words that were looked for at each token. */
  private readonly lookedFor: Set<string>[] = [];

  constructor(
    phrase: string,
    private readonly names: Names,
  ) {
    this.tokens = tokensOf(phrase);
  }

  private get next(): Token {
    return this.tokens[this.at];
  }

  /** The words that could stand where the last word does, or where the phrase ends if `after` it. */
  couldStand(after: boolean): string[] {
    const last = this.tokens.length - 1;
    return [...(this.lookedFor[after ? last : last - 1] ?? [])];
  }

  /** Notes words that could stand here. */
  offer(words: readonly string[]): void {
    this.lookedFor[this.at] ??= new Set();
    for (const word of words) this.lookedFor[this.at].add(word);
  }

  /** The next word, without taking it; "" where something else stands. */
  peekWord(): string {
    return this.next.kind === "word" ? this.next.text : "";
  }

  peekIs(kind: "number" | "text" | "end"): boolean {
    return this.next.kind === kind;
  }

  /** Whether the sign `sign` comes `ahead` tokens from here. */
  peekSign(sign: string, ahead = 0): boolean {
    const token = this.tokens[Math.min(this.at + ahead, this.tokens.length - 1)];
    return token.kind === "sign" && token.text === sign;
  }

  /** Whether these two words come next. */
  peekNext(first: string, second: string): boolean {
    this.offer([first]);
    if (this.peekWord() !== first) return false;
    this.at++;
    this.offer([second]);
    const both = this.peekWord() === second;
    this.at--;
    return both;
  }

  /** Takes the next token if it is this word or sign. */
  skip(text: string): boolean {
    this.offer([text]);
    if ((this.next.kind !== "word" && this.next.kind !== "sign") || this.next.text !== text) return false;
    this.at++;
    return true;
  }

  /** Takes this word or sign. */
  take(text: string): void {
    if (!this.skip(text)) this.fail(`“${text}”`);
  }

  takeNumber(what: string): number {
    if (this.next.kind !== "number") this.fail(what);
    return Number(this.tokens[this.at++].text);
  }

  /** A number followed by `%`, as a fraction −1..1. */
  takePercent(what: string): number {
    const { column } = this.next;
    const value = this.takeNumber(`${what} in %`);
    this.take("%");
    if (Math.abs(value) > 100) throw new PhraseError(`${what} lies between −100 and 100 %`, column);
    return value / 100;
  }

  /** A number that must lie above 0. */
  takeAmount(what: string): number {
    const { column } = this.next;
    const value = this.takeNumber(what);
    if (value <= 0) throw new PhraseError(`${what} must be more than 0`, column);
    return value;
  }

  /** Seconds up to `most`, as whole milliseconds. */
  takeSeconds(what: string, most = 3600): number {
    const { column } = this.next;
    const seconds = this.takeAmount(what);
    if (seconds > most) throw new PhraseError(`${what} is at most ${most} s`, column);
    this.take("s");
    return Math.max(1, Math.round(seconds * 1000));
  }

  takeText(what: string): string {
    if (this.next.kind !== "text") this.fail(what);
    const { text, column } = this.tokens[this.at++];
    if (text.length > MAX_TEXT) throw new PhraseError(`a text has at most ${MAX_TEXT} characters`, column);
    return text;
  }

  /** Takes the next token if it is a colour `#rrggbb`. */
  skipColour(): string | undefined {
    if (this.next.kind !== "sign" || !this.next.text.startsWith("#")) return undefined;
    return this.tokens[this.at++].text.toLowerCase();
  }

  /** A whole number from 1 to `most`. */
  takeCount(what: string, most: number): number {
    const { column } = this.next;
    const value = this.takeNumber(what);
    if (!Number.isInteger(value) || value < 1 || value > most)
      throw new PhraseError(`${what} is a whole number from 1 to ${most}`, column);
    return value;
  }

  takeAnyWord(what: string): string {
    if (this.next.kind !== "word") this.fail(what);
    return this.tokens[this.at++].text;
  }

  /** Takes the next word if the project has such a thing of that name. */
  skipName(kind: keyof Names): string | undefined {
    this.offer(this.names[kind]);
    if (this.next.kind !== "word" || !this.names[kind].includes(this.next.text)) return undefined;
    return this.tokens[this.at++].text;
  }

  /** Takes a sensor and its colon, if they come next. */
  skipSensor(): string | undefined {
    this.offer(this.names.sensors.map((sensor) => `${sensor}:`));
    if (!this.peekSign(":", 1)) return undefined;
    const sensor = this.takeName("sensors");
    this.take(":");
    return sensor;
  }

  /** Takes the name of a thing of the project. */
  takeName(kind: keyof Names): string {
    return this.skipName(kind) ?? this.failName(kind);
  }

  private failName(kind: keyof Names): never {
    const singular = kind.slice(0, -1);
    if (this.next.kind !== "word") this.fail(`a ${singular}`);
    const near = nearest(this.next.text, this.names[kind]);
    const advice = near
      ? `; did you mean ${near}?`
      : this.names[kind].length > 0
        ? `; there is ${this.names[kind].join(", ")}`
        : "; the project has none yet";
    throw new PhraseError(`there is no ${singular} “${this.next.text}”${advice}`, this.next.column);
  }

  /** Fails at the next token, saying what was expected there. */
  fail(expected: string): never {
    const found = this.next.kind === "end" ? "the phrase ends" : `“${this.next.text}” stands`;
    throw new PhraseError(`${expected} is expected where ${found}`, this.next.column);
  }

  /** Fails at the number that was taken last, saying what was expected in its place. */
  failNumber(expected: string): never {
    const token = this.tokens.slice(0, this.at).findLast(({ kind }) => kind === "number") ?? this.next;
    throw new PhraseError(`${expected} is expected where “${token.text}” stands`, token.column);
  }

  /** Fails at the next word because it is none of `choices`, naming the nearest. */
  failWord(what: string, choices: readonly string[]): never {
    this.offer(choices);
    const near = nearest(this.peekWord(), choices);
    if (this.next.kind !== "word") this.fail(what);
    throw new PhraseError(
      `“${this.next.text}” is not ${what}${near ? `; did you mean ${near}?` : `; there is ${choices.join(", ")}`}`,
      this.next.column,
    );
  }

  /** Fails because what was read cannot be kept: a number too large, a text too long. */
  refuse({ message, place }: { message: string; place: string }): never {
    throw new PhraseError(`${place} ${message}`, this.tokens[Math.max(0, this.at - 1)].column);
  }

  /** Reads what stands within something, to a depth that no phrase of a person has. */
  deeper<T>(read: () => T): T {
    if (this.depth >= MAX_DEPTH) this.fail(`at most ${MAX_DEPTH} levels of brackets and not, so something simpler`);
    this.depth++;
    const value = read();
    this.depth--;
    return value;
  }

  end(): void {
    if (this.next.kind !== "end") this.fail("the end of the phrase");
  }
}

/** Parses a whole phrase with `parse`; what is wrong comes back as a value. */
export function parsePhrase<T>(
  phrase: string,
  names: Names,
  parse: (reader: PhraseReader) => T,
): { value: T } | { problem: PhraseProblem } {
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

/** Words that a phrase may go on with: each completes its last word, or follows where it ends with a space. */
export function completions(text: string, names: Names, parse: (reader: PhraseReader) => unknown): string[] {
  const word = /[A-Za-z0-9#-]*$/.exec(text)?.[0] ?? "";
  let reader: PhraseReader | undefined;
  try {
    reader = new PhraseReader(text, names);
    parse(reader);
  } catch (error) {
    if (!(error instanceof PhraseError)) throw error;
  }
  return (reader?.couldStand(word === "") ?? []).filter(
    (choice) => /^[A-Za-z%]/.test(choice) && choice.startsWith(word) && choice !== word,
  );
}

/** The choice that differs from `word` by the fewest edits, if by at most two (one for short words). */
function nearest(word: string, choices: readonly string[]): string | undefined {
  const limit = word.length <= 3 ? 1 : 2;
  let best: string | undefined;
  let least = limit + 1;
  for (const choice of choices) {
    const edits = editDistance(word, choice);
    if (edits < least) {
      least = edits;
      best = choice;
    }
  }
  return word === "" ? undefined : best;
}

/** Levenshtein distance, row by row. */
function editDistance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const above = row;
    row = [i];
    for (let j = 1; j <= b.length; j++) {
      row.push(Math.min(above[j] + 1, row[j - 1] + 1, above[j - 1] + (a[i - 1] === b[j - 1] ? 0 : 1)));
    }
  }
  return row[b.length];
}
