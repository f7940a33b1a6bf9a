import { capital } from "../phrases";
import { classifyBlock } from "../rules";
import { type MarkedTape, referencesFromMarks, timeOf } from "../teaching";
import { byLight, type Finding, type FindingKind } from "./finding";

/** A smaller share of lost readings may be strays, or lie between two targets. */
const LOST = 0.2;
/** From this share on the target is as good as never recognised. */
const MOST = 0.5;

/** By the nearest method, marked readings of targets lie nearer to the references of others than to their own. */
export const referencesMiss: FindingKind = {
  code: "references-miss",
  find(scene) {
    const { project } = scene;
    const ids = project.targets.map((t) => t.id);
    return project.ruleSets.flatMap((set): Finding[] => {
      if (set.method !== "nearest") return [];
      const owned = new Set(set.nearest.references.map((r) => r.target));
      const missed = ids.map((): { tape: MarkedTape; index: number; by: number }[] => []);
      for (const tape of scene.tapesOf(set.id)) {
        // Another finding tells of readings that only lie too far away.
        const labels = classifyBlock({ ...set, nearest: { ...set.nearest, reject: Infinity } }, tape.block, ids);
        for (let index = 0; index < labels.length; index++) {
          const truth = tape.truth[index];
          if (truth > 0 && labels[index] !== truth) missed[truth - 1].push({ tape, index, by: labels[index] });
        }
      }
      const all = scene.marked(set.id);
      const hit = project.targets.flatMap((target, t) =>
        target.kind !== "background" && owned.has(target.id) && all[t] > 0 && missed[t].length >= LOST * all[t]
          ? [t]
          : [],
      );
      if (hit.length === 0) return [];
      const lost = hit.flatMap((t) => missed[t]);
      const marked = hit.reduce((sum, t) => sum + all[t], 0);
      const counts = ids.map((_, t) => lost.filter(({ by }) => by === t + 1).length);
      const usual = counts.indexOf(Math.max(...counts));
      const names = hit.map((t) => project.targets[t].name);
      const most = hit.some((t) => missed[t].length > MOST * all[t]);
      const [{ tape, index }] = lost;
      return [
        {
          code: "references-miss",
          level: most ? "error" : "warning",
          title: `${lost.length} of ${marked} readings of ${names.join(", ")} are not nearest to their references`,
          sentence: `${capital(byLight(project, lost))}.${counts[usual] > 0 ? ` Most lie nearer to ${project.targets[usual].name}.` : ""}${most ? " Where so many are lost, scale, order, white or height are not those the references were made with." : ""} Make references of these marks, or mount the sensor as it was.`,
          place: { stage: "decide", ruleSet: set.id, reading: { tape: tape.head.id, t: timeOf(tape, index) } },
          fix: {
            label: "Make references anew",
            change: { ruleSet: set.id, references: referencesFromMarks(scene.sample(set.id)) },
          },
        },
      ];
    });
  },
};
