import type { ModeId } from "../names";
import { capital } from "../phrases";
import { tellUses, usesOfName } from "./names";
import type { ProjectDocument } from "./schema";

/** Why what is used cannot go; undefined where nothing uses it. */
export const inUse = (name: string, uses: readonly string[]): string | undefined =>
  uses.length === 0 ? undefined : `${capital(name)} is used by ${uses.join(", ")}, so it stays.`;

/** Why a mode cannot be deleted; undefined where it can. */
export function whyModeStays(project: ProjectDocument, mode: ModeId): string | undefined {
  const { behaviour } = project;
  if (behaviour.modes.length === 1) return "A behaviour needs a mode.";
  const modes = behaviour.modes.filter(({ id }) => id !== mode);
  const name = behaviour.modes.find(({ id }) => id === mode)?.name ?? mode;
  return inUse(name, tellUses({ ...project, behaviour: { ...behaviour, modes } }, "mode", mode));
}

/** Why something that the robot has cannot go, as far as phrases name it. */
export const namedInPhrases = (
  project: ProjectDocument,
  kind: "lamp" | "button" | "servo" | "gate" | "crate",
  id: string,
): string | undefined =>
  inUse(`The ${kind} ${id}`, usesOfName(project, kind, id).length > 0 ? ["a step, a condition or a check"] : []);

/** Why a crate cannot be deleted; undefined where it can. */
export function whyCrateStays(project: ProjectDocument, crate: string): string | undefined {
  const { robot } = project;
  if (!("gates" in robot)) return undefined;
  if (crate === robot.end) return "What nobody took goes there.";
  if (robot.gates.some((gate) => gate.crate === crate)) return "A gate leads there.";
  return namedInPhrases(project, "crate", crate);
}
