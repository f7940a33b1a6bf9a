import { FEATURE_FACTS, REPORT_KINDS } from "../readings";
import type { Test } from "../rules";
import { bandSets, type FindingKind, nameOf } from "./finding";

/** A rule tests what its sensor does not report: nothing there passes any test. */
export const featureNotReported: FindingKind = {
  code: "feature-not-reported",
  find(scene) {
    const { project } = scene;
    return bandSets(scene).flatMap((set) =>
      project.sensors
        .filter((sensor) => sensor.ruleSet === set.id && !REPORT_KINDS.get(sensor.reports).coded)
        // Of several sensors of one kind the first speaks for all.
        .filter((sensor, i, all) => all.findIndex((s) => s.reports === sensor.reports) === i)
        .flatMap((sensor) => {
          const given = REPORT_KINDS.get(sensor.reports).features;
          return set.rules
            .filter((rule) => rule.on)
            .flatMap((rule) => {
              const lacks = (test: Test) => !given.includes(test.feature);
              const lacking = rule.any.flatMap((c) => c.all).find(lacks);
              if (lacking === undefined) return [];
              // Some sensor that shares the rule may report it: then the test must stay.
              const sharing = project.sensors.filter((s) => s.ruleSet === set.id && !REPORT_KINDS.get(s.reports).coded);
              const nowhere = (test: Test) =>
                sharing.every((s) => !REPORT_KINDS.get(s.reports).features.includes(test.feature));
              const any = rule.any
                .map((c) => ({ ...c, all: c.all.filter((test) => !nowhere(test)) }))
                .filter((c) => c.all.length > 0);
              const never = rule.any.every((c) => c.all.some(lacks));
              const one = rule.any.findIndex((c) => c.all.some(lacks)) + 1;
              const what = never ? "so it never matches there" : `so its clause ${one} never matches there`;
              const shared = rule.any
                .flatMap((c) => c.all)
                .filter(lacks)
                .every(nowhere);
              return [
                {
                  code: "feature-not-reported" as const,
                  level: never ? ("error" as const) : ("warning" as const),
                  title: `${sensor.name} does not report ${FEATURE_FACTS[lacking.feature].word}`,
                  sentence: `The rule for ${nameOf(project, rule.target)} tests it, ${what}. The sensor reports ${REPORT_KINDS.get(sensor.reports).name}.${shared ? "" : " Others that share the rules report it: give this sensor rules of its own."}`,
                  place: { stage: "decide" as const, ruleSet: set.id, rule: rule.id, target: rule.target },
                  ...(shared && {
                    fix: { label: "Leave the test out", change: { ruleSet: set.id, rule: rule.id, any } },
                  }),
                },
              ];
            });
        }),
    );
  },
};
