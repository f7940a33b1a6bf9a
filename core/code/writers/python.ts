import {
  allAlike,
  type Fn,
  type ListPart,
  type Literal,
  letsIn,
  name as named,
  num,
  type Operator,
  Printer,
  quietly,
  type Statement,
  setIn,
  type Variable,
  wellFormed,
  wrapped,
} from "../../tree";
import { EACH, type ListStyle, limitsIn, nestedList, wordsIn } from "./list";

/** Python 3.8 and MicroPython: one module. */
export class PythonPrinter extends Printer {
  protected override readonly tightNot = false;

  protected heading(text: string): string[] {
    return [`# --- ${quietly(text)} ---`, ""];
  }

  protected name(name: string): string {
    return name;
  }

  protected variable(variable: Variable): string[] {
    const { name, type, doc, value, list, inList } = variable;
    const one = (v: Literal) => this.literal(v, type);
    const remark = doc === undefined ? "" : `  # ${quietly(doc)}`;
    if (inList) return [`${name} = []  # what is said, as the list says it`];
    if (list !== undefined) {
      this.lists.set(name, list);
      return [
        "",
        "def behaviour():",
        `${TAB}"""The list of what the robot does; ROWS is made of it at the start."""`,
        `${TAB}return [`,
        ...nestedList(list, TAB + TAB, TAB, this.style),
        `${TAB}]`,
        "",
      ];
    }
    const line = `${this.short(variable)}${remark}`;
    if (!Array.isArray(value) || line.length <= WIDTH) return [line];
    return [`${name} = [${remark}`, ...wrapped(value.map(one), WIDTH - TAB.length).map((row) => `${TAB}${row}`), "]"];
  }

  private readonly lists = new Map<string, readonly ListPart[]>();
  private readonly style: ListStyle = {
    name: (name) => name,
    cell: (value) => this.cell(value),
    text: textOf,
    remark: (text) => `# ${quietly(text)}`,
    options: (all) => all.map(([name, value]) => `, ${name}=${value}`).join(""),
  };

  /** The words of lists, and the arrays that are made of them: behind everything that they go by. */
  lasts(): string[] {
    return [...this.lists].flatMap(([name, list]) => {
      const words = wordsIn(list).map(
        ({ word, kind, takes, isMadeOf }) =>
          `${word} = ${isMadeOf ? "made_of" : "word"}(${[kind, ...takes.map((arg) => `"${arg}"`)].join(", ")})`,
      );
      const limits = limitsIn(list).map(
        ([arg, [least, most]]) =>
          `"${arg}": (${[least, most].map((x) => this.cell(x === Number.POSITIVE_INFINITY ? named("infinity") : num(x))).join(", ")})`,
      );
      return [
        ...PYTHON_WORDS,
        `EACH = ${JSON.stringify(EACH).replace(/[:,]/g, "$& ")}`,
        `LIMITS = {${limits.join(", ")}}`,
        ...words,
        `${name} = rows_of(behaviour())`,
        "",
        "",
      ];
    });
  }

  protected short({ name, type, value }: Variable): string {
    const one = (v: Literal) => this.literal(v, type);
    if (!Array.isArray(value)) return `${name} = ${one(value as Literal)}`;
    return allAlike(value)
      ? `${name} = [${one(value[0])}] * ${value.length}`
      : `${name} = [${value.map(one).join(", ")}]`;
  }
  protected together(all: readonly Variable[]): string[] {
    return wrapped(
      all.map((variable) => this.short(variable)),
      WIDTH,
      ";",
    ).map((line) => line.slice(0, -1));
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
        const lines = onOne(`${indent}if ${this.expr(s.test)}:`, inner(s.then));
        const { otherwise } = s;
        if (otherwise.length === 0) return lines;
        if (otherwise.length === 1 && otherwise[0].does === "if") {
          const [first, ...rest] = this.statement(otherwise[0], indent);
          return [...lines, `${indent}el${first.trimStart()}`, ...rest];
        }
        return [...lines, ...onOne(`${indent}else:`, inner(otherwise))];
      }
    }
  }
}

/** How a list of the behaviour becomes rows; a number that cannot be is said with the line that it stands in. */
const PYTHON_WORDS = `
def word(kind, *takes):
    """A word of the list: it makes a row of its kind."""
    own = [name for name in takes if name not in EACH and name != "until"]

    def row(*given):
        args = [number_of(one) for one in given[:len(own)]] + [0] * (len(own) - len(given))
        for name, value in zip(own, args):
            least, most = LIMITS.get(name, (-INFINITY, INFINITY))
            if not least <= value <= most:
                raise ValueError("%s is %s: it must be from %s to %s" % (name, value, least, most))
        numbers = [one for one in given[len(own):] if not isinstance(one, list)]
        args += [len(numbers) // EACH[name] for name in takes if name in EACH]
        behind = numbers + sum([one for one in given[len(own):] if isinstance(one, list)], [])
        if "until" in takes and len(behind) > len(numbers):
            behind += [END, 2]
        return [kind, 2 + len(args) + len(behind)] + args + behind
    return row


def number_of(value):
    """A number as it is; of a text its place in TEXTS."""
    if not isinstance(value, str):
        return value
    TEXTS.append(value)
    return len(TEXTS) - 1


def made_of(kind, *takes):
    """A word for a condition that is made of others."""
    return lambda *parts: sum(parts, []) + [kind, 2 + len(takes)] + [len(parts)] * len(takes)


def mode(steps):
    """A mode: its steps as it is entered. Its responses follow."""
    return [MODE, 2] + sum(steps, []) + [END, 2]


def when(trigger, steps, only_if=None, once=1, patient=1, rest_ms=0, then=STAYS):
    """A response: once a visit or again and again, letting others finish or not, and the way on from it."""
    guard = [] if only_if is None else [ONLY_IF, 4 + len(only_if)] + only_if + [END, 2]
    return [WHEN, 6, once, patient, rest_ms, then] + trigger + guard + sum(steps, []) + [END, 2]


def routine(steps):
    """Steps that others do."""
    return [ROUTINE, 2] + sum(steps, []) + [END, 2]


def rows_of(parts):
    """All rows, one behind the other."""
    return sum(parts, []) + [DONE, 2]

`.split("\n");

/** A head with what stands in it: on one line where that is one, and there is room. */
function onOne(head: string, body: readonly string[]): string[] {
  const line = `${head} ${body[0].trimStart()}`;
  const isSimple = body.length === 1 && !/^\s*(#|if |for |while )/.test(body[0]) && line.length <= WIDTH;
  return isSimple ? [line] : [head, ...body];
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
