import type { NameOf } from "../behaviour";
import { machineOf } from "./robots";
import type { Simulated } from "./Simulated";

/** The names that people use for what checks and reports speak of: targets, and the crates of a sorter. */
export function nameIn({ targets, robot }: Pick<Simulated, "targets" | "robot">): NameOf {
  const names = new Map<string, string>();
  for (const { id, name } of [...(machineOf(robot).belt?.crates ?? []), ...targets]) names.set(id, name);
  return (id) => names.get(id) ?? id;
}
