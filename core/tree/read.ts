import type { Assignable, Expr, Fn, Operator, Statement, Type } from "./tree";

/**
 * Reads functions from the form in which those that never change are written down:
 *
 * ```
 * fn hue_of(r: num, g: num, b: num): num
 *   "Hue in degrees."
 *   let most = max(r, g, b)
 *   if most == r
 *     return 0.0
 *   for i in 0..COUNT
 *     recent[i] = 0
 * ```
 *
 * A number with a point is a `num`, one without an `int`. @throws Error with the line, for a fault of this program's own
 */
export function readFns(source: string): Fn[] {
  const lines = source
    .split("\n")
    .map((line, i) => ({ indent: line.search(/\S/), text: line.trim(), number: i + 1 }))
    .filter(({ text }) => text !== "");
  const fns: Fn[] = [];
  let at = 0;
  while (at < lines.length) {
    const { indent, text, number } = lines[at++];
    const head = /^fn (\w+)\(([^)]*)\)(?:: (\w+))?$/.exec(text);
    if (head === null) throw new Error(`line ${number}: “${text}” is no function`);
    const [, name, takes, gives] = head;
    const doc: string[] = [];
    while (at < lines.length && lines[at].indent > indent && lines[at].text.startsWith('"'))
      doc.push(JSON.parse(lines[at++].text) as string);
    const reader = new Reader(lines, at);
    const body = reader.block(indent);
    at = reader.at;
    fns.push({
      name,
      takes: takes === "" ? [] : takes.split(", ").map(parameter),
      ...(gives !== undefined && { gives: gives as Type }),
      doc: doc.join(" "),
      body,
    });
  }
  return fns;
}

function parameter(text: string): { name: string; type: Type } {
  const [name, type] = text.split(": ");
  return { name, type: type as Type };
}

interface SourceLine {
  indent: number;
  text: string;
  number: number;
}

class Reader {
  constructor(
    private readonly lines: readonly SourceLine[],
    public at: number,
  ) {}

  /** The statements that stand farther in than `outer`. */
  block(outer: number): Statement[] {
    const statements: Statement[] = [];
    while (this.at < this.lines.length && this.lines[this.at].indent > outer) statements.push(this.statement());
    return statements;
  }

  private statement(): Statement {
    const { indent, text, number } = this.lines[this.at++];
    const expression = (source: string) => readExpr(source, number);
    if (text.startsWith("# ")) return { does: "remark", text: text.slice(2) };
    if (text === "break") return { does: "break" };
    if (text === "return") return { does: "return" };
    if (text.startsWith("return ")) return { does: "return", value: expression(text.slice(7)) };
    const let_ = /^let (\w+) = (.+)$/.exec(text);
    if (let_ !== null) return { does: "let", name: let_[1], value: expression(let_[2]) };
    if (text.startsWith("if ")) return this.choice(indent, expression(text.slice(3)));
    if (text.startsWith("while ")) return { does: "while", test: expression(text.slice(6)), body: this.block(indent) };
    const for_ = /^for (\w+) in (.+)\.\.(.+)$/.exec(text);
    if (for_ !== null)
      return {
        does: "for",
        name: for_[1],
        from: expression(for_[2]),
        to: expression(for_[3]),
        body: this.block(indent),
      };
    const set = /^(\w+(?:\[[^"]*?\])?) ([+-])?= (.+)$/.exec(text);
    if (set !== null) {
      const place = expression(set[1]) as Assignable;
      const value = expression(set[3]);
      if (set[2] === undefined) return { does: "set", place, value };
      return { does: "set", place, value: { is: "op", op: set[2] as Operator, left: place, right: value } };
    }
    const called = expression(text);
    if (called.is !== "call") throw new Error(`line ${number}: “${text}” does nothing`);
    return { does: "call", call: called };
  }

  private choice(indent: number, test: Expr): Statement {
    const then = this.block(indent);
    const next = this.lines[this.at];
    if (next?.indent !== indent) return { does: "if", test, then, otherwise: [] };
    if (next.text === "else") {
      this.at++;
      return { does: "if", test, then, otherwise: this.block(indent) };
    }
    if (!next.text.startsWith("elif ")) return { does: "if", test, then, otherwise: [] };
    this.at++;
    return { does: "if", test, then, otherwise: [this.choice(indent, readExpr(next.text.slice(5), next.number))] };
  }
}

const TOKEN = /\s*(\d+\.\d+(?:e-?\d+)?|\d+|\w+|"(?:[^"\\]|\\.)*"|[<>=!]=|[-+*/%<>()[\],])/y;
/** What binds less stands first. */
const LEVELS: readonly (readonly Operator[])[] = [
  ["or"],
  ["and"],
  ["==", "!=", "<", "<=", ">", ">="],
  ["+", "-"],
  ["*", "/", "%"],
];

/** Reads one expression. */
export function readExpr(source: string, line = 1): Expr {
  const tokens: string[] = [];
  const token = new RegExp(TOKEN);
  while (token.lastIndex < source.length) {
    const found = token.exec(source);
    if (found === null) throw new Error(`line ${line}: “${source}” cannot be read`);
    tokens.push(found[1]);
  }
  let at = 0;
  const take = (wanted: string) => {
    if (tokens[at++] !== wanted) throw new Error(`line ${line}: “${wanted}” is missing in “${source}”`);
  };
  const list = (end: string): Expr[] => {
    const all: Expr[] = [];
    while (tokens[at] !== end) {
      all.push(choice());
      if (tokens[at] !== end) take(",");
    }
    take(end);
    return all;
  };
  const choice = (): Expr => {
    const then = level(0);
    if (tokens[at] !== "if") return then;
    at++;
    const test = level(0);
    take("else");
    return { is: "choice", test, then, otherwise: choice() };
  };
  const level = (depth: number): Expr => {
    if (depth === LEVELS.length) return unary();
    if (depth === 2 && tokens[at] === "not") {
      at++;
      return { is: "not", of: level(depth) };
    }
    let left = level(depth + 1);
    while (LEVELS[depth].includes(tokens[at] as Operator)) {
      const operator = tokens[at++] as Operator;
      left = { is: "op", op: operator, left, right: level(depth + 1) };
    }
    return left;
  };
  const unary = (): Expr => {
    const token = tokens[at++];
    if (token === "-") return { is: "minus", of: unary() };
    if (token === "(") {
      const inner = choice();
      take(")");
      return inner;
    }
    if (token === undefined) throw new Error(`line ${line}: “${source}” ends too soon`);
    if (token.startsWith('"')) return { is: "text", value: JSON.parse(token) as string };
    if (/^\d/.test(token)) return { is: token.includes(".") ? "num" : "int", value: Number(token) };
    if (token === "true" || token === "false") return { is: "bool", value: token === "true" };
    if (tokens[at] === "(") {
      at++;
      return { is: "call", fn: token, args: list(")") };
    }
    if (tokens[at] === "[") {
      at++;
      const [index] = list("]");
      return { is: "at", array: token, index };
    }
    return { is: "name", name: token };
  };
  const read = choice();
  if (at < tokens.length) throw new Error(`line ${line}: “${tokens[at]}” is too much in “${source}”`);
  return read;
}

/** A number as that form writes numbers, with a point. */
export function coded(value: number): string {
  const text = String(value);
  return text.includes(".") ? text : text.replace(/(e|$)/, ".0$1");
}
