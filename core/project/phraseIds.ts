import type { NameKind } from "../behaviour";
import type { Path } from "../names";
import type { Named } from "./names";

export const idsOf = (things: readonly { id: string }[]): string[] => things.map((thing) => thing.id);

/** Every id that a phrase can name, with its kind and where it stands. */
export function* phraseIds({
  targets,
  sensors,
  behaviour,
  robot,
}: Named): Generator<{ kind: NameKind; id: string; path: Path }> {
  const { modes, counters, lists, routines } = behaviour;
  const all: [NameKind, readonly string[], Path][] = [
    ["target", idsOf(targets), ["targets"]],
    ["sensor", idsOf(sensors), ["sensors"]],
    ["mode", idsOf(modes), ["behaviour", "modes"]],
    ["counter", counters, ["behaviour", "counters"]],
    ["list", lists, ["behaviour", "lists"]],
    ["routine", idsOf(routines), ["behaviour", "routines"]],
    ["button", robot.buttons, ["robot", "buttons"]],
    ["lamp", robot.lamps, ["robot", "lamps"]],
    ["servo", idsOf(robot.servos), ["robot", "servos"]],
  ];
  for (const [kind, ids, path] of all) for (const [i, id] of ids.entries()) yield { kind, id, path: [...path, i] };
}

/** The ids that a new thing which phrases can name must not have. */
export const takenIds = (project: Named): Set<string> => new Set([...phraseIds(project)].map(({ id }) => id));
