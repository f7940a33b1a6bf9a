import type { TargetId } from "../names";
import type { ProjectDocument } from "../project";
import type { Course, Shape } from "../world";

/** The least and the greatest extent of a shape in mm. */
export function extentOf(shape: Shape): { least: number; greatest: number } {
  if ("disc" in shape) return { least: shape.disc, greatest: shape.disc };
  if ("rect" in shape) return { least: Math.min(...shape.rect), greatest: Math.max(...shape.rect) };
  const span = (k: 0 | 1) => {
    const all = shape.polygon.map((p) => p[k]);
    return Math.max(...all) - Math.min(...all);
  };
  return { least: Math.min(span(0), span(1)), greatest: Math.max(span(0), span(1)) };
}

const isOf = (patch: Course["patches"][number], target: TargetId) =>
  typeof patch.target === "string" ? patch.target === target : patch.target.oneOf.includes(target);

/** The patches of a target on all courses. */
export function patchesOf(project: ProjectDocument, target: TargetId): { course: Course; shape: Shape }[] {
  return project.courses.flatMap((course) =>
    course.patches.filter((patch) => isOf(patch, target)).map(({ shape }) => ({ course, shape })),
  );
}

/** The greatest extent of any patch of a target, in mm; 0 where there is none. */
export function longestPatch(project: ProjectDocument, target: TargetId): number {
  return Math.max(0, ...patchesOf(project, target).map(({ shape }) => extentOf(shape).greatest));
}
