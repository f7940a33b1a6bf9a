import { classifyBlock } from "../rules";
import type { Finding, FindingKind } from "./finding";

/** So large a share of lost readings says that the distance is too small. */
const LOST = 0.2;
/** Distances that are tried instead, as a person would set them. */
const TRIED = [0.05, 0.1, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5, 0.7, 1];

/** By the nearest method, marked readings of targets lie farther from every reference than `reject` allows. */
export const rejectSmall: FindingKind = {
  code: "reject-small",
  find(scene) {
    const { project } = scene;
    const ids = project.targets.map((t) => t.id);
    const isTarget = [false, ...project.targets.map((t) => t.kind !== "background")];
    return project.ruleSets.flatMap((set): Finding[] => {
      if (set.method !== "nearest" || set.nearest.references.length === 0) return [];
      const counted = (reject: number) => {
        let [all, unknown, right, taken] = [0, 0, 0, 0];
        for (const tape of scene.tapesOf(set.id)) {
          const labels = classifyBlock({ ...set, nearest: { ...set.nearest, reject } }, tape.block, ids);
          for (let i = 0; i < labels.length; i++) {
            const truth = tape.truth[i];
            if (truth === 0) continue;
            if (!isTarget[truth]) {
              if (isTarget[labels[i]]) taken++;
              continue;
            }
            all++;
            if (labels[i] === 0) unknown++;
            else if (labels[i] === truth) right++;
          }
        }
        return { all, unknown, right, taken };
      };
      const now = counted(set.nearest.reject);
      if (now.all === 0 || now.unknown < LOST * now.all) return [];
      // The least distance that finds nearly all that a greater one finds, and takes no more ground.
      const wider = TRIED.filter((reject) => reject > set.nearest.reject).map((reject) => ({
        reject,
        ...counted(reject),
      }));
      const most = Math.max(now.right, ...wider.map((w) => w.right));
      const best = wider.find((w) => w.right >= 0.98 * most && w.taken <= now.taken + 0.02 * now.all);
      if (most < now.right + LOST * now.all) return [];
      return [
        {
          code: "reject-small",
          level: "error",
          title: `${now.unknown} of ${now.all} readings lie beyond the reject distance`,
          sentence: `Their own reference is nearest, and it is farther away than ${set.nearest.reject}, so they stay unknown.${best === undefined ? "" : ` At ${best.reject}, ${best.right} are judged rightly instead of ${now.right}.`}`,
          place: { stage: "decide", ruleSet: set.id },
          ...(best !== undefined && {
            fix: { label: `Reject beyond ${best.reject}`, change: { ruleSet: set.id, reject: best.reject } },
          }),
        },
      ];
    });
  },
};
