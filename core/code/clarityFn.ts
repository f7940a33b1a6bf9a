import type { TargetId } from "../names";
import { FEATURE_FACTS, type Feature } from "../readings";
import type { Rule, RuleSet, Test } from "../rules";
import { coded } from "../tree";
import { type CodeEye, places, placeWidth, referencesName } from "./rulesTree";

/** The function that says how clearly the newest reading of a sensor is of a target, in the form of `readFns`. */
export function clarityFn(
  fn: string,
  eye: CodeEye,
  target: TargetId,
  label: (target: TargetId) => string,
  feature: (feature: Feature) => string,
): string {
  const lines =
    eye.ruleSet.method === "nearest"
      ? byReferences(eye, target, label, feature)
      : byBands(eye.ruleSet.rules, target, feature);
  return `fn ${fn}(): num
  ${JSON.stringify(`How clearly the newest reading of ${eye.sensor.id} is of ${target}, -1 to 1.`)}
  if not has_read[${eye.index}]
    return nan
${lines.map((line) => `  ${line}`).join("\n")}
`;
}

function byBands(rules: RuleSet["rules"], target: TargetId, feature: (feature: Feature) => string): string[] {
  const own = rules.filter((rule: Rule) => rule.on && rule.target === target);
  const margins = own.flatMap(({ any }) =>
    any.map(({ all }) => ["1.0", ...all.map((test) => marginOf(test, feature(test.feature)))]),
  );
  return [
    "let best = -1.0",
    ...margins.map((least) => `best = max(best, ${least.length > 1 ? `min(${least.join(", ")})` : least[0]})`),
    "return best",
  ];
}

function marginOf({ feature, from, to, not = false }: Test, value: string): string {
  if (from === undefined && to === undefined) return not ? "-1.0" : `(1.0 if ${value} == ${value} else -1.0)`;
  const low = from === undefined ? "-infinity" : coded(from);
  const high = to === undefined ? "infinity" : coded(to);
  return feature === "hue"
    ? `hue_margin(${value}, ${low}, ${high}, ${coded(from ?? 0)}, ${coded(to ?? 0)}, ${not})`
    : `band_margin(${value}, ${low}, ${high}, ${coded(FEATURE_FACTS[feature].span)}, ${not})`;
}

function byReferences(
  { sensor, ruleSet, own }: CodeEye,
  target: TargetId,
  label: (target: TargetId) => string,
  feature: (feature: Feature) => string,
): string[] {
  const all = places({ sensor, ruleSet, own });
  const width = placeWidth(sensor);
  const isOwn = ({ target: of }: { target: TargetId }) => of === target;
  if (!all.some(isOwn)) {
    // Of a sensor's own codes no place is known: it lies nowhere, neither near nor far.
    const lost =
      width === 0 && ruleSet.nearest.references.some((r) => isOwn(r) && r.hue !== undefined && r.val === undefined);
    return [`return ${lost ? "0.0" : "-1.0"}`];
  }
  const hue = width > 1 ? feature("hue") : "";
  const along = (wave: string) =>
    `let ${wave === "cos_of" ? "x" : "y"} = 0.0 if ${hue} != ${hue} else ${feature("sat")} * ${feature("val")} * ${wave}(${hue})`;
  const here =
    width === 1
      ? [`let x = ${feature("reflected")}`]
      : width === 2
        ? [`let x = cos_of(${hue})`, `let y = sin_of(${hue})`]
        : [along("cos_of"), along("sin_of"), `let z = ${feature("val")}`];
  const parts = ["x", "y", "z"].slice(0, width);
  const reject = coded(ruleSet.nearest.reject);
  return [
    ...here,
    "let nearest = infinity",
    "let other = infinity",
    `for i in 0..${all.length}`,
    ...parts.map((part) => `  let d${part} = ${part} - ${referencesName({ ruleSet, sensor }, part.toUpperCase())}[i]`),
    `  let distance = sqrt(${parts.map((part) => `d${part} * d${part}`).join(" + ")})`,
    `  if ${referencesName({ ruleSet, sensor }, "LABEL")}[i] == ${label(target)}`,
    "    nearest = min(nearest, distance)",
    "  else",
    "    other = min(other, distance)",
    "let apart = 1.0",
    "if other < infinity",
    "  apart = 0.0 if nearest + other == 0.0 else (other - nearest) / (other + nearest)",
    `return max(-1.0, min(apart, (${reject} - nearest) / ${reject}))`,
  ];
}
