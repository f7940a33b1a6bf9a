import type { LightId } from "../names";
import type { Finding, FindingKind } from "./finding";

/** Everything is marked in one light, or a target in fewer lights than the others. */
export const oneLightOnly: FindingKind = {
  code: "one-light-only",
  find({ project, tapes }) {
    const lightsOf = new Map(project.targets.map((t) => [t.id, new Set<LightId | undefined>()]));
    for (const { head } of tapes) for (const { target, light } of head.marks) lightsOf.get(target)?.add(light);
    const all = new Set([...lightsOf.values()].flatMap((lights) => [...lights]));
    const name = (id: LightId | undefined) =>
      project.lights.find((l) => l.id === id)?.name ?? "a light that is not noted";
    if (all.size === 1) {
      const unseen = project.lights.filter((l) => !all.has(l.id)).map((l) => l.name);
      return [
        {
          code: "one-light-only",
          level: unseen.length > 0 ? "warning" : "hint",
          title: `Everything is marked in ${name([...all][0])}`,
          sentence: `Rules made in one light often fail in another.${unseen.length > 0 ? ` The robot will meet ${unseen.join(", ")} too.` : ""} Mark every target and ground in each light, and note which it was.`,
          place: { stage: "sense" },
        },
      ];
    }
    return project.targets.flatMap((target): Finding[] => {
      const own = lightsOf.get(target.id) ?? new Set();
      if (own.size !== 1) return [];
      return [
        {
          code: "one-light-only",
          level: "warning",
          title: `${target.name} is marked in ${name([...own][0])} only`,
          sentence: `Other things are marked in ${all.size} lights. How it reads in the others is not known.`,
          place: { stage: "sense", target: target.id },
        },
      ];
    });
  },
};
