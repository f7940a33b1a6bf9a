import { allAlike } from "./Printer";
import type { Expr, Fn, Literal, Operator, Statement, Variable } from "./tree";
import { namesIn, setIn } from "./types";

/** Values that stay: of names, and of arrays that have the same one in every place. */
type Known = ReadonlyMap<string, Literal>;

/** Gives the values of constants, for `folded`. */
export const knownOf = (variables: readonly Variable[]): Known =>
  new Map(
    variables.flatMap(({ name, constant, value }): [string, Literal][] => {
      if (!constant) return [];
      if (!Array.isArray(value)) return [[name, value as Literal]];
      return value.length > 0 && allAlike(value) ? [[name, value[0] as Literal]] : [];
    }),
  );

/** A function without what cannot be, where constants are known. */
export function folded(fn: Fn, known: Known): Fn {
  const own = new Map(known);
  for (const { name } of fn.takes) own.delete(name);
  return { ...fn, body: withoutIdle(foldedAll(fn.body, own, setIn(fn.body)), true) };
}

function foldedAll(
  statements: readonly Statement[],
  known: Map<string, Literal>,
  set: ReadonlySet<string>,
): Statement[] {
  const made: Statement[] = [];
  for (const s of statements) {
    for (const one of foldedOne(s, known, set)) {
      made.push(one);
      if (one.does === "return" || one.does === "break" || one.does === "continue") return made;
    }
  }
  return made;
}

function foldedOne(s: Statement, known: Map<string, Literal>, set: ReadonlySet<string>): Statement[] {
  const all = (inner: readonly Statement[]) => foldedAll(inner, new Map(known), set);
  const expr = (e: Expr) => foldedExpr(e, known);
  switch (s.does) {
    case "if": {
      const test = expr(s.test);
      if (test.is === "bool") return all(test.value ? s.then : s.otherwise);
      const [then, otherwise] = [all(s.then), all(s.otherwise)];
      return then.length + otherwise.length === 0 ? [] : [{ ...s, test, then, otherwise }];
    }
    case "while":
      return [{ ...s, test: expr(s.test), body: all(s.body) }];
    case "for":
      known.delete(s.name);
      return [{ ...s, from: expr(s.from), to: expr(s.to), body: all(s.body) }];
    case "let": {
      const value = expr(s.value);
      const literal = literalOf(value, known);
      if (literal === undefined || set.has(s.name)) known.delete(s.name);
      else known.set(s.name, literal);
      return [{ ...s, value }];
    }
    case "set":
      return [{ ...s, value: expr(s.value) }];
    case "return":
      return [s.value === undefined ? s : { ...s, value: expr(s.value) }];
    case "call":
      return [{ ...s, call: { ...s.call, args: s.call.args.map(expr) } }];
    default:
      return [s];
  }
}

/** Gives the value of an expression where it is known. */
function literalOf(expr: Expr, known: Known): Literal | undefined {
  switch (expr.is) {
    case "num":
    case "int":
    case "bool":
    case "text":
      return expr.value;
    case "name":
      return known.get(expr.name);
    case "at":
      return known.get(expr.array);
    case "minus": {
      const of = literalOf(expr.of, known);
      return typeof of === "number" ? -of : undefined;
    }
    default:
      return undefined;
  }
}

const COMPARES: Partial<Record<Operator, (a: Literal, b: Literal) => boolean>> = {
  "==": (a, b) => a === b,
  "!=": (a, b) => a !== b,
  "<": (a, b) => a < b,
  "<=": (a, b) => a <= b,
  ">": (a, b) => a > b,
  ">=": (a, b) => a >= b,
};

/** Truths are put in place; numbers keep their names. */
function foldedExpr(expr: Expr, known: Known): Expr {
  const own = (e: Expr) => foldedExpr(e, known);
  switch (expr.is) {
    case "name":
    case "at": {
      const value = literalOf(expr, known);
      if (typeof value === "boolean") return { is: "bool", value };
      return expr.is === "at" ? { ...expr, index: own(expr.index) } : expr;
    }
    case "not": {
      const of = own(expr.of);
      return of.is === "bool" ? { is: "bool", value: !of.value } : { is: "not", of };
    }
    case "minus":
      return { ...expr, of: own(expr.of) };
    case "call":
      return { ...expr, args: expr.args.map(own) };
    case "choice": {
      const test = own(expr.test);
      if (test.is === "bool") return own(test.value ? expr.then : expr.otherwise);
      return { ...expr, test, then: own(expr.then), otherwise: own(expr.otherwise) };
    }
    case "op":
      return foldedOp({ ...expr, left: own(expr.left), right: own(expr.right) }, known);
    default:
      return expr;
  }
}

function foldedOp(expr: Extract<Expr, { is: "op" }>, known: Known): Expr {
  const { op, left, right } = expr;
  if (op === "and" || op === "or") {
    // What decides alone decides; what does not is left out.
    const decides = op === "or";
    if (left.is === "bool") return left.value === decides ? left : right;
    return right.is === "bool" && right.value !== decides ? left : expr;
  }
  const [a, b] = [literalOf(left, known), literalOf(right, known)];
  const compare = COMPARES[op];
  return compare === undefined || a === undefined || b === undefined ? expr : { is: "bool", value: compare(a, b) };
}

/** A body without variables that nothing after them goes by; where calls may do something, those of them stay. */
export function withoutIdle(body: readonly Statement[], callsDo: boolean): Statement[] {
  const kept: Statement[] = [];
  const isIdle = ({ name, value }: Extract<Statement, { does: "let" }>) =>
    !(callsDo && JSON.stringify(value).includes('"is":"call"')) &&
    !namesIn({ body: kept }).has(name) &&
    !setIn(kept).has(name);
  for (const statement of body.toReversed())
    if (statement.does !== "let" || !isIdle(statement)) kept.unshift(statement);
  return kept;
}
