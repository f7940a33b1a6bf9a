import { type Behaviour, namedBehaviour } from "../behaviour";
import type { TargetId } from "../names";
import { placeOf } from "./placeOf";

/** Every target that triggers, conditions and steps name, wherever they stand; what is switched off names none. */
export function targetsNamed(behaviour: Behaviour): Set<TargetId> {
  const found = new Set<TargetId>();
  namedBehaviour(behaviour, (path) => (kind, id) => {
    if (kind === "target" && placeOf(behaviour, path) !== undefined) found.add(id as string as TargetId);
    return id;
  });
  return found;
}
