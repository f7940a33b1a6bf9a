import type { RuleSetId } from "../names";
import type { ProjectDocument } from "../project";
import { FEATURE_FACTS, figure, REPORT_KINDS, shownValue, valueShownAs } from "../readings";
import { overlaps, type Spread } from "../teaching";
import { type Finding, type FindingKind, nameOf } from "./finding";

/** Two targets whose readings lie in the same place in every feature: no band tells them apart. */
export const targetsOverlap: FindingKind = {
  code: "targets-overlap",
  find({ project, spread, marked }) {
    return project.ruleSets.flatMap((set) => {
      const counts = marked(set.id);
      const compared = project.targets.filter((_, i) => counts[i] >= 10);
      return overlaps(compared, (target, feature) => spread(set.id, target, feature)).map(
        ({ a, b, feature }): Finding => {
          const range = ({ low, high }: Spread) => {
            const text = (v: number) => figure(feature, valueShownAs(feature, Math.round(shownValue(feature, v))));
            return `${text(low)} to ${text(high)}`;
          };
          const [of, other] = [spread(set.id, a, feature), spread(set.id, b, feature)] as [Spread, Spread];
          return {
            code: "targets-overlap",
            level: "warning",
            title: `${nameOf(project, a)} and ${nameOf(project, b)} read alike`,
            sentence: `The middle 90 % of their readings overlap in every feature; they differ most in ${FEATURE_FACTS[feature].word}: ${range(of)}, and ${range(other)}. Try another height,${canTakeWhite(project, set.id) ? " take white and dark," : ""} compare with references, or paint one of them otherwise.`,
            place: { stage: "sense", target: a, about: b },
          };
        },
      );
    });
  },
};

/** Whether a sensor of the set can take white and dark and has not. */
const canTakeWhite = ({ sensors }: ProjectDocument, set: RuleSetId) =>
  sensors.some((s) => s.ruleSet === set && REPORT_KINDS.get(s.reports).referenced && s.reference === undefined);
