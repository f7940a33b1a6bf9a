import {
  allAlike,
  type Expr,
  type Fn,
  type Literal,
  laidOut,
  type Operator,
  op,
  quietly,
  type Statement,
  setIn,
  type Variable,
  wellFormed,
  wrapped,
} from "../../tree";
import { BracedPrinter, TAB, WIDTH } from "./Braced";

/** A name as JavaScript writes names; constants keep their capitals. */
export const camelName = (name: string): string =>
  /^[A-Z]/.test(name) ? name : name.replace(/_([a-z])/g, (_, letter: string) => letter.toUpperCase());

/** JavaScript (ES2020): one module, of which every function can be imported. */
export class JavaScriptPrinter extends BracedPrinter {
  protected name(name: string): string {
    return camelName(name);
  }

  protected variable({ name, type, doc, constant, value, lines }: Variable): string[] {
    const one = (v: Literal) => this.literal(v, type);
    const own = `export ${constant || Array.isArray(value) ? "const" : "let"} ${this.name(name)} = `;
    const remark = doc === undefined ? "" : ` /* ${quietly(doc)} */`;
    if (!Array.isArray(value)) return [`${own}${one(value as Literal)};${remark}`];
    if (allAlike(value)) return [`${own}new Array(${value.length}).fill(${one(value[0])});${remark}`];
    if (lines !== undefined)
      return [
        `${own}[${remark}`,
        ...laidOut({ name, type, constant, value, lines }, one).map(
          ([cells, words]) => `${TAB}${cells}${words === undefined ? "" : ` /* ${quietly(words)} */`}`,
        ),
        "];",
      ];
    const line = `${own}[${value.map(one).join(", ")}];${remark}`;
    return line.length <= WIDTH
      ? [line]
      : [`${own}[${remark}`, ...wrapped(value.map(one), WIDTH - TAB.length).map((row) => `${TAB}${row}`), "];"];
  }

  protected fn(fn: Fn): string[] {
    this.set = setIn(fn.body);
    const takes = fn.takes.map(({ name }) => this.name(name)).join(", ");
    return [
      ...(fn.doc === "" ? [] : [`/** ${quietly(fn.doc)} */`]),
      `export function ${this.name(fn.name)}(${takes}) {`,
      ...this.block(fn.body, TAB),
      "}",
    ];
  }

  protected literal(value: Literal, type: "num" | "int" | "bool" | "text"): string {
    if (type === "text")
      return JSON.stringify(wellFormed(String(value))).replace(
        /[^ -~]/g,
        (unit) => `\\u${unit.charCodeAt(0).toString(16).padStart(4, "0")}`,
      );
    if (type === "bool") return String(value);
    return Object.is(value, -0) ? "-0" : String(value);
  }

  protected override expr(expr: Expr, outer = 0): string {
    // What is left of a division has a sign of its own here.
    if (expr.is === "call" && expr.fn === "fmod") return super.expr(op(expr.args[0], "%", expr.args[1]), outer);
    return super.expr(expr, outer);
  }

  protected named(name: string): string {
    return name === "pi" ? "Math.PI" : name === "nan" ? "NaN" : "Infinity";
  }

  protected word(op: Operator | "not"): string {
    return { or: "||", and: "&&", not: "!", "==": "===", "!=": "!==" }[op as string] ?? op;
  }

  protected builtIn(fn: string, args: readonly string[]): string | undefined {
    if (fn === "whole") return args[0];
    return ["max", "min", "abs", "sqrt", "floor"].includes(fn) ? `Math.${fn}(${args.join(", ")})` : undefined;
  }

  /** What a function sets again: all else is constant in it. */
  private set: ReadonlySet<string> = new Set();

  protected made({ name, value }: Extract<Statement, { does: "let" }>): string {
    return `${this.set.has(name) ? "let" : "const"} ${this.name(name)} = ${this.expr(value)}`;
  }

  protected counting(name: string, from: string, to: string): string {
    return `let ${name} = ${from}; ${name} < ${to}; ${name}++`;
  }
}
