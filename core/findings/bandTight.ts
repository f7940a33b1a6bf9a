import { wrapHue } from "../colour";
import { capital } from "../phrases";
import { FEATURE_FACTS, type Feature, figure, REPORT_KINDS, shownValue, valueShownAs } from "../readings";
import { type Rule, ruleMatches, type Test, testHolds } from "../rules";
import { type Spread, timeOf } from "../teaching";
import { bandSets, byLight, type Finding, type FindingKind, type FindingScene } from "./finding";

/** A smaller share of lost readings is what steadying is for. */
const SHARE = 0.02;
/** A larger share says that something else is wrong than how wide a band is. */
const MOST = 0.8;

/** Marked readings of a target that none of its rules takes: the bands are too narrow. */
export const bandTight: FindingKind = {
  code: "band-tight",
  find(scene) {
    const { project } = scene;
    return bandSets(scene).flatMap((set) =>
      project.targets.flatMap((target, t): Finding[] => {
        // Codes are no bands: rules that were left over say nothing of them.
        if (project.sensors.every((s) => s.ruleSet !== set.id || REPORT_KINDS.get(s.reports).coded)) return [];
        const rules = set.rules.filter((r) => r.on && r.target === target.id);
        const marked = scene.marked(set.id)[t];
        if (rules.length === 0 || marked === 0 || target.kind === "background") return [];
        const own = rules.map((r) => set.rules.indexOf(r) + 1);
        const lost: { tape: ReturnType<FindingScene["tapesOf"]>[number]; index: number }[] = [];
        scene.tapesOf(set.id).forEach((tape, k) => {
          const labels = scene.ruleLabels(set)[k];
          for (let index = 0; index < labels.length; index++) {
            if (tape.truth[index] !== t + 1 || own.includes(labels[index])) continue;
            // Taken first by another rule, it is not lost by this one's bands.
            if (labels[index] !== 0 && rules.some((r) => ruleMatches(r, tape.block.at(index)))) continue;
            lost.push({ tape, index });
          }
        });
        if (lost.length < SHARE * marked || lost.length === 0) return [];
        const [rule] = rules;
        const clause = rule.any.length === 1 ? rule.any[0] : undefined;
        const failing = clause?.all.map((test) => ({
          test,
          n: lost.filter(({ tape, index }) => !testHolds(test, tape.block.column(test.feature)[index])).length,
        }));
        const [worst] = [...(failing ?? [])].sort((a, b) => b.n - a.n);
        // Where most are lost, it is not the ends of the bands that are wrong.
        const most = lost.length > MOST * marked;
        const wider = clause && rules.length === 1 && !most ? widened(scene, set.id, rule) : undefined;
        // A grey that has no hue, and what a turned test keeps out, no wider band has.
        const hasThem =
          wider &&
          lost.filter(({ tape, index }) =>
            wider.every((test) => testHolds(test, tape.block.column(test.feature)[index])),
          ).length >=
            lost.length - SHARE * marked;
        const keepsOut = wider && hasThem && takesNoOther(scene, set.id, rule, wider, t + 1);
        const verdict = most
          ? " So many are lost that it is rather the sensor’s scale, order, white or height than the bands."
          : keepsOut
            ? ` Widened to ${textOf(wider)} the rule has them, and takes nothing else for it.`
            : wider && !hasThem
              ? " No wider band has them: some have no hue, or a turned test keeps them out. Add a clause for them."
              : " Widened so far as to have them, the rule would take other things too. A second test, the nearest reference or more readings in a row may tell them apart.";
        const [{ tape, index }] = lost;
        return [
          {
            code: "band-tight",
            level: lost.length > 0.2 * marked ? "error" : "warning",
            title: `${lost.length} of ${marked} readings of ${target.name} are not recognised`,
            sentence: `${capital(byLight(project, lost))}.${worst && worst.n > 0 ? ` ${worst.n} of them fail the test of ${FEATURE_FACTS[worst.test.feature].word}.` : ""}${verdict}`,
            place: {
              stage: "decide",
              ruleSet: set.id,
              rule: rule.id,
              target: target.id,
              reading: { tape: tape.head.id, t: timeOf(tape, index) },
            },
            ...(keepsOut && {
              fix: {
                label: "Widen",
                change: { ruleSet: set.id, rule: rule.id, any: [{ ...rule.any[0], all: wider }] },
              },
            }),
          },
        ];
      }),
    );
  },
};

/** The rule's tests let out just so far that they hold for all of the target's readings. */
function widened(scene: FindingScene, set: Parameters<FindingScene["spread"]>[0], rule: Rule): Test[] | undefined {
  const tests = rule.any[0].all.map((test): Test | undefined => {
    if (test.not) return test;
    const spread = scene.spread(set, rule.target, test.feature);
    return spread && letOut(test, spread);
  });
  return tests.every((t) => t !== undefined) ? (tests as Test[]) : undefined;
}

function letOut(test: Test, { min, max }: Spread): Test {
  const { feature } = test;
  const round = (value: number, step: 1 | -1) => outwards(feature, value, step);
  const out = { ...test };
  if (test.from !== undefined && !testHolds(test, min)) out.from = round(min, -1);
  if (test.to !== undefined && !testHolds(test, max)) out.to = round(max, 1);
  return out;
}

/** The whole figure beyond a value. */
function outwards(feature: Feature, value: number, step: 1 | -1): number {
  const shown = shownValue(feature, value);
  const whole = step === 1 ? Math.floor(shown) + 1 : Math.ceil(shown) - 1;
  if (feature === "hue") return wrapHue(whole);
  return valueShownAs(feature, Math.max(0, Math.min(shownValue(feature, FEATURE_FACTS[feature].max), whole)));
}

/** Whether the wider tests take no reading of anything else that the rule did not take before. */
function takesNoOther(
  scene: FindingScene,
  set: Parameters<FindingScene["sample"]>[0],
  rule: Rule,
  wider: Test[],
  truth: number,
): boolean {
  const sample = scene.sample(set);
  const passes = (tests: readonly Test[], i: number) =>
    tests.every((test) => testHolds(test, sample.column(test.feature)[i]));
  for (let i = 0; i < sample.count; i++)
    if (sample.truth[i] !== truth && passes(wider, i) && !passes(rule.any[0].all, i)) return false;
  return true;
}

function textOf(tests: readonly Test[]): string {
  return tests
    .filter((t) => !t.not)
    .map(({ feature, from, to }) => {
      const { word } = FEATURE_FACTS[feature];
      if (from !== undefined && to !== undefined) return `${word} ${figure(feature, from)} to ${figure(feature, to)}`;
      return from !== undefined ? `${word} from ${figure(feature, from)}` : `${word} up to ${figure(feature, to ?? 0)}`;
    })
    .join(", ");
}
