import type { TargetId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";

/** Where a target is used, in words: a target in use cannot be deleted. */
export function usesOf(project: ProjectDocument, target: TargetId): string[] {
  const named = (value: unknown) => JSON.stringify(value).includes(JSON.stringify(target));
  return [
    ...(project.ruleSets.some((set) => set.rules.some((r) => r.target === target)) ? ["a rule"] : []),
    ...project.tapes.filter((t) => t.marks.some((m) => m.target === target)).map((t) => `marks of ${t.name}`),
    ...project.behaviour.modes.filter(named).map((m) => `the mode ${m.name}`),
    ...project.behaviour.routines.filter(named).map((r) => `the routine ${r.id}`),
    ...project.courses.filter(named).map((c) => `the course ${c.name}`),
  ];
}
