/**
 * A small program that every language can say: numbers, whole numbers, truth values and texts, functions, and variables
 * that are there for good. Writers of languages print it; what lowers to it need not know of them.
 */

/** `num` is a double, `int` a whole number of at least 31 bits. */
export type Type = "num" | "int" | "bool" | "text";

export type Expr =
  | { is: "num" | "int"; value: number }
  | { is: "bool"; value: boolean }
  | { is: "text"; value: string }
  | { is: "name"; name: string }
  /** A place of an array. */
  | { is: "at"; array: string; index: Expr }
  | { is: "call"; fn: string; args: readonly Expr[] }
  | { is: "op"; op: Operator; left: Expr; right: Expr }
  | { is: "not" | "minus"; of: Expr }
  | { is: "choice"; test: Expr; then: Expr; otherwise: Expr };

/** `/` divides numbers, `%` gives what is left of whole numbers that are not negative. */
export type Operator = "or" | "and" | "==" | "!=" | "<" | "<=" | ">" | ">=" | "+" | "-" | "*" | "/" | "%";

export type Assignable = Extract<Expr, { is: "name" | "at" }>;

export type Statement =
  /** A variable of the function, which may be set again. */
  | { does: "let"; name: string; value: Expr }
  | { does: "set"; place: Assignable; value: Expr }
  | { does: "if"; test: Expr; then: readonly Statement[]; otherwise: readonly Statement[] }
  | { does: "while"; test: Expr; body: readonly Statement[] }
  /** From one whole number on, up to another that is not reached. */
  | { does: "for"; name: string; from: Expr; to: Expr; body: readonly Statement[] }
  | { does: "return"; value?: Expr }
  | { does: "call"; call: Extract<Expr, { is: "call" }> }
  | { does: "break" }
  /** Goes on with the next round of the loop. */
  | { does: "continue" }
  | { does: "remark"; text: string };

export interface Fn {
  name: string;
  takes: readonly { name: string; type: Type }[];
  /** What it gives; missing where it gives nothing. */
  gives?: Type;
  /** What it is for, as sentences. */
  doc: string;
  body: readonly Statement[];
}

/** A variable that is there for good: one value, or as many as it has places. */
export interface Variable {
  name: string;
  type: Type;
  doc?: string;
  /** Never set again. */
  constant: boolean;
  value: Literal | readonly Literal[];
  /** The same numbers as people read and change them. */
  list?: readonly ListPart[];
  /** Texts that a list says itself, where the language lets it. */
  inList?: true;
}

/** An array of rows of numbers as a list of what they say: modes, responses and routines, each with its steps. */
export interface ListPart {
  begins: "mode" | "when" | "routine";
  doc: string;
  /** Of a response: what it goes by, with names; its trigger, and the conditions that guard it. */
  args?: readonly ListArg[];
  trigger?: ListRow;
  guard?: readonly ListRow[];
  steps: readonly ListRow[];
}

/** One row: its kind by the name of a constant, what it is given, and what stands behind that. */
export interface ListRow {
  kind: string;
  args: readonly ListArg[];
  behind: readonly Expr[];
  /** Of a condition: the number of those before it that it is made of. */
  parts: number;
  conditions?: readonly ListRow[];
  step?: ListRow;
  doc?: string;
}

/** An argument; `limits` are the least and the most that it can be. */
export interface ListArg {
  name: string;
  value: Expr;
  limits?: readonly [least: number, most: number];
  /** The text that it stands for, where it is the number of one. */
  text?: string;
}
export type Literal = number | boolean | string;

/** What is printed in this order, under headings. */
export interface Part {
  heading?: string;
  variables: readonly Variable[];
  fns: readonly Fn[];
  /** Functions that the language's own text has, not the tree: what they take and give, without a body. */
  given?: readonly Fn[];
  /** Text of a language's own behind its functions, by the language's key: the same, only quicker. */
  quicker?: Readonly<Record<string, string>>;
}

export const num = (value: number): Expr => ({ is: "num", value });
export const int = (value: number): Expr => ({ is: "int", value });
export const text = (value: string): Expr => ({ is: "text", value });
export const name = (of: string): Assignable => ({ is: "name", name: of });
export const call = (fn: string, ...args: Expr[]): Extract<Expr, { is: "call" }> => ({ is: "call", fn, args });
export const op = (left: Expr, operator: Operator, right: Expr): Expr => ({ is: "op", op: operator, left, right });
export const not = (of: Expr): Expr => ({ is: "not", of });
export const yes: Expr = { is: "bool", value: true };

/** All of them, in a chain; true where there is none. */
export const allOf = (tests: readonly Expr[]): Expr =>
  tests.length === 0 ? yes : tests.reduce((left, right) => op(left, "and", right));
