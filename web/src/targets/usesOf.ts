import type { TargetId } from "@perceptum/core/names";
import { type ProjectDocument, tellUses } from "@perceptum/core/project";

/** Where a target is used, in words: a target in use cannot be deleted. */
export const usesOf = (project: ProjectDocument, target: TargetId): string[] => tellUses(project, "target", target);
