import type { Finding, FindingKind } from "./finding";

/** Fewer marked readings say little about how a target spreads. */
const FEW = 25;

/** A target is marked, but by so few readings that its spread is a guess. */
export const fewReadings: FindingKind = {
  code: "few-readings",
  find({ project, tapes }) {
    const counts = new Uint32Array(project.targets.length + 1);
    for (const { truth } of tapes) for (let i = 0; i < truth.length; i++) counts[truth[i]]++;
    return project.targets.flatMap((target, t): Finding[] => {
      const n = counts[t + 1];
      if (n === 0 || n >= FEW) return [];
      return [
        {
          code: "few-readings",
          level: "hint",
          title: `${target.name} has ${n} marked ${n === 1 ? "reading" : "readings"}`,
          sentence: `How it spreads is a guess with fewer than ${FEW}. Mark a longer stretch, and another visit.`,
          place: { stage: "sense", target: target.id },
        },
      ];
    });
  },
};
