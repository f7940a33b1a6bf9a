import { LightIdSchema } from "../names";
import { inUse, tellUses } from "../project";
import { Light } from "../readings";
import { changed, changeOf, without, withThing } from "./change";
import { editKind } from "./editKind";
import { nameIn } from "./words";

export const addLight = editKind(
  { light: Light },
  {
    words: ({ light }) => `light ${light.name} added`,
    apply: (project, { light }) => ({ ...project, lights: [...project.lights, light] }),
  },
);

export const changeLight = editKind(
  { light: LightIdSchema, change: changeOf(Light) },
  {
    words: ({ light }, { lights }) => `light ${nameIn(lights, light)} changed`,
    apply: (project, { light, change }) => ({
      ...project,
      lights: withThing(project.lights, light, (one) => changed(one, change)),
    }),
  },
);

export const deleteLight = editKind(
  { light: LightIdSchema },
  {
    words: ({ light }, { lights }) => `light ${nameIn(lights, light)} deleted`,
    refused: ({ light }, project) =>
      inUse(nameIn(project.lights, light), tellUses(project, "light", light)) ??
      (project.lights.length === 1 ? "A project needs a light." : undefined),
    apply: (project, { light }) => ({ ...project, lights: without(project.lights, light) }),
  },
);
