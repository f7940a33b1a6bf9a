import { TargetIdSchema } from "../names";
import { inUse, tellUses } from "../project";
import { Target } from "../rules";
import { changed, changeOf, without, withThing } from "./change";
import { editKind } from "./editKind";
import { nameIn } from "./words";

export const addTarget = editKind(
  { target: Target },
  {
    words: ({ target }) => `${target.name} added`,
    apply: (project, { target }) => ({ ...project, targets: [...project.targets, target] }),
  },
);

export const changeTarget = editKind(
  { target: TargetIdSchema, change: changeOf(Target) },
  {
    words: ({ target }, { targets }) => `${nameIn(targets, target)} changed`,
    apply: (project, { target, change }) => ({
      ...project,
      targets: withThing(project.targets, target, (one) => changed(one, change)),
    }),
  },
);

export const deleteTarget = editKind(
  { target: TargetIdSchema },
  {
    words: ({ target }, { targets }) => `${nameIn(targets, target)} deleted`,
    refused: ({ target }, project) =>
      inUse(nameIn(project.targets, target), tellUses(project, "target", target)) ??
      (project.targets.length === 1 ? "A project needs one target: its grounds are of it." : undefined),
    apply: (project, { target }) => ({ ...project, targets: without(project.targets, target) }),
  },
);
