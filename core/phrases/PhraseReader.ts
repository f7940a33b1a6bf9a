import { INPUT_KINDS, type Input, type InputKind, NUMERIC, type PhraseValue, UNITS } from "./inputKinds";
import { allNamed, fits, idOf, type Named, type Names, type NamesKind, nameOf, nearest } from "./names";
import { type Completion, PhraseError } from "./problem";
import { type Token, tokensOf } from "./tokens";

/** The largest number, with either sign. */
const MOST_NUMBER = 1e9;
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

  /** The values that were taken so far. */
  readonly values: PhraseValue[] = [];
  /** The place behind the number that was taken last. */
  private behindNumber = -1;

  /** Names of several words: where one stands, its first word is no word of the phrase. */
  private readonly long: readonly Named[];

  constructor(
    private readonly phrase: string,
    private readonly names: Names,
  ) {
    this.tokens = tokensOf(phrase);
    this.long = allNamed(names).filter((thing) => typeof thing !== "string" && /\s/.test(thing.name)) as Named[];
  }

  /** Whether some sensor gives frames. */
  get hasCameras(): boolean {
    return (this.names.cameras?.length ?? 0) > 0;
  }

  /** Keeps those of these features that some sensor reports. */
  reported(features: readonly string[]): readonly string[] {
    const { features: known } = this.names;
    return known === undefined ? features : features.filter((f) => known.includes(f));
  }

  private get next(): Token {
    return this.tokens[this.at];
  }

  /**
   * Lists what completes the phrase as far as it goes: words, each with the place where it begins. Right behind a word of a
   * phrase that is whole nothing new begins.
   */
  completing(isWhole: boolean): Completion[] {
    const rest = (from: number) => this.phrase.slice(from).toLowerCase().replace(/\s+/g, " ");
    return this.lookedFor.flatMap((words, i) => {
      const { kind, column } = this.tokens[i];
      const from = column - 1;
      if (kind === "end" && isWhole && /[^\s:(,]$/.test(this.phrase)) return [];
      return [...words]
        .filter(
          (word) =>
            /[\p{L}%]/u.test(word) && word.toLowerCase().startsWith(rest(from)) && word.toLowerCase() !== rest(from),
        )
        .map((word) => ({ from, word }));
    });
  }

  /** How long the name of several words is that stands here, if one does. */
  private longNameHere(): number {
    return this.next.kind === "end"
      ? 0
      : Math.max(0, ...this.long.map((thing) => fits(thing, this.phrase, this.next.column - 1)));
  }

  /** Notes words that could stand here. */
  offer(words: readonly string[]): void {
    this.lookedFor[this.at] ??= new Set();
    for (const word of words) this.lookedFor[this.at].add(word);
  }

  /** The next word, without taking it; "" where something else stands. */
  peekWord(): string {
    return this.next.kind === "word" && this.longNameHere() === 0 ? this.next.text : "";
  }

  /** The column of what stands next. */
  get column(): number {
    return this.next.column;
  }

  /** Gives the inputs of a routine. */
  takes(routine: string): readonly Input[] {
    return this.names.takes?.[routine] ?? [];
  }

  /** Puts the value of an input in the place of its name that stands here, or what is to be filled in for a value. */
  private fill(as: "number" | "text"): void {
    const { kind, text, put, column } = this.next;
    const input = this.inputHere(as === "number" ? NUMERIC : ["text"]);
    const isValue = kind === as && put === undefined;
    const value = input?.value ?? (isValue ? this.names.filled?.get(this.values.length) : undefined);
    if (value === undefined) return;
    const behind = this.tokens[this.at + 1];
    const replaced = kind === "number" && text !== "" && UNITS.has(behind.text) ? 2 : 1;
    const { end } = this.tokens[this.at + replaced - 1];
    const tokens = tokensOf(value).slice(0, -1);
    const own = { put: input === undefined ? {} : { input: input.name } };
    this.tokens.splice(this.at, replaced, ...tokens.map((token) => ({ ...token, ...own, column, end })));
  }

  /** The input of one of these kinds whose name stands here. */
  private inputHere(kinds: readonly InputKind[]): Input | undefined {
    const inputs = (this.names.inputs ?? []).filter(({ kind }) => kinds.includes(kind));
    this.offer(inputs.map(({ name }) => name));
    return this.next.kind === "word" ? inputs.find(({ name }) => name === this.next.text) : undefined;
  }

  /** Notes that the token before this place is a value. */
  private valueTaken(input = this.tokens[this.at - 1].put?.input): void {
    const { column, end } = this.tokens[this.at - 1];
    this.values.push({ from: column - 1, to: end, ...(input !== undefined && { input }) });
  }

  peekIs(kind: "number" | "text" | "end"): boolean {
    if (kind !== "end") this.fill(kind);
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
    if (this.longNameHere() > text.length) return false;
    if (this.at === this.behindNumber && UNITS.has(text)) (this.values.at(-1) as PhraseValue).to = this.next.end;
    this.at++;
    return true;
  }

  /** Takes this word or sign. */
  take(text: string): void {
    if (!this.skip(text)) this.fail(`“${text}”`);
  }

  takeNumber(what: string): number {
    this.fill("number");
    if (this.next.kind !== "number") this.fail(what);
    const { text, column } = this.tokens[this.at++];
    this.valueTaken();
    this.behindNumber = this.at;
    const value = Number(text);
    if (Math.abs(value) > MOST_NUMBER) throw new PhraseError(`${text} is more than a phrase may hold`, column);
    return value;
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

  /** Takes a time in s or ms, up to `most` seconds, as whole milliseconds. */
  takeTime(what: string, most = 3600): { ms: number; in?: "ms" } {
    const { column } = this.next;
    return this.timeOf(this.takeAmount(what), what, column, most) ?? this.fail("s or ms");
  }

  /** Gives the time that an amount is, where s or ms stands behind it. */
  timeOf(amount: number, what: string, column: number, most = 3600): { ms: number; in?: "ms" } | undefined {
    const unit = this.skip("s") ? "s" : this.skip("ms") ? "ms" : undefined;
    if (unit === undefined) return undefined;
    const ms = Math.max(1, Math.round(unit === "s" ? amount * 1000 : amount));
    if (ms > most * 1000) throw new PhraseError(`${what} is at most ${most} s`, column);
    return { ms, ...(unit === "ms" && { in: unit }) };
  }

  takeText(what: string): string {
    this.fill("text");
    if (this.next.kind !== "text") this.fail(what);
    const { text, column } = this.tokens[this.at++];
    this.valueTaken();
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

  /** Takes the id of the thing whose name stands next, if the project has one: of several the longest that fits. */
  skipName(kind: NamesKind): string | undefined {
    this.offer(this.names[kind].map(nameOf));
    if (kind !== "targets") return this.takeFitting(kind);
    const input = this.inputHere(["target"]);
    if (input !== undefined) this.at++;
    const found = input?.value ?? this.takeFitting(kind);
    if (found === undefined) return undefined;
    const filled = this.names.filled?.get(this.values.length);
    this.valueTaken(input?.name);
    return filled ?? found;
  }

  /** Looks up the name that was taken last among things of another kind. */
  lastNameAs(kind: NamesKind): string | undefined {
    const { column, end } = this.tokens[this.at - 1];
    const thing = this.names[kind].find((one) => fits(one, this.phrase, column - 1) === end - column + 1);
    return thing === undefined ? undefined : idOf(thing);
  }

  /** As `skipName`; with `before`, only if that sign follows. */
  private takeFitting(kind: NamesKind, before?: string): string | undefined {
    if (this.next.kind === "end") return undefined;
    const { column } = this.next;
    let found: { id: string; length: number } | undefined;
    for (const thing of this.names[kind]) {
      const length = fits(thing, this.phrase, column - 1);
      if (length <= (found?.length ?? 0)) continue;
      if (
        before !== undefined &&
        !this.phrase
          .slice(column - 1 + length)
          .trimStart()
          .startsWith(before)
      )
        continue;
      found = { id: idOf(thing), length };
    }
    if (found === undefined) return undefined;
    const end = column - 1 + found.length;
    const name: Token = { kind: "word", text: found.id, column, end };
    // Most names end where a token does; behind others the rest is taken apart anew.
    const behind = this.tokens.findIndex((token, i) => i > this.at && token.column > end);
    if (behind > 0 && this.tokens[behind - 1].end <= end) this.tokens.splice(this.at, behind - this.at, name);
    else this.tokens.splice(this.at, Infinity, name, ...tokensOf(this.phrase, end));
    this.at++;
    return found.id;
  }

  /** Takes a sensor and its colon, if they come next. */
  skipSensor(): string | undefined {
    this.offer(this.names.sensors.map((sensor) => `${nameOf(sensor)}:`));
    const sensor = this.takeFitting("sensors", ":");
    if (sensor === undefined && !this.peekSign(":", 1)) return undefined;
    const known = sensor ?? this.takeName("sensors");
    this.take(":");
    return known;
  }

  /** Takes the name of a thing of the project. */
  takeName(kind: NamesKind): string {
    return this.skipName(kind) ?? this.failName(kind);
  }

  private failName(kind: NamesKind): never {
    const singular = kind.slice(0, -1);
    if (this.next.kind !== "word") this.fail(`a ${singular}`);
    const names = this.names[kind].map(nameOf);
    // A name is near by its first word, too, and by its id.
    const near = nearest(
      this.next.text,
      this.names[kind].flatMap((thing) => [nameOf(thing), nameOf(thing).split(" ")[0], idOf(thing)]),
      this.names[kind].flatMap((thing) => Array(3).fill(nameOf(thing))),
    );
    const advice = near
      ? `; did you mean ${near}?`
      : names.length > 0
        ? `; there is ${names.join(", ")}`
        : "; the project has none yet";
    throw new PhraseError(`there is no ${singular} “${this.next.text}”${advice}`, this.next.column);
  }

  /** The name that stands here of a thing of some kind; undefined where none does. */
  nameHere(kind: NamesKind): string | undefined {
    const { column } = this.next;
    return this.names[kind].filter((thing) => fits(thing, this.phrase, column - 1) > 0).map(nameOf)[0];
  }

  /** Fails at the next token, or at another column, with a sentence of one's own. */
  failSaying(message: string, column = this.next.column): never {
    throw new PhraseError(message, column);
  }

  /** Tells of the input whose name stands next; undefined where none does. */
  private inputNext(): string | undefined {
    const { put, kind, text } = this.next;
    const own = put?.input ?? (kind === "word" ? text : undefined);
    const input = this.names.inputs?.find(({ name }) => name === own);
    return input && `“${input.name}” stands, which is ${INPUT_KINDS[input.kind]}`;
  }

  /** Fails at the next token, saying what was expected there. */
  fail(expected: string): never {
    const { kind, text, column } = this.next;
    if (kind === "stray")
      throw new PhraseError(
        text === '"' ? "the quoted text has no closing quote" : `“${text}” is not part of any phrase`,
        column,
      );
    const found = this.next.kind === "end" ? "the phrase ends" : (this.inputNext() ?? `“${this.next.text}” stands`);
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
    const number = this.tokens.slice(0, this.at).findLast(({ kind }) => kind === "number");
    const size = /^must be (at most|below)/.test(message)
      ? "large"
      : /^must be (at least|above)/.test(message)
        ? "small"
        : undefined;
    if (number !== undefined && size !== undefined)
      throw new PhraseError(`${number.text} is too ${size} here`, number.column);
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
