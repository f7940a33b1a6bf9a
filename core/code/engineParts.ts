import type { Expr, Fn, Literal, Statement, Type, Variable } from "../tree";
import { MADE } from "./engine.made";

/** A field of a struct of the core that is a variable in code. */
export interface UsedField {
  name: string;
  struct: string;
  field: string;
  type: Type;
  constant: boolean;
}

/** One thing that rows of a kind do, by the kind's name: a call for what a step does, or what it gives. */
export interface Act {
  of: "step" | "trigger" | "condition";
  name: string;
  phase: "begin" | "during" | "ended" | "end" | "when" | "ask";
  expr: Expr;
}

/** The part of the core that robots' code has, too: functions, constants, the fields they go by, and what rows of each kind do. */
export interface LoweredEngine {
  constants: readonly Variable[];
  fields: readonly UsedField[];
  fns: readonly Fn[];
  /** Functions that are called, and that code has by other means. */
  given: readonly Fn[];
  acts: readonly Act[];
  /** The kinds of steps that go on beside the others. */
  endless: readonly string[];
}

const read = <T>(list: string): T[] => MADE[list].map((text) => JSON.parse(text) as T);

/** The part as `npm run lower` wrote it down. */
export const ENGINE: LoweredEngine = {
  constants: read("constants"),
  fields: read("fields"),
  fns: read("fns"),
  given: read("given"),
  acts: read("acts"),
  endless: read("endless"),
};

/** The variables that the fields of some structs are, with the values that they have now. */
export function fieldVariables(structs: Readonly<Record<string, object>>): Variable[] {
  return ENGINE.fields.flatMap(({ name, struct, field, type, constant }): Variable[] => {
    if (structs[struct] === undefined) return [];
    const value = (structs[struct] as Record<string, unknown>)[field];
    if (!ArrayBuffer.isView(value) && !Array.isArray(value)) return [{ name, type, constant, value: value as Literal }];
    const all = Array.from(value as unknown as ArrayLike<Literal>);
    // An array has one place at least.
    return [{ name, type, constant, value: all.length > 0 ? all : [type === "text" ? "" : 0] }];
  });
}

/** The numbers of the kinds of rows that a behaviour has, by what they are of and their names: `step drive`. */
export type KindNumbers = ReadonlyMap<string, number>;

/** Names the number of a kind: `STEP_DRIVE`, `WHEN_ARRIVES`, `IF_SEEN`. */
export const kindName = (kind: string): string => {
  const [of, ...words] = kind.split(" ");
  const named = words.join("_").replace(/[A-Z]/g, (letter) => `_${letter}`);
  return `${{ step: "STEP", trigger: "WHEN", condition: "IF" }[of]}_${named.toUpperCase()}`;
};

const KIND: Expr = { is: "name", name: "kind" };
const yes = (value: boolean): Expr => ({ is: "bool", value });
const returns = (value: Expr): Statement => ({ does: "return", value });
const READS_KIND: Statement = {
  does: "let",
  name: "kind",
  value: { is: "call", fn: "whole", args: [{ is: "at", array: "ROWS", index: { is: "name", name: "at" } }] },
};

/** The functions that choose by the kind of a row, of the kinds that there are. */
export function dispatchFns(kinds: KindNumbers): Fn[] {
  const { acts, endless, given } = ENGINE;
  const called = {
    step: new Map<number, string>(),
    trigger: new Map<number, string>(),
    condition: new Map<number, string>(),
  };
  for (const [kind, number] of kinds) called[kind.split(" ")[0] as Act["of"]].set(number, kindName(kind));
  const of = (phase: Act["phase"]) =>
    acts
      .flatMap((act) => {
        const number = kinds.get(`${act.of} ${act.name}`);
        return act.phase === phase && number !== undefined ? [{ number, expr: act.expr }] : [];
      })
      .sort((a, b) => a.number - b.number);
  const fn = (
    name: string,
    cases: readonly [number, Statement][],
    otherwise: readonly Statement[],
    names = called.step,
  ): Fn => ({
    ...(given.find((one) => one.name === name) as Fn),
    body: cases.length === 0 ? otherwise : [READS_KIND, ...choice(cases, names), ...otherwise],
  });
  const does = (name: string, phase: Act["phase"]) =>
    fn(
      name,
      of(phase).map(({ number, expr }) => [number, { does: "call", call: expr as Extract<Expr, { is: "call" }> }]),
      [],
    );
  const gives = (name: string, phase: Act["phase"], otherwise: Expr, names = called.step) =>
    fn(
      name,
      of(phase).map(({ number, expr }) => [number, returns(expr)]),
      [returns(otherwise)],
      names,
    );
  const among = (name: string, numbers: readonly number[], names = called.step) =>
    fn(
      name,
      numbers.toSorted((a, b) => a - b).map((number) => [number, returns(yes(true))]),
      [returns(yes(false))],
      names,
    );
  const endlessNumbers = endless.flatMap((own) => kinds.get(`step ${own}`) ?? []);
  return [
    does("begin_step", "begin"),
    does("during_step", "during"),
    gives("has_ended", "ended", yes(true)),
    does("end_step", "end"),
    among("is_endless", endlessNumbers),
    among("lasts", [...endlessNumbers, ...of("ended").map(({ number }) => number)]),
    gives("judge", "when", { is: "name", name: "nan" }, called.trigger),
    gives("ask", "ask", yes(false), called.condition),
  ];
}

/** One of some statements by the number of a kind: by halves where they are many, so that few comparisons lead to any. */
function choice(cases: readonly [number, Statement][], names: ReadonlyMap<number, string>): Statement[] {
  const is = (op: "==" | "<", number: number): Expr => ({
    is: "op",
    op,
    left: KIND,
    right: { is: "name", name: names.get(number) as string },
  });
  if (cases.length > 4) {
    const middle = cases.length >> 1;
    return [
      {
        does: "if",
        test: is("<", cases[middle][0]),
        then: choice(cases.slice(0, middle), names),
        otherwise: choice(cases.slice(middle), names),
      },
    ];
  }
  return cases.reduceRight<Statement[]>(
    (otherwise, [number, then]) => [{ does: "if", test: is("==", number), then: [then], otherwise }],
    [],
  );
}
