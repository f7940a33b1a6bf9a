import type { Expr, Fn, Statement } from "./tree";

/** A function without what cannot be, where some names are known to be true or false for good. */
export function folded(fn: Fn, known: ReadonlyMap<string, boolean>): Fn {
  return { ...fn, body: foldedAll(fn.body, known) };
}

function foldedAll(statements: readonly Statement[], known: ReadonlyMap<string, boolean>): Statement[] {
  return statements.flatMap((s): Statement[] => {
    if (s.does === "if") {
      const test = foldedExpr(s.test, known);
      const [then, otherwise] = [foldedAll(s.then, known), foldedAll(s.otherwise, known)];
      if (test.is === "bool") return test.value ? then : otherwise;
      return then.length + otherwise.length === 0 ? [] : [{ ...s, test, then, otherwise }];
    }
    if (s.does === "while") return [{ ...s, test: foldedExpr(s.test, known), body: foldedAll(s.body, known) }];
    if (s.does === "for") return [{ ...s, body: foldedAll(s.body, known) }];
    if ((s.does === "let" || s.does === "set" || s.does === "return") && s.value !== undefined)
      return [{ ...s, value: foldedExpr(s.value, known) } as Statement];
    return [s];
  });
}

function foldedExpr(expr: Expr, known: ReadonlyMap<string, boolean>): Expr {
  if (expr.is === "name") {
    const value = known.get(expr.name);
    return value === undefined ? expr : { is: "bool", value };
  }
  if (expr.is === "not") {
    const of = foldedExpr(expr.of, known);
    return of.is === "bool" ? { is: "bool", value: !of.value } : { is: "not", of };
  }
  if (expr.is !== "op" || (expr.op !== "and" && expr.op !== "or")) return expr;
  const [left, right] = [foldedExpr(expr.left, known), foldedExpr(expr.right, known)];
  // What decides alone decides; what does not is left out.
  const decides = expr.op === "or";
  if (left.is === "bool") return left.value === decides ? left : right;
  if (right.is === "bool" && right.value !== decides) return left;
  return { ...expr, left, right };
}
