import type { ModeId } from "../names";
import type { ProjectDocument } from "../project";

/** The name of a thing of a list; its id where it has gone. */
export const nameIn = (things: readonly { id: string; name: string }[], id: string): string =>
  things.find((thing) => thing.id === id)?.name ?? id;

export const modeName = ({ behaviour }: ProjectDocument, mode: ModeId): string => nameIn(behaviour.modes, mode);
