import {
  allAlike,
  type Fn,
  type Literal,
  laidOut,
  letsIn,
  type Operator,
  Printer,
  quietly,
  type Statement,
  setIn,
  type Variable,
  wellFormed,
  wrapped,
} from "../../tree";

/** Python 3.8 and MicroPython: one module. */
export class PythonPrinter extends Printer {
  protected override readonly tightNot = false;

  protected heading(text: string): string[] {
    return [`# --- ${quietly(text)} ---`, ""];
  }

  protected override between(): string[] {
    return ["", ""];
  }

  protected name(name: string): string {
    return name;
  }

  protected variable({ name, type, doc, constant, value, lines }: Variable): string[] {
    const one = (v: Literal) => this.literal(v, type);
    const remark = doc === undefined ? "" : `  # ${quietly(doc)}`;
    if (!Array.isArray(value)) return [`${name} = ${one(value as Literal)}${remark}`];
    if (allAlike(value)) return [`${name} = [${one(value[0])}] * ${value.length}${remark}`];
    if (lines !== undefined)
      return [
        `${name} = [${remark}`,
        ...laidOut({ name, type, constant, value, lines }, one).map(
          ([cells, own]) => `    ${cells}${own === undefined ? "" : `  # ${quietly(own)}`}`,
        ),
        "]",
      ];
    const line = `${name} = [${value.map(one).join(", ")}]${remark}`;
    if (line.length <= WIDTH) return [line];
    return [`${name} = [${remark}`, ...wrapped(value.map(one), WIDTH - TAB.length).map((row) => `${TAB}${row}`), "]"];
  }

  protected fn(fn: Fn): string[] {
    const takes = fn.takes.map(({ name }) => name).join(", ");
    const own = letsIn(fn.body);
    const set = [...setIn(fn.body)].filter((name) => this.types.isLasting(name) && !own.has(name));
    const body = this.block(fn.body, TAB);
    return [
      `def ${fn.name}(${takes}):`,
      ...(fn.doc === "" ? [] : [`${TAB}"""${quietly(fn.doc)}"""`]),
      ...(set.length === 0 ? [] : [`${TAB}global ${set.join(", ")}`]),
      ...(body.length === 0 && fn.doc === "" ? [`${TAB}pass`] : body),
    ];
  }

  protected literal(value: Literal, type: "num" | "int" | "bool" | "text"): string {
    if (type === "text") return textOf(String(value));
    if (type === "bool") return value ? "True" : "False";
    const n = Number(value);
    if (Number.isNaN(n)) return 'float("nan")';
    if (!Number.isFinite(n)) return n < 0 ? 'float("-inf")' : 'float("inf")';
    return type === "num" && Number.isInteger(n) && Math.abs(n) < 1e21 ? `${Object.is(n, -0) ? "-0" : n}.0` : String(n);
  }

  protected named(name: string): string {
    return name === "pi" ? "math.pi" : name === "nan" ? "NAN" : "INFINITY";
  }

  protected word(op: Operator | "not"): string {
    return op === "not" ? "not " : op;
  }

  protected choice(test: string, then: string, otherwise: string): string {
    return `${then} if ${test} else ${otherwise}`;
  }

  protected builtIn(fn: string, args: readonly string[]): string | undefined {
    if (fn === "max" || fn === "min" || fn === "abs") return `${fn}(${args.join(", ")})`;
    if (fn === "sqrt" || fn === "fmod" || fn === "floor") return `math.${fn}(${args.join(", ")})`;
    // A cell of rows that is whole is written as a whole number, and most cells are asked for at every tick.
    if (fn === "whole") return /^ROWS\[/.test(args[0]) ? args[0] : `int(${args[0]})`;
    return undefined;
  }

  protected statement(s: Statement, indent: string): string[] {
    const inner = (body: readonly Statement[]) => {
      const lines = this.block(body, indent + TAB);
      return lines.some((line) => !line.trim().startsWith("#")) ? lines : [...lines, `${indent}${TAB}pass`];
    };
    switch (s.does) {
      case "let":
        return [`${indent}${s.name} = ${this.expr(s.value)}`];
      case "set":
        return [`${indent}${this.expr(s.place)} = ${this.expr(s.value)}`];
      case "call":
        return [`${indent}${this.expr(s.call)}`];
      case "return":
        return [`${indent}return${s.value === undefined ? "" : ` ${this.expr(s.value)}`}`];
      case "break":
        return [`${indent}break`];
      case "continue":
        return [`${indent}continue`];
      case "remark":
        return [`${indent}# ${quietly(s.text)}`];
      case "while":
        return [`${indent}while ${this.expr(s.test)}:`, ...inner(s.body)];
      case "for": {
        this.types.make(s.name, "int");
        const from = s.from.is === "int" && s.from.value === 0 ? "" : `${this.expr(s.from)}, `;
        return [`${indent}for ${s.name} in range(${from}${this.expr(s.to)}):`, ...inner(s.body)];
      }
      case "if": {
        const lines = [`${indent}if ${this.expr(s.test)}:`, ...inner(s.then)];
        const { otherwise } = s;
        if (otherwise.length === 0) return lines;
        if (otherwise.length === 1 && otherwise[0].does === "if") {
          const [first, ...rest] = this.statement(otherwise[0], indent);
          return [...lines, `${indent}el${first.trimStart()}`, ...rest];
        }
        return [...lines, `${indent}else:`, ...inner(otherwise)];
      }
    }
  }
}

const TAB = "    ";
const WIDTH = 110;

/** A text as a literal of ASCII letters. */
const textOf = (text: string): string =>
  `"${[...wellFormed(text)]
    .map((letter) => {
      const code = letter.codePointAt(0) ?? 0;
      if (letter === '"' || letter === "\\") return `\\${letter}`;
      if (code >= 32 && code < 127) return letter;
      return code > 0xffff ? `\\U${code.toString(16).padStart(8, "0")}` : `\\u${code.toString(16).padStart(4, "0")}`;
    })
    .join("")}"`;
