import type { TargetId } from "../names";
import type { ProjectDocument } from "../project";
import { type Course, laidOut, type Shape } from "../world";

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

/** A plate is passed along its length, however narrow it is. */
export const alongRail = ({ shape, as }: { shape: Shape; as?: "plate" }): Shape =>
  as === "plate" && "rect" in shape ? { rect: [shape.rect[0], shape.rect[0]] } : shape;

/** The patches and plates of a target on all courses. */
export function patchesOf(project: ProjectDocument, target: TargetId): { course: Course; shape: Shape }[] {
  return project.courses.flatMap((course) =>
    laidOut(course)
      .patches.filter((patch) => isOf(patch, target))
      .map((patch) => ({ course, shape: alongRail(patch) })),
  );
}

/** The greatest extent of any patch of a target, in mm; 0 where there is none. */
export function longestPatch(project: ProjectDocument, target: TargetId): number {
  return Math.max(0, ...patchesOf(project, target).map(({ shape }) => extentOf(shape).greatest));
}
