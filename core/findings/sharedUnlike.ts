import { REPORT_KINDS } from "../readings";
import type { Finding, FindingKind } from "./finding";

/** Sensors share rules, and not all of them have white and dark: each reads the same thing a little differently. */
export const sharedUnlike: FindingKind = {
  code: "shared-unlike",
  find({ project }) {
    const mounted = new Set(project.robot.mounts.map((m) => m.sensor));
    return project.ruleSets.flatMap((set): Finding[] => {
      const sharing = project.sensors.filter(
        (s) => s.ruleSet === set.id && mounted.has(s.id) && REPORT_KINDS.get(s.reports).referenced,
      );
      const bare = sharing.filter((s) => s.reference === undefined);
      if (sharing.length < 2 || bare.length === 0) return [];
      const names = bare.map((s) => s.name).join(" and ");
      return [
        {
          code: "shared-unlike",
          level: "warning",
          title: `${names} ${bare.length === 1 ? "has" : "have"} no white and dark`,
          sentence: `${sharing.map((s) => s.name).join(", ")} share the rules “${set.name}”, and no two sensors read alike: bands that fit one may miss with the other. Take white and dark of ${bare.length === 1 ? "it" : "each"}, or give ${bare.length === 1 ? "it" : "them"} rules of ${bare.length === 1 ? "its" : "their"} own.`,
          place: { stage: "sense", about: set.id },
        },
      ];
    });
  },
};
