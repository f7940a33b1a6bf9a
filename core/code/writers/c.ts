import {
  type Expr,
  type Fn,
  type ListArg,
  type ListPart,
  type ListRow,
  type Literal,
  namesIn,
  type Operator,
  quietly,
  type Statement,
  type Type,
  type Variable,
  wellFormed,
  wrapped,
} from "../../tree";
import { BracedPrinter, declarations, TAB, WIDTH } from "./Braced";
import { cellOf } from "./list";

/** Macros by which rows are written: each row says how many cells it has, and a number that cannot be is no constant, which the compiler says with its line. */
export const C_ROWS = [
  "/*",
  " * A row is its kind, how many cells it has, and its own. What stands in SHARE is from -1 to 1, in FROM_0 not below 0:",
  " * the compiler refuses another number, with its line.",
  " */",
  "#define CELLS(...) (sizeof((double[]){ __VA_ARGS__ }) / sizeof(double))",
  "#define ROW(kind, ...) kind, 2 + CELLS(__VA_ARGS__), __VA_ARGS__",
  "#define CONDITION(...) __VA_ARGS__, END, 2",
  "#define SHARE(x) ((x) + 0 * (1 / ((x) >= -1 && (x) <= 1)))",
  "#define FROM_0(x) ((x) + 0 * (1 / ((x) >= 0)))",
  "",
];

/** How a name of a type is declared, up to the name. */
const declared = (type: Type, constant = false): string => {
  if (type === "text") return constant ? "const char *const " : "const char *";
  return `${constant ? "const " : ""}${type === "num" ? "double" : type} `;
};

/** What every file in C begins with: the largest and smallest of two are no functions of C for both types. */
export const C_HELP = [
  "static inline double larger(double a, double b) { return a > b ? a : b; }",
  "static inline double smaller(double a, double b) { return a < b ? a : b; }",
  "static inline int larger_int(int a, int b) { return a > b ? a : b; }",
  "static inline int smaller_int(int a, int b) { return a < b ? a : b; }",
  "",
];

/** C99: one header, of which one file of a program is made. */
export class CPrinter extends BracedPrinter {
  protected name(name: string): string {
    return name;
  }

  /** What functions there are: they may call each other in any order. */
  prototypes(): string[] {
    return this.parts.flatMap(({ fns, given = [] }) => [...fns, ...given].map((fn) => `${this.head(fn)};`));
  }

  /** Variables that functions go by which stand before them. */
  ahead(): string[] {
    const whole = this.parts.flatMap(({ variables }) =>
      variables.flatMap(({ name, type, constant, value, doc }) =>
        constant && type === "int" && doc === undefined && !Array.isArray(value) ? [`${name} = ${value}`] : [],
      ),
    );
    const enums =
      whole.length === 0 ? [] : ["enum {", ...wrapped(whole, WIDTH - TAB.length).map((line) => TAB + line), "};"];
    const later = this.parts.flatMap(({ variables }, i) => {
      const used = new Set(this.parts.slice(0, i).flatMap(({ fns }) => fns.flatMap((fn) => [...namesIn(fn)])));
      return variables.flatMap(({ name, type, constant, value }) => {
        if (constant || !used.has(name)) return [];
        return [`static ${declared(type)}${name}${Array.isArray(value) ? `[${value.length}]` : ""};`];
      });
    });
    return [...enums, ...later];
  }

  /** Rows one behind the other: in each its kind, how many cells it has, and they. */
  private list(list: readonly ListPart[]): string[] {
    const cell = ({ name, value, limits }: ListArg) => {
      const text = cellOf({ name, value }, { cell: (v) => this.cell(v) });
      if (limits === undefined || value.is !== "num" || value.value === 0) return text;
      return limits[0] === -1 && limits[1] === 1 ? `SHARE(${text})` : limits[0] === 0 ? `FROM_0(${text})` : text;
    };
    const condition = (rows: readonly ListRow[]) => `CONDITION(${rows.map(row).join(", ")})`;
    const row = ({ kind, args, behind, conditions, step }: ListRow): string => {
      const cells = [
        ...args.map(cell),
        ...behind.map((value) => this.cell(value)),
        ...(conditions === undefined ? [] : [condition(conditions)]),
        ...(step === undefined ? [] : [row(step)]),
      ];
      return cells.length === 0 ? `${kind}, 2` : `ROW(${kind}, ${cells.join(", ")})`;
    };
    const remark = (doc: string | undefined) => (doc === undefined ? "" : ` /* ${quietly(doc)} */`);
    const parts = list.flatMap(({ begins, doc, args = [], trigger, guard, steps }) => [
      `${TAB}${begins === "when" ? `ROW(WHEN, ${args.map(cell).join(", ")})` : `${begins.toUpperCase()}, 2`},${remark(doc)}`,
      ...(trigger === undefined ? [] : [`${TAB}${row(trigger)},`]),
      ...(guard === undefined ? [] : [`${TAB}ROW(ONLY_IF, ${condition(guard)}),`]),
      ...steps.map((step) => `${TAB}${TAB}${row(step)},${remark(step.doc)}`),
      `${TAB}END, 2,`,
    ]);
    return [...parts, `${TAB}DONE, 2,`];
  }

  private head({ name, takes, gives }: Fn): string {
    const own = takes.map((taken) => `${declared(taken.type)}${taken.name}`).join(", ") || "void";
    return `static inline ${gives === undefined ? "void " : declared(gives)}${name}(${own})`;
  }

  protected variable(variable: Variable): string[] {
    const { name, type, doc, constant, value, list } = variable;
    const one = (v: Literal) => this.literal(v, type);
    const remark = doc === undefined ? "" : ` /* ${quietly(doc)} */`;
    // A whole number that never changes may say how long an array is.
    if (constant && type === "int" && !Array.isArray(value))
      return [`enum { ${name} = ${one(value as Literal)} };${remark}`];
    const begins = `static ${declared(type, constant)}`;
    // A person may add to it.
    if (list !== undefined) return [`${begins}${name}[] = {`, ...this.list(list), "};"];
    const line = `${begins}${this.short(variable)};${remark}`;
    if (!Array.isArray(value) || line.length <= WIDTH) return [line];
    const rows = wrapped(value.map(one), WIDTH - TAB.length).map((row) => `${TAB}${row}`);
    return [`${begins}${name}[${value.length}] = {${remark}`, ...rows, "};"];
  }

  protected short({ name, type, constant, value }: Variable): string {
    const one = (v: Literal) => this.literal(v, type);
    if (!Array.isArray(value)) return `${name} = ${one(value as Literal)}`;
    // What is there for good begins as nothing.
    if (!constant && value.every((v) => Object.is(v, 0) || v === false)) return `${name}[${value.length}]`;
    return `${name}[${value.length}] = { ${value.map(one).join(", ")} }`;
  }
  protected together(all: readonly Variable[]): string[] {
    // Whole numbers that never change stand at the beginning.
    const own = all.filter(({ constant, type, value }) => Array.isArray(value) || !constant || type !== "int");
    const begins = ({ type, constant }: Variable) => `static ${declared(type, constant).trimEnd()}`;
    return declarations(own, begins, (variable) => this.short(variable));
  }

  protected fn(fn: Fn): string[] {
    const used = namesIn(fn);
    return [
      ...(fn.doc === "" ? [] : [`/* ${quietly(fn.doc)} */`]),
      `${this.head(fn)} {`,
      // Every language's function takes the same, whether its rules go by it or not.
      ...fn.takes.flatMap((taken) => (used.has(taken.name) ? [] : [`${TAB}(void)${taken.name};`])),
      ...this.block(fn.body, TAB),
      "}",
    ];
  }

  protected literal(value: Literal, type: Type): string {
    if (type === "text") return textOf(String(value));
    if (type === "bool") return String(value);
    const n = Number(value);
    if (type === "int") return String(n);
    if (Number.isNaN(n)) return "NAN";
    if (!Number.isFinite(n)) return n < 0 ? "-INFINITY" : "INFINITY";
    const text = Object.is(n, -0) ? "-0" : String(n);
    return /[.e]/.test(text) ? text : `${text}.0`;
  }

  protected named(name: string): string {
    return name === "pi" ? this.literal(Math.PI, "num") : name === "nan" ? "NAN" : "INFINITY";
  }

  protected word(op: Operator | "not"): string {
    return { or: "||", and: "&&", not: "!" }[op as string] ?? op;
  }

  protected override expr(expr: Expr, outer = 0): string {
    const fn = expr.is === "call" ? this.ofType(expr) : undefined;
    if (fn === undefined || expr.is !== "call") return super.expr(expr, outer);
    const args = expr.args.map((arg) => this.expr(arg));
    return args.length === 1 ? `${fn}(${args[0]})` : args.reduceRight((rest, arg) => `${fn}(${arg}, ${rest})`);
  }

  /** A function that is another one for whole numbers; undefined for those that are not. */
  private ofType(call: Extract<Expr, { is: "call" }>): string | undefined {
    const names = { max: ["larger", "larger_int"], min: ["smaller", "smaller_int"], abs: ["fabs", "abs"] }[call.fn];
    return names?.[this.types.of(call) === "int" ? 1 : 0];
  }

  protected builtIn(fn: string, args: readonly string[]): string | undefined {
    if (fn === "sqrt" || fn === "fmod" || fn === "floor") return `${fn}(${args.join(", ")})`;
    return fn === "whole" ? `(int)(${args[0]})` : undefined;
  }

  protected made({ name, value }: Extract<Statement, { does: "let" }>): string {
    return `${declared(this.types.of(value))}${name} = ${this.expr(value)}`;
  }

  protected counting(name: string, from: string, to: string): string {
    return `int ${name} = ${from}; ${name} < ${to}; ${name}++`;
  }
}

/** A text as a literal of ASCII letters: its bytes in UTF-8, others than letters by three octal digits. */
const textOf = (text: string): string =>
  `"${encodeURIComponent(wellFormed(text)).replace(/%([0-9A-F]{2})/g, (_, hex: string) => {
    const byte = Number.parseInt(hex, 16);
    return PLAIN.test(String.fromCharCode(byte)) ? String.fromCharCode(byte) : `\\${byte.toString(8).padStart(3, "0")}`;
  })}"`;
const PLAIN = /[ ,:;=+<>%&/^|#-]/;
