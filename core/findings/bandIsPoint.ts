import { wrapHue } from "../colour";
import { exactShown, FEATURE_FACTS } from "../readings";
import { placeOfTest } from "../rules";
import { type FindingKind, nameOf } from "./finding";

/** A band that holds for one exact value: it works on the desk and fails on the course. */
export const bandIsPoint: FindingKind = {
  code: "band-is-point",
  find: ({ project }) =>
    project.ruleSets.flatMap((ruleSet) =>
      ruleSet.rules
        .filter((rule) => rule.on)
        .flatMap((rule) =>
          rule.any.flatMap(({ id, all }, clause) =>
            all.flatMap((band, test) => {
              if (band.from === undefined || band.from !== band.to || band.not) return [];
              const { unit, step, max } = FEATURE_FACTS[band.feature];
              const figure = `${exactShown(band.feature, band.from)}${unit === "%" ? " %" : unit}`;
              const reach = 10 * step;
              // At the end of its range a band can only grow downwards.
              const up = band.feature === "hue" || band.from + reach <= max;
              const value = up ? band.from + reach : band.from - reach;
              return {
                code: "band-is-point" as const,
                level: "error" as const,
                title: `${nameOf(project, rule.target)} must have ${band.feature} exactly ${figure}`,
                sentence: `Readings never repeat exactly, so the rule will hardly ever match. Give the band some width, for instance ${exactShown(band.feature, reach)}${unit === "%" ? " %" : unit} ${up ? "upwards" : "downwards"}.`,
                place: {
                  stage: "decide" as const,
                  ruleSet: ruleSet.id,
                  rule: rule.id,
                  target: rule.target,
                  about: `${clause} ${test}`,
                },
                fix: {
                  label: "Apply",
                  change: {
                    ruleSet: ruleSet.id,
                    place: {
                      rule: rule.id,
                      clause: id,
                      ...placeOfTest(all, test),
                      end: up ? ("to" as const) : ("from" as const),
                    },
                    value: band.feature === "hue" ? wrapHue(value) : value,
                  },
                },
              };
            }),
          ),
        ),
    ),
};
