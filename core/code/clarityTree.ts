import type { TargetId } from "../names";
import { FEATURE_FACTS, type Feature } from "../readings";
import type { Test } from "../rules";
import { call, type Expr, name, num, op } from "../tree";
import { type CodeEye, labelName, type ReferenceRows } from "./rulesTree";

/** Writes how clearly the newest reading of a sensor is of a target, −1..1, from the features that `feature` gives. */
export function clarityTree(
  eye: CodeEye,
  target: TargetId,
  feature: (feature: Feature) => Expr,
  references: ReferenceRows,
): Expr {
  const { method, rules } = eye.ruleSet;
  if (method === "nearest") return references.asked("reference_margin", eye, feature, name(labelName(target)));
  const clauses = rules.flatMap((rule) => (rule.on && rule.target === target ? rule.any : []));
  const margins = clauses.map(({ all }) => {
    const own = all.map((test) => marginOf(test, feature(test.feature)));
    return own.length === 0 ? num(1) : call("min", num(1), ...own);
  });
  return margins.length === 0 ? num(-1) : call("max", num(-1), ...margins);
}

function marginOf({ feature, from, to, not = false }: Test, value: Expr): Expr {
  const turned: Expr = { is: "bool", value: not };
  if (from === undefined && to === undefined)
    return not ? num(-1) : { is: "choice", test: op(value, "==", value), then: num(1), otherwise: num(-1) };
  const low: Expr = from === undefined ? { is: "minus", of: name("infinity") } : num(from);
  const high = to === undefined ? name("infinity") : num(to);
  return feature === "hue"
    ? call("hue_margin", value, low, high, num(from ?? 0), num(to ?? 0), turned)
    : call("band_margin", value, low, high, num(FEATURE_FACTS[feature].span), turned);
}
