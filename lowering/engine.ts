import type { Engine } from "../core/behaviour/engine/Engine";
import type { Expr, Fn, Literal, Part, Statement, Variable } from "../core/tree";
import { type Act, actsIn } from "./acts";
import { constantsOf, type Lowered, lower, type UsedField } from "./lower";
import { World } from "./source";
import { ENGINE_FILES, GIVEN_FILES, KIND_FILES, read } from "./sources";

/** Structs whose fields stay as they are while a behaviour runs. */
const CONSTANT = ["Rows", "MachineRows", "NameRows"];
/** What is called from outside. */
const ROOTS = ["startMoment", "endMoment", "press", "takeLabel", "takeSights"];

/** The engine of behaviours with all kinds of steps, triggers and conditions, for every language. */
export interface LoweredEngine extends Lowered {
  acts: Act[];
  endless: string[];
}

/** Reads the engine as it stands now. @throws NotPlain for what cannot be said in every language */
export function loweredEngine(): LoweredEngine {
  const world = new World([
    ...ENGINE_FILES.map(read),
    ...GIVEN_FILES.map((path) => ({ ...read(path), given: true as const })),
    ...KIND_FILES.map(read),
  ]);
  const { acts, endless, calls, fields, constants } = actsIn(world.files, world, CONSTANT);
  const lowered = lower(world, [...ROOTS, ...calls], CONSTANT);
  for (const { name } of lowered.constants) constants.add(name);
  const all = new Map([...lowered.fields, ...fields].map((field) => [field.name, field]));
  return { ...lowered, constants: constantsOf(world, constants), fields: [...all.values()], acts, endless };
}

/** The numbers of the kinds of rows that a behaviour has, by what they are of and their names. */
export type KindNumbers = ReadonlyMap<string, number>;

/** The parts of a program that is the engine of one behaviour, as it stands before its first moment. */
export function engineParts(lowered: LoweredEngine, engine: Engine, kinds: KindNumbers): Part[] {
  const structs: Readonly<Record<string, object>> = {
    Engine: engine,
    Steadying: engine.steadying,
    Rows: engine.p,
    MachineRows: engine.p.machine,
    NameRows: engine.p.names,
  };
  const variables = lowered.fields.map((field) => variableOf(field, structs[field.struct]));
  const dispatches = dispatchFns(lowered, engine, kinds);
  const own = new Set(dispatches.map(({ name }) => name));
  return [
    { variables: [...lowered.constants, ...variables], fns: [...lowered.fns, ...dispatches] },
    { variables: [], fns: [], given: lowered.given.filter(({ name }) => !own.has(name)) },
  ];
}

function variableOf({ name, field, type, constant }: UsedField, struct: object): Variable {
  const value = (struct as Record<string, unknown>)[field];
  const isArray = ArrayBuffer.isView(value) || Array.isArray(value);
  const all = isArray ? Array.from(value as unknown as ArrayLike<Literal>) : [];
  // An array has one place at least; truths wait in as many as there may be.
  if (isArray && all.length === 0)
    all.push(...new Array<Literal>(type === "text" ? 1 : 99).fill(type === "text" ? "" : 0));
  return { name, type, constant, value: isArray ? all : (value as Literal) };
}

const name = (of: string): Expr => ({ is: "name", name: of });
const int = (value: number): Expr => ({ is: "int", value });
const kindAt: Expr = { is: "at", array: "ROWS", index: name("at") };
const yes = (value: boolean): Expr => ({ is: "bool", value });

/** The functions that choose by the kind of a row. */
function dispatchFns({ acts, endless, given }: LoweredEngine, engine: Engine, kinds: KindNumbers): Fn[] {
  const head = (fn: string) => given.find((one) => one.name === fn) as Fn;
  const when = (number: number, then: Statement): Statement => ({
    does: "if",
    test: { is: "op", op: "==", left: kindAt, right: int(number) },
    then: [then],
    otherwise: [],
  });
  const returns = (value: Expr): Statement => ({ does: "return", value });
  const of = (phase: Act["phase"]) =>
    acts.flatMap((act) => {
      const number = kinds.get(`${act.of} ${act.name}`);
      return act.phase === phase && number !== undefined ? [{ number, expr: act.expr, name: act.name }] : [];
    });
  const call = (expr: Expr): Statement =>
    expr.is === "call" ? { does: "call", call: expr } : { does: "let", name: "nothing", value: expr };
  const does = (fn: string, phase: Act["phase"]): Fn => ({
    ...head(fn),
    body: of(phase).map(({ number, expr }) => when(number, call(expr))),
  });
  const gives = (fn: string, phase: Act["phase"], otherwise: Expr): Fn => ({
    ...head(fn),
    body: [...of(phase).map(({ number, expr }) => when(number, returns(expr))), returns(otherwise)],
  });
  const among = (fn: string, numbers: readonly number[]): Fn => ({
    ...head(fn),
    body: [...numbers.map((number) => when(number, returns(yes(true)))), returns(yes(false))],
  });
  const endlessNumbers = endless.flatMap((own) => kinds.get(`step ${own}`) ?? []);
  const flagged = (flags: Int32Array) => [...flags].flatMap((flag, number) => (flag === 1 ? [number] : []));
  const { byEvents, onEdge, renews, staysDue, answersArrivals } = engine.kinds;
  const all = [
    does("begin_step", "begin"),
    does("during_step", "during"),
    gives("has_ended", "ended", yes(true)),
    does("end_step", "end"),
    among("is_endless", endlessNumbers),
    among("lasts", [...endlessNumbers, ...of("ended").map(({ number }) => number)]),
    gives("judge", "when", name("nan")),
    gives("ask", "ask", yes(false)),
    among("by_events", flagged(byEvents)),
    among("on_edge", flagged(onEdge)),
    among("renews", flagged(renews)),
    among("stays_due", flagged(staysDue)),
    among("answers_arrivals", flagged(answersArrivals)),
  ];
  return all.filter((fn) => fn.name !== undefined);
}
