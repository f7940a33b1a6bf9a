import { FEATURE_FACTS, REPORT_KINDS } from "../readings";
import { bandSets, type FindingKind, nameOf } from "./finding";

/** A rule tests what its sensor does not report: nothing there passes any test. */
export const featureNotReported: FindingKind = {
  code: "feature-not-reported",
  find(scene) {
    const { project } = scene;
    return bandSets(scene).flatMap((set) =>
      project.sensors
        .filter((sensor) => sensor.ruleSet === set.id && sensor.reports !== "code")
        // Of several sensors of one kind the first speaks for all.
        .filter((sensor, i, all) => all.findIndex((s) => s.reports === sensor.reports) === i)
        .flatMap((sensor) => {
          const given = REPORT_KINDS[sensor.reports].features;
          return set.rules
            .filter((rule) => rule.on)
            .flatMap((rule) => {
              const lacking = rule.any.flatMap((c) => c.all).find((test) => !given.includes(test.feature));
              if (lacking === undefined) return [];
              const any = rule.any.map((c) => ({ all: c.all.filter((test) => given.includes(test.feature)) }));
              const left = any.filter((c) => c.all.length > 0);
              return [
                {
                  code: "feature-not-reported" as const,
                  level: "error" as const,
                  title: `${sensor.name} does not report ${FEATURE_FACTS[lacking.feature].word}`,
                  sentence: `The rule for ${nameOf(project, rule.target)} tests it, so it never matches there. The sensor reports ${REPORT_KINDS[sensor.reports].name}.`,
                  place: { stage: "decide" as const, rule: rule.id, target: rule.target },
                  fix: { label: "Leave the test out", change: { ruleSet: set.id, rule: rule.id, any: left } },
                },
              ];
            });
        }),
    );
  },
};
