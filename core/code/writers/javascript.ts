import {
  allAlike,
  type Expr,
  type Fn,
  type ListPart,
  type Literal,
  num,
  type Operator,
  op,
  quietly,
  type Statement,
  setIn,
  type Variable,
  wellFormed,
  wrapped,
} from "../../tree";
import { BracedPrinter, declarations, TAB, WIDTH } from "./Braced";
import { EACH, type ListStyle, limitsIn, nestedList, wordsIn } from "./list";

/** A name as JavaScript writes names; constants keep their capitals. */
export const camelName = (name: string): string =>
  /^[A-Z]/.test(name) ? name : name.replace(/_([a-z])/g, (_, letter: string) => letter.toUpperCase());

/** How a variable's declaration begins: an array is one for good. */
const declares = ({ constant, value }: Variable): string =>
  `export ${constant || Array.isArray(value) ? "const" : "let"}`;

/** JavaScript (ES2020): one module, of which every function can be imported. */
export class JavaScriptPrinter extends BracedPrinter {
  protected name(name: string): string {
    return camelName(name);
  }

  protected variable(variable: Variable): string[] {
    const { name, type, doc, value, list, inList } = variable;
    const one = (v: Literal) => this.literal(v, type);
    const begins = declares(variable);
    const remark = doc === undefined ? "" : ` /* ${quietly(doc)} */`;
    if (inList) return [`${begins} ${this.name(name)} = []; /* what is said, as the list says it */`];
    if (list !== undefined) {
      this.lists.set(name, list);
      return [
        "",
        "/** The list of what the robot does; ROWS is made of it at the start. */",
        "export const behaviour = () => [",
        ...nestedList(list, TAB, TAB, this.style),
        "];",
      ];
    }
    const line = `${begins} ${this.short(variable)};${remark}`;
    if (!Array.isArray(value) || line.length <= WIDTH) return [line];
    const rows = wrapped(value.map(one), WIDTH - TAB.length).map((row) => `${TAB}${row}`);
    return [`${begins} ${this.name(name)} = [${remark}`, ...rows, "];"];
  }

  protected short({ name, type, value }: Variable): string {
    const one = (v: Literal) => this.literal(v, type);
    const own = `${this.name(name)} = `;
    if (!Array.isArray(value)) return own + one(value as Literal);
    return allAlike(value)
      ? `${own}new Array(${value.length}).fill(${one(value[0])})`
      : `${own}[${value.map(one).join(", ")}]`;
  }
  protected together(all: readonly Variable[]): string[] {
    return declarations(all, declares, (variable) => this.short(variable));
  }

  private readonly lists = new Map<string, readonly ListPart[]>();
  private readonly style: ListStyle = {
    // What is a word of the language itself has a name beside it.
    name: (name) => (name === "do" ? "do_" : camelName(name)),
    cell: (value) => this.cell(value),
    text: (text) => this.literal(text, "text"),
    remark: (text) => `/* ${quietly(text)} */`,
    options: (all) =>
      all.length === 0 ? "" : `, { ${all.map(([name, value]) => `${camelName(name)}: ${value}`).join(", ")} }`,
  };

  /** The words of lists, and the arrays that are made of them: behind everything that they go by. */
  lasts(): string[] {
    return [...this.lists].flatMap(([name, list]) => {
      const words = wordsIn(list).map(({ word, kind, takes, isMadeOf }) => {
        const given = [kind, ...takes.map((arg) => `"${arg}"`)].join(", ");
        return `const ${this.style.name(word)} = ${isMadeOf ? "madeOf" : "word"}(${given});`;
      });
      const limits = limitsIn(list).map(
        ([arg, [least, most]]) => `${arg}: [${[least, most].map((x) => this.cell(num(x))).join(", ")}]`,
      );
      return [
        ...JAVASCRIPT_WORDS,
        `const EACH = { ${Object.entries(EACH)
          .map(([arg, each]) => `${arg}: ${each}`)
          .join(", ")} };`,
        `const LIMITS = { ${limits.join(", ")} };`,
        ...words,
        `export const ${name} = [...behaviour().flat(), DONE, 2];`,
        "",
      ];
    });
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

/** How a list of the behaviour becomes rows; a number that cannot be is said with the line that it stands in. */
const JAVASCRIPT_WORDS = `
/** A word of the list: it makes a row of its kind. */
function word(kind, ...takes) {
  const own = takes.filter((name) => !(name in EACH) && name !== "until");
  return (...given) => {
    const args = own.map((name, i) => {
      const value = typeof given[i] === "string" ? TEXTS.push(given[i]) - 1 : given[i] ?? 0;
      const [least, most] = LIMITS[name] ?? [-Infinity, Infinity];
      if (!(value >= least && value <= most)) throw new RangeError(\`\${name} is \${value}: it must be from \${least} to \${most}\`);
      return value;
    });
    const numbers = given.slice(own.length).filter((one) => !Array.isArray(one));
    for (const name of takes) if (name in EACH) args.push(numbers.length / EACH[name]);
    const behind = [...numbers, ...given.slice(own.length).filter(Array.isArray).flat()];
    if (takes.includes("until") && behind.length > numbers.length) behind.push(END, 2);
    return [kind, 2 + args.length + behind.length, ...args, ...behind];
  };
}

/** A word for a condition that is made of others. */
const madeOf = (kind, ...takes) => (...parts) => [...parts.flat(), kind, 2 + takes.length, ...takes.map(() => parts.length)];

/** A mode: its steps as it is entered. Its responses follow. */
const mode = (steps) => [MODE, 2, ...steps.flat(), END, 2];

/** A response: once a visit or again and again, letting others finish or not, and the way on from it. */
function when(trigger, steps, { onlyIf, once = 1, patient = 1, restMs = 0, then = STAYS } = {}) {
  const guard = onlyIf === undefined ? [] : [ONLY_IF, 4 + onlyIf.length, ...onlyIf, END, 2];
  return [WHEN, 6, once, patient, restMs, then, ...trigger, ...guard, ...steps.flat(), END, 2];
}

/** Steps that others do. */
const routine = (steps) => [ROUTINE, 2, ...steps.flat(), END, 2];

`.split("\n");
