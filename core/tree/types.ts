import type { Expr, Fn, ListPart, ListRow, Part, Statement, Type, Variable } from "./tree";

/** What every language has of its own: what it gives, from what it takes; `same` gives what it takes. */
export const BUILT_IN: Readonly<Record<string, Type | "same">> = {
  max: "same",
  min: "same",
  abs: "same",
  sqrt: "num",
  floor: "num",
  fmod: "num",
  /** A number without a fraction as a whole number. */
  whole: "int",
};

/** Numbers that have a name in every language. */
export const NAMED: Readonly<Record<string, number>> = {
  nan: Number.NaN,
  infinity: Number.POSITIVE_INFINITY,
  pi: Math.PI,
};

/** The types of all that a program names. @throws Error for what is not there, or does not go together */
export class Types {
  private readonly fns = new Map<string, Fn>();
  private readonly variables = new Map<string, Type>();
  private locals = new Map<string, Type>();

  constructor(parts: readonly Part[]) {
    for (const { variables, fns, given = [] } of parts) {
      for (const variable of variables) this.variables.set(variable.name, variable.type);
      for (const fn of [...fns, ...given]) this.fns.set(fn.name, fn);
    }
  }

  /** Begins with a function: its arguments are known, and its variables from where they are made. */
  enter(fn: Fn): void {
    this.locals = new Map(fn.takes.map(({ name, type }) => [name, type]));
  }

  make(name: string, type: Type): void {
    this.locals.set(name, type);
  }

  /** Whether a name is of a variable that is there for good. */
  isLasting(name: string): boolean {
    return !this.locals.has(name) && this.variables.has(name);
  }

  of(expr: Expr): Type {
    switch (expr.is) {
      case "num":
      case "int":
      case "bool":
      case "text":
        return expr.is;
      case "name":
        return expr.name in NAMED ? "num" : this.named(expr.name);
      case "at":
        return this.named(expr.array);
      case "not":
        return "bool";
      case "minus":
        return this.of(expr.of);
      case "choice":
        return wider(this.of(expr.then), this.of(expr.otherwise));
      case "call":
        return this.called(expr);
      case "op": {
        const [left, right] = [this.of(expr.left), this.of(expr.right)];
        if (!"+-*/%".includes(expr.op)) return "bool";
        if (expr.op === "/" && left === "int" && right === "int") throw new Error("whole numbers are not divided");
        return wider(left, right);
      }
    }
  }

  private named(name: string): Type {
    const type = this.locals.get(name) ?? this.variables.get(name);
    if (type === undefined) throw new Error(`there is no ${name}`);
    return type;
  }

  private called({ fn, args }: Extract<Expr, { is: "call" }>): Type {
    const built = BUILT_IN[fn];
    if (built !== undefined) return built === "same" ? args.map((arg) => this.of(arg)).reduce(wider) : built;
    const gives = this.fns.get(fn)?.gives;
    if (gives === undefined) throw new Error(`${fn} gives nothing, or is not there`);
    return gives;
  }
}

const wider = (a: Type, b: Type): Type => (a === b ? a : "num");

/** Every expression of some statements, those within others too. */
function* expressions(statements: readonly Statement[]): Generator<Expr> {
  for (const s of statements) {
    if ("value" in s && s.value !== undefined) yield* within(s.value);
    if ("place" in s) yield* within(s.place);
    if ("test" in s) yield* within(s.test);
    if (s.does === "call") yield* within(s.call);
    if (s.does === "for") {
      yield* within(s.from);
      yield* within(s.to);
    }
    if (s.does === "if") {
      yield* expressions(s.then);
      yield* expressions(s.otherwise);
    }
    if ("body" in s) yield* expressions(s.body);
  }
}

function* within(expr: Expr): Generator<Expr> {
  yield expr;
  if (expr.is === "at") yield* within(expr.index);
  if (expr.is === "call") for (const arg of expr.args) yield* within(arg);
  if (expr.is === "not" || expr.is === "minus") yield* within(expr.of);
  if (expr.is === "op") {
    yield* within(expr.left);
    yield* within(expr.right);
  }
  if (expr.is === "choice") {
    yield* within(expr.test);
    yield* within(expr.then);
    yield* within(expr.otherwise);
  }
}

/** The names of functions and variables that a function goes by. */
export function namesIn({ body }: Pick<Fn, "body">): Set<string> {
  const names = new Set<string>();
  for (const expr of expressions(body)) {
    if (expr.is === "name") names.add(expr.name);
    if (expr.is === "at") names.add(expr.array);
    if (expr.is === "call") names.add(expr.fn);
  }
  return names;
}

/** The rows of a list, those within others too. */
export function rowsIn(list: readonly ListPart[]): ListRow[] {
  const all = (row: ListRow): ListRow[] => [
    row,
    ...(row.conditions ?? []).flatMap(all),
    ...(row.step === undefined ? [] : all(row.step)),
  ];
  return list.flatMap(({ trigger, guard = [], steps }) =>
    [...(trigger === undefined ? [] : [trigger]), ...guard, ...steps].flatMap(all),
  );
}

/** The names of constants that a list goes by. */
function namesInList(list: readonly ListPart[]): string[] {
  const rows = rowsIn(list);
  const values = [...list.flatMap(({ args = [] }) => args), ...rows.flatMap(({ args }) => args)].map((a) => a.value);
  return [
    ...rows.map(({ kind }) => kind),
    ...[...values, ...rows.flatMap(({ behind }) => behind)].flatMap((v) => (v.is === "name" ? [v.name] : [])),
  ];
}

/** The lasting variables of one value that a function sets. */
export function setIn(statements: readonly Statement[]): Set<string> {
  const found = new Set<string>();
  for (const s of statements) {
    if (s.does === "set" && s.place.is === "name") found.add(s.place.name);
    if (s.does === "if") for (const name of setIn([...s.then, ...s.otherwise])) found.add(name);
    if ("body" in s) for (const name of setIn(s.body)) found.add(name);
  }
  return found;
}

/** The variables that a function makes for itself. */
export function letsIn(statements: readonly Statement[]): Set<string> {
  const found = new Set<string>();
  for (const s of statements) {
    if (s.does === "let") found.add(s.name);
    if (s.does === "if") for (const name of letsIn([...s.then, ...s.otherwise])) found.add(name);
    if ("body" in s) for (const name of letsIn(s.body)) found.add(name);
  }
  return found;
}

/** The parts without what nobody calls or goes by, `roots` and what they need apart. */
export function reached(parts: readonly Part[], roots: readonly string[]): Part[] {
  const fns = new Map(parts.flatMap((part) => part.fns.map((fn) => [fn.name, fn])));
  const variables = new Map(parts.flatMap((part) => part.variables.map((variable) => [variable.name, variable])));
  const wanted = new Set<string>();
  const visit = (name: string) => {
    if (wanted.has(name)) return;
    wanted.add(name);
    const fn = fns.get(name);
    if (fn !== undefined) for (const used of namesIn(fn)) visit(used);
    for (const used of namesInList(variables.get(name)?.list ?? [])) visit(used);
  };
  for (const root of roots) visit(root);
  const isWanted = ({ name }: Fn | Variable) => wanted.has(name);
  return parts
    .map((part) => ({
      ...part,
      variables: part.variables.filter(isWanted),
      fns: part.fns.filter(isWanted),
      ...(part.given && { given: part.given.filter(isWanted) }),
    }))
    .filter(({ variables, fns, given = [] }) => variables.length + fns.length + given.length > 0);
}
