import { wrapHue } from "../colour";
import { exactShown, FEATURE_FACTS } from "../readings";
import { type FindingKind, nameOf } from "./finding";

/** A band that holds for one exact value: it works on the desk and fails on the course. */
export const bandIsPoint: FindingKind = {
  code: "band-is-point",
  find: ({ project }) =>
    project.ruleSets.flatMap((ruleSet) =>
      ruleSet.rules.flatMap((rule) =>
        rule.any.flatMap(({ all }, clause) =>
          all.flatMap((band, test) => {
            if (band.from === undefined || band.from !== band.to || band.not) return [];
            const { unit, step, max } = FEATURE_FACTS[band.feature];
            const figure = `${exactShown(band.feature, band.from)}${unit === "%" ? " %" : unit}`;
            const wider = band.from + 10 * step;
            return {
              code: "band-is-point" as const,
              level: "error" as const,
              title: `${nameOf(project, rule.target)} must have ${band.feature} exactly ${figure}`,
              sentence: `Readings never repeat exactly, so the rule will hardly ever match. Give the band some width, for instance ${exactShown(band.feature, 10 * step)}${unit === "%" ? " %" : unit} upwards.`,
              place: { stage: "decide" as const, rule: rule.id, target: rule.target },
              fix: {
                label: "Apply",
                change: {
                  ruleSet: ruleSet.id,
                  place: { rule: rule.id, clause, test, end: "to" as const },
                  value: band.feature === "hue" ? wrapHue(wider) : Math.min(max, wider),
                },
              },
            };
          }),
        ),
      ),
    ),
};
