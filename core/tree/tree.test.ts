import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { JavaScriptPrinter } from "../code/writers/javascript";
import { PythonPrinter } from "../code/writers/python";
import { call, type Expr, namesIn, type Operator, op, type Part, quietly, reached, readExpr, readFns, Types } from ".";

const part = (source: string): Part => ({ variables: [], fns: readFns(source) });

/** Expressions of whole numbers, numbers and truth values, nested at will. */
const numbers: fc.Arbitrary<Expr> = fc.letrec<{ n: Expr; b: Expr }>((tie) => ({
  n: fc.oneof(
    { depthSize: "small" },
    fc.integer({ min: -9, max: 9 }).map((value): Expr => ({ is: "num", value })),
    fc
      .tuple(fc.constantFrom<Operator>("+", "-", "*"), tie("n"), tie("n"))
      .map(([operator, left, right]) => op(left, operator, right)),
    tie("n").map((of): Expr => ({ is: "minus", of })),
    fc.tuple(fc.constantFrom("fmod", "max", "min"), tie("n"), tie("n")).map(([fn, a, b]): Expr => call(fn, a, b)),
    fc
      .tuple(tie("b"), tie("n"), tie("n"))
      .map(([test, then, otherwise]): Expr => ({ is: "choice", test, then, otherwise })),
  ),
  b: fc.oneof(
    { depthSize: "small" },
    fc
      .tuple(fc.constantFrom<Operator>("<", "<=", ">", ">=", "==", "!="), tie("n"), tie("n"))
      .map(([operator, left, right]) => op(left, operator, right)),
    fc
      .tuple(fc.constantFrom<Operator>("and", "or"), tie("b"), tie("b"))
      .map(([operator, left, right]) => op(left, operator, right)),
    tie("b").map((of): Expr => ({ is: "not", of })),
  ),
})).n;

/** The value of an expression by its form alone. */
function worthOf(expr: Expr): number | boolean {
  const n = (of: Expr) => worthOf(of) as number;
  switch (expr.is) {
    case "num":
      return expr.value;
    case "minus":
      return -n(expr.of);
    case "not":
      return !worthOf(expr.of);
    case "call": {
      const [a, b] = expr.args.map(n);
      return expr.fn === "fmod" ? a % b : expr.fn === "max" ? Math.max(a, b) : Math.min(a, b);
    }
    case "choice":
      return worthOf(expr.test) ? worthOf(expr.then) : worthOf(expr.otherwise);
    case "op": {
      const { left, right } = expr;
      const does: Partial<Record<Operator, () => number | boolean>> = {
        "+": () => n(left) + n(right),
        "-": () => n(left) - n(right),
        "*": () => n(left) * n(right),
        "<": () => n(left) < n(right),
        "<=": () => n(left) <= n(right),
        ">": () => n(left) > n(right),
        ">=": () => n(left) >= n(right),
        "==": () => n(left) === n(right),
        "!=": () => n(left) !== n(right),
        and: () => (worthOf(left) as boolean) && (worthOf(right) as boolean),
        or: () => (worthOf(left) as boolean) || (worthOf(right) as boolean),
      };
      return (does[expr.op] as () => number | boolean)();
    }
    default:
      throw new Error("not drawn");
  }
}

const answering = (value: Expr): Part[] => [
  { variables: [], fns: [{ name: "answer", takes: [], gives: "num", doc: "", body: [{ does: "return", value }] }] },
];

describe("expressions", () => {
  it("are read as they bind", () => {
    const shown = (source: string) => JSON.stringify(readExpr(source));
    expect(shown("a + b * c")).toBe(shown("a + (b * c)"));
    expect(shown("a - b - c")).toBe(shown("(a - b) - c"));
    expect(shown("not a == b and c")).toBe(shown("(not (a == b)) and c"));
    expect(shown("x if a or b else y")).toBe(shown("x if (a or b) else y"));
    expect(readExpr('f(a[i + 1], "x y", 2.0)')).toMatchObject({ is: "call", fn: "f", args: [{}, {}, { is: "num" }] });
    expect(() => readExpr("a +")).toThrow("ends too soon");
    expect(() => readExpr("a $ b")).toThrow("cannot be read");
    expect(() => readExpr("(a")).toThrow("is missing");
    expect(() => readExpr("a b")).toThrow("is too much");
  });

  it("are printed in JavaScript with the meaning of their form, brackets only where they are needed", () => {
    fc.assert(
      fc.property(numbers, (expr) => {
        const source = new JavaScriptPrinter(answering(expr)).print().join("\n").replace("export ", "");
        const own = new Function(`${source}; return answer();`)() as number;
        expect(Object.is(own, worthOf(expr)) || own === worthOf(expr)).toBe(true);
      }),
      { numRuns: 500 },
    );
    const print = (source: string) => new JavaScriptPrinter(answering(readExpr(source))).print()[1].trim();
    expect(print("1.0 - (2.0 - 3.0) * 4.0")).toBe("return 1 - (2 - 3) * 4;");
    expect(print("1.0 - 2.0 - 3.0")).toBe("return 1 - 2 - 3;");
    expect(print("2.0 * fmod(1.0 + 4.0, 2.0 + 1.0)")).toBe("return 2 * ((1 + 4) % (2 + 1));");
  });

  it("are printed in Python by its own words", () => {
    const print = (source: string) =>
      new PythonPrinter(answering(readExpr(source)))
        .print()
        .find((line) => line.includes("return"))
        ?.trim();
    expect(print("1.0 if not (2.0 == 3.0) and true else infinity")).toBe(
      "return 1.0 if not 2.0 == 3.0 and True else INFINITY",
    );
  });
});

describe("functions", () => {
  const source = `
fn first(n: int): int
  "Says so."
  let sum = 0
  for i in 0..n
    # Every second one.
    if i % 2 == 0
      sum += i
    elif i > 7
      break
    else
      second(i)
  while sum > 100
    sum -= 1
  return sum

fn second(n: int)
  last[n] = n
`;

  it("are read with their remarks, chains of choices and shortened sums", () => {
    const [first, second] = readFns(source);
    expect(first).toMatchObject({ name: "first", gives: "int", doc: "Says so.", takes: [{ name: "n", type: "int" }] });
    expect(second.gives).toBeUndefined();
    expect([...namesIn(first)].sort()).toEqual(["i", "n", "second", "sum"]);
    expect(() => readFns("what")).toThrow("is no function");
    expect(() => readFns("fn a()\n  b + c")).toThrow("does nothing");
  });

  it("are left out with their variables where nobody calls them", () => {
    const last = { name: "last", type: "int" as const, constant: false, value: [0] };
    const parts = [{ ...part(source), variables: [last, { ...last, name: "idle" }] }];
    expect(reached(parts, ["first"])[0]).toMatchObject({ variables: [last], fns: [{}, {}] });
    expect(reached(parts, ["second"])[0].fns).toHaveLength(1);
    expect(reached(parts, [])).toEqual([]);
  });

  it("divide numbers only, and name only what is there", () => {
    const types = new Types([part("fn a(n: int, x: num)\n  return")]);
    types.enter(readFns("fn a(n: int, x: num)\n  return")[0]);
    expect(types.of(readExpr("n + 1"))).toBe("int");
    expect(types.of(readExpr("n * x"))).toBe("num");
    expect(() => types.of(readExpr("n / 2"))).toThrow("whole numbers are not divided");
    expect(() => types.of(readExpr("y"))).toThrow("there is no y");
    expect(() => types.of(readExpr("a(1, 2.0)"))).toThrow("gives nothing");
  });
});

it("remarks end nowhere but at their end", () => {
  fc.assert(
    fc.property(fc.string({ unit: "binary" }), (words) => {
      expect(quietly(words)).not.toMatch(/\*\/|\/\*|\\|"|\?\?|[\p{C}\u2028\u2029]/u);
    }),
  );
  expect(quietly("*/*/ ??/ \\\n")).toBe("* / * / ? ?/ ' ");
});
