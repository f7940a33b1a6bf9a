import type { Input } from "./inputKinds";

/** What of a project a phrase may name. */
const KINDS = [
  "targets",
  "sensors",
  "modes",
  "lamps",
  "counters",
  "lists",
  "routines",
  "buttons",
  "servos",
  "gates",
  "crates",
] as const;
export type NamesKind = (typeof KINDS)[number];

/** The things of a project that a phrase may name, by their ids. */
export type Ids = Readonly<Record<NamesKind, readonly string[]>> & {
  /** Which of the sensors give frames: only with one of them blobs are offered. */
  readonly cameras?: readonly string[];
  /** The inputs of each routine that has some. */
  readonly takes?: Readonly<Record<string, readonly Input[]>>;
  /** Inputs that the steps being read may take: words in the place of values. */
  readonly inputs?: readonly Input[];
  /** Values in the place of those that a phrase has, by their places among all of its values. */
  readonly filled?: ReadonlyMap<number, string>;
  /** The features that the sensors report, taken together: only these are offered; all where this is left out. */
  readonly features?: readonly string[];
};

/** The same, by their ids alone or by names as people see them. */
export type Names = Readonly<Record<NamesKind, readonly (string | Named)[]>> &
  Pick<Ids, "cameras" | "features" | "takes" | "inputs" | "filled">;

/** No names at all. */
export const NO_NAMES = Object.fromEntries(KINDS.map((kind) => [kind, []])) as unknown as Ids;

/** The things of every kind. */
export const allNamed = (names: Names): (string | Named)[] => KINDS.flatMap((kind) => names[kind]);

/** A thing that people know by a name, which may have spaces; by its id it is understood as well. */
export interface Named {
  id: string;
  name: string;
  /** Fits the name where it stands in a phrase, in any case, or with hyphens for its spaces. */
  pattern: RegExp;
}

/** A thing for phrases. */
export function named(id: string, name: string): Named {
  const words = name.split(/\s+/).map((word) => word.replace(/[\\^$.*+?()[\]{}|/]/g, "\\$&"));
  return { id, name, pattern: new RegExp(`(?:${words.join("\\s+")}|${words.join("-")})${NO_LETTER}`, "iuy") };
}
/** A name ends where no letter or digit follows, nor a hyphen that leads on to one. */
const NO_LETTER = "(?![\\p{L}\\p{N}]|-[\\p{L}\\p{N}])";

export const idOf = (thing: string | Named) => (typeof thing === "string" ? thing : thing.id);
export const nameOf = (thing: string | Named) => (typeof thing === "string" ? thing : thing.name);

/** How many characters of a phrase name the thing at a place; 0 where something else stands. */
export function fits(thing: string | Named, phrase: string, at: number): number {
  const id = idOf(thing);
  let length =
    phrase.startsWith(id, at) && !LETTER.test(phrase.slice(at + id.length, at + id.length + 2)) ? id.length : 0;
  if (typeof thing !== "string") {
    thing.pattern.lastIndex = at;
    length = Math.max(length, thing.pattern.exec(phrase)?.[0].length ?? 0);
  }
  return length;
}
const LETTER = /^(?:[\p{L}\p{N}]|-[\p{L}\p{N}])/u;

/**
 * The choice that differs from `word` by the fewest edits, if by at most two (one for short words); case does not count.
 * `meant` gives what each stands for.
 */
export function nearest(word: string, choices: readonly string[], meant = choices): string | undefined {
  const limit = word.length <= 3 ? 1 : 2;
  let best: string | undefined;
  let least = limit + 1;
  for (const [i, choice] of choices.entries()) {
    const edits = editDistance(word.toLowerCase(), choice.toLowerCase());
    if (edits < least) {
      least = edits;
      best = meant[i];
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
