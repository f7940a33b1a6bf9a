import type { Expr, Fn, Literal, Operator, Part, Statement, Variable } from "./tree";
import { NAMED, Types } from "./types";

/** How strongly each form binds: what binds less stands in brackets within what binds more. */
const BINDS: Readonly<Record<Operator | "choice" | "not" | "minus" | "whole", number>> = {
  choice: 0,
  or: 1,
  and: 2,
  not: 3,
  "==": 4,
  "!=": 4,
  "<": 4,
  "<=": 4,
  ">": 4,
  ">=": 4,
  "+": 5,
  "-": 5,
  "*": 6,
  "/": 6,
  "%": 6,
  minus: 7,
  whole: 8,
};

/** Variables that are no longer stand with others on a line. */
const SHORT = 60;

/** Prints a tree as the lines of a program; a language says how it writes each form. */
export abstract class Printer {
  protected readonly types: Types;
  /** Whether `not` binds as strongly as a sign. */
  protected readonly tightNot: boolean = true;

  constructor(protected readonly parts: readonly Part[]) {
    this.types = new Types(parts);
  }

  /** All parts under their headings. */
  print(): string[] {
    return this.parts.flatMap(({ heading, variables, fns }) => [
      ...(heading === undefined ? [] : this.heading(heading)),
      ...this.variables(variables),
      ...(variables.length > 0 ? [""] : []),
      ...fns.flatMap((fn) => {
        this.types.enter(fn);
        return [...this.fn(fn), ...this.between()];
      }),
    ]);
  }

  /** Variables in their order; short ones without a remark, many on a line. */
  private variables(all: readonly Variable[]): string[] {
    const lines: string[] = [];
    let short: Variable[] = [];
    const put = () => {
      if (short.length > 0) lines.push(...this.together(short));
      short = [];
    };
    for (const variable of all) {
      const { type, doc, list, inList } = variable;
      const isPlain = type !== "text" && doc === undefined && list === undefined && inList === undefined;
      if (isPlain && this.short(variable).length <= SHORT) short.push(variable);
      else {
        put();
        lines.push(...this.variable(variable));
      }
    }
    put();
    return lines;
  }

  protected abstract heading(text: string): string[];
  /** What a variable is called and what it is, on one line. */
  protected abstract short(variable: Variable): string;
  /** Such variables as few lines. */
  protected abstract together(variables: readonly Variable[]): string[];
  protected abstract variable(variable: Variable): string[];
  protected abstract fn(fn: Fn): string[];
  /** A number of a list, or a named one; whole numbers without a point. */
  protected cell(value: Expr): string {
    return value.is === "num" && Number.isInteger(value.value) ? String(value.value) : this.expr(value);
  }
  /** The lines between two functions. */
  protected between(): string[] {
    return [""];
  }
  /** A name as the language writes names. */
  protected abstract name(name: string): string;
  protected abstract literal(value: Literal, type: "num" | "int" | "bool" | "text"): string;
  protected abstract word(op: Operator | "not"): string;
  protected abstract choice(test: string, then: string, otherwise: string): string;
  protected abstract builtIn(fn: string, args: readonly string[]): string | undefined;
  protected abstract named(name: string): string;
  protected abstract statement(statement: Statement, indent: string): string[];

  protected expr(expr: Expr, outer = 0): string {
    const [text, binds] = this.formed(expr);
    return binds < outer ? `(${text})` : text;
  }

  private formed(expr: Expr): [text: string, binds: number] {
    switch (expr.is) {
      case "num":
      case "int":
        return [this.literal(expr.value, expr.is), expr.value < 0 ? BINDS.minus : BINDS.whole];
      case "bool":
      case "text":
        return [this.literal(expr.value, expr.is), BINDS.whole];
      case "name":
        return [expr.name in NAMED ? this.named(expr.name) : this.name(expr.name), BINDS.whole];
      case "at":
        return [`${this.name(expr.array)}[${this.expr(expr.index)}]`, BINDS.whole];
      case "call": {
        const args = expr.args.map((arg) => this.expr(arg));
        return [this.builtIn(expr.fn, args) ?? `${this.name(expr.fn)}(${args.join(", ")})`, BINDS.whole];
      }
      case "minus":
        return [`-${this.expr(expr.of, BINDS.whole)}`, BINDS.minus];
      case "not": {
        const binds = this.tightNot ? BINDS.minus : BINDS.not;
        return [`${this.word("not")}${this.expr(expr.of, this.tightNot ? BINDS.whole : BINDS.not)}`, binds];
      }
      case "choice":
        return [
          this.choice(this.expr(expr.test, 1), this.expr(expr.then, 1), this.expr(expr.otherwise, 1)),
          BINDS.choice,
        ];
      case "op": {
        const { op, left, right } = expr;
        const binds = BINDS[op];
        // What is compared is no comparison itself, and “and” within “or” is told apart.
        const [l, r] =
          binds === BINDS["=="] ? [binds + 1, binds + 1] : op === "or" ? [binds, BINDS.not] : [binds, binds + 1];
        this.types.of(expr);
        const isMixed = op === "or" && left.is === "op" && left.op === "and";
        return [`${this.expr(left, isMixed ? BINDS.not : l)} ${this.word(op)} ${this.expr(right, r)}`, binds];
      }
    }
  }

  protected block(statements: readonly Statement[], indent: string): string[] {
    return statements.flatMap((statement) => {
      const lines = this.statement(statement, indent);
      if (statement.does === "let") this.types.make(statement.name, this.types.of(statement.value));
      return lines;
    });
  }
}

/** The places of a long array, as many on a line as there is room for; `ends` stands behind each. */
export function wrapped(cells: readonly string[], width: number, ends = ","): string[] {
  const lines: string[] = [];
  for (const cell of cells) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + cell.length + 2 <= width)
      lines[lines.length - 1] = `${last} ${cell}${ends}`;
    else lines.push(`${cell}${ends}`);
  }
  return lines;
}

/** A text without halves of letters. */
export const wellFormed = (text: string): string =>
  text.replace(/[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g, "\uFFFD");

/** Words for a remark in any language: on one line, without what might end it or hide in it. */
export const quietly = (text: string): string =>
  wellFormed(text)
    .replace(/[\p{C}\p{Zl}\p{Zp}]+/gu, " ")
    .replace(/["\\]/g, "'")
    .replace(/\*(?=\/)|\/(?=\*)/g, "$& ")
    .replace(/\?(?=\?)/g, "? ");

/** The same value so often, or one after another. */
export const allAlike = (values: readonly Literal[]): boolean =>
  values.length > 6 && values.every((value) => Object.is(value, values[0]));
