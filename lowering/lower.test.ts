import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import * as arithmetic from "../core/arithmetic";
import { JavaScriptPrinter } from "../core/code/writers/javascript";
import * as colour from "../core/colour";
import { type Fn, reached, type Variable } from "../core/tree";
import { lower, NotPlain, snaked } from "./lower";
import { madeFile } from "./made";
import { MADE } from "./sources";

const lowered = (text: string, ...wanted: string[]) => lower([{ path: "some.ts", text }], wanted);
/** Functions as they run in JavaScript. */
function asRun({ constants, fns }: { constants: readonly Variable[]; fns: readonly Fn[] }) {
  const text = new JavaScriptPrinter([{ variables: constants, fns }]).print().join("\n");
  const names = fns.map(({ name }) => name.replace(/_([a-z])/g, (_, letter: string) => letter.toUpperCase()));
  // What the program itself printed is run here, as a robot would.
  return new Function(`${text.replaceAll("export ", "")}\nreturn { ${names.join(", ")} };`)() as Record<
    string,
    (...args: unknown[]) => unknown
  >;
}

describe("functions that are read into the tree", () => {
  it("mean there what they mean here", () => {
    const text = `
const HALF = 1 / 2;
/** Counts what lies above, up to so many. */
export function above(x: num, most: int): int {
  let found = 0;
  for (let i = 0; i < most; i++) {
    // Each counts a half more.
    if (x > i * HALF || Number.isNaN(x)) found += 1;
    else break;
  }
  return found;
}
function halved(x: num): num {
  let left = x;
  while (left > 1) left = left / 2;
  return left % 0.75;
}
export function both(x: num, most: int, turned: boolean): num {
  return turned !== (above(x, most) >= 2) ? -halved(Math.abs(x)) : 1;
}`;
    const here = new Function(
      `${text.replace(/: (num|int|boolean)/g, "").replaceAll("export ", "")}\nreturn { above, both };`,
    )();
    const there = asRun(lowered(text, "both"));
    fc.assert(
      fc.property(fc.double({ min: -9, max: 9 }), fc.integer({ min: 0, max: 9 }), fc.boolean(), (x, most, turned) => {
        expect(there.above(x, most)).toBe(here.above(x, most));
        expect(there.both(x, most, turned)).toBe(here.both(x, most, turned));
      }),
    );
  });

  it("come with what they call and go by, and nothing else, with their words", () => {
    const text = `const USED = 2;
const UNUSED = 3;
/**
 * Twice
 * as much.
 */
function twice(x: number): number {
  return x * USED;
}
function idle(x: number): number {
  return x + UNUSED;
}
export const other = (x: string) => x;
export function wanted(of: number): number {
  return twice(of);
}`;
    const { constants, fns } = lowered(text, "wanted");
    expect(constants.map(({ name, value }) => [name, value])).toEqual([["USED", 2]]);
    expect(fns.map(({ name, doc }) => [name, doc])).toEqual([
      ["twice", "Twice as much."],
      ["wanted", ""],
    ]);
  });

  it("tell whole numbers from others, as a language does that must know", () => {
    const { fns } = lowered(
      "function f(i: int, x: num): num {\n  let all = 0;\n  all += i;\n  const y: num = 0;\n  return x > 0 ? y + 1 : Math.max(i, x, 2);\n}",
      "f",
    );
    const [all, , y, gives] = fns[0].body;
    expect(all).toMatchObject({ value: { is: "int" } });
    expect(y).toMatchObject({ value: { is: "num" } });
    expect(gives).toMatchObject({
      value: { then: { right: { is: "num", value: 1 } }, otherwise: { args: [{}, {}, { is: "num", value: 2 }] } },
    });
  });

  it.each([
    ["function f(x: num): num {\n  return x ** 2;\n}", "some.ts:2: the sign is not one of every language: “x ** 2”"],
    ["function f(x: num[]): num {\n  return 1;\n}", "some.ts:1: it has no plain type: “x: num[]”"],
    ["function f(x: num): num {\n  return Math.sin(x);\n}", "some.ts:2: there is no such function: “Math.sin(x)”"],
    ["function f(x: num): num {\n  return y;\n}", "some.ts:2: the name is not known: “y”"],
    [
      "function f(max: num): num {\n  return 1;\n}",
      "some.ts:1: the name means something else in another language: “max: num”",
    ],
    ["function f(i: int): num {\n  if (i) return 1;\n  return 2;\n}", "some.ts:2: a test is true or false: “i”"],
    ["function f(i: int): num {\n  return i / i;\n}", "some.ts:2: whole numbers are not divided: “i / i”"],
    [
      "function f(i: int): num {\n  switch (i) {}\n  return 1;\n}",
      "some.ts:2: this cannot be said in every language: “switch (i) {}”",
    ],
    ["function f(x: num): num {\n  for (const y of x) return y;\n  return 1;\n}", "some.ts:2: this cannot be said"],
    [
      "function f(x: num): num {\n  for (let i = 0; i > x; i--) return i;\n  return 1;\n}",
      "a loop counts a whole number up",
    ],
    ["function f(x: num): num {\n  x;\n  return 1;\n}", "some.ts:2: it does nothing: “x”"],
    ["function f(x: num): num {\n  return +x;\n}", "some.ts:2: the sign is not one of every language: “+x”"],
    ["function f(x: num): num {\n  return `x`;\n}", "some.ts:2: this cannot be said in every language: “`x`”"],
    [
      "function f(x: num): num { return 1; }\nfunction f(y: num): num { return 1; }",
      "some.ts:2: there are two functions f",
    ],
    ["function f(x: num {", "some.ts: "],
  ])("refuse what not every language can say, with its place: %#", (text, message) => {
    const refused = () => lowered(text, "f");
    expect(refused).toThrow(NotPlain);
    expect(refused).toThrow(message);
  });

  it("are asked for by names that there are", () => {
    expect(() => lowered("", "f")).toThrow("no file has a function f");
  });

  it("are those of the core as they stand now: `npm run lower` writes them anew", () => {
    expect(readFileSync(MADE, "utf8")).toBe(madeFile());
  });

  it("give from what is kept, to the last bit, what the core's own give", async () => {
    const { ENGINE } = await import("../core/code/engineParts");
    const names = [
      "hueOf",
      "satOf",
      "lightOf",
      "chromaOf",
      "channelOf",
      "wrapHue",
      "hueDistance",
      "sinOf",
      "cosOf",
      "rounded",
    ];
    const roots = names.map(snaked);
    const [{ variables, fns }] = reached([{ variables: ENGINE.constants, fns: ENGINE.fns }], roots);
    const there = asRun({ constants: variables, fns });
    const here: Record<string, unknown> = { ...arithmetic, ...colour };
    const value = fc.oneof(
      fc.double({ min: 0, max: 1, noNaN: true }),
      fc.constantFrom(0, 0.5, 1, 90, 359.999, -45, 720),
    );
    fc.assert(
      fc.property(fc.constantFrom(...names), fc.tuple(value, value, value, value), (name, args) => {
        expect(there[name](...args)).toBe((here[name] as (...args: number[]) => number)(...args));
      }),
      { numRuns: 1000 },
    );
  });
});
