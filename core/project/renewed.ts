import { PICTURE_NAMES } from "../behaviour";
import { withIds } from "./givenIds";

const isPicture = (name: string) => (PICTURE_NAMES as readonly string[]).includes(name);

/**
 * Changes a project as an earlier version wrote it into what is written now: the display showed icons by any name, and
 * shows pictures now. A name that is no picture is shown as a text. A code could be written with noughts before it.
 * What lists hold had no ids. A carrier on a rail was a shuttle.
 * Whatever else is wrong with it stays as it is.
 */
export function renew(project: { behaviour?: unknown; sensors?: unknown; robot?: unknown }): void {
  const visit = (value: unknown): void => {
    if (value === null || typeof value !== "object") return;
    const { step, what } = value as { step?: unknown; what?: { icon?: unknown } };
    if (step === "show" && typeof what?.icon === "string")
      Object.assign(value, { what: isPicture(what.icon) ? { picture: what.icon } : { text: what.icon } });
    for (const inner of Object.values(value)) visit(inner);
  };
  visit(project.behaviour);
  const { robot } = project;
  if (typeof robot === "object" && robot !== null && (robot as { kind?: unknown }).kind === "shuttle")
    Object.assign(robot, { kind: "carrier" });
  if (Array.isArray(project.sensors)) for (const sensor of project.sensors) renewCodes(sensor);
  Object.assign(project, withIds(project));
}

/** Codes without noughts before them; where both forms are there, the plain one counts. */
function renewCodes(sensor: unknown): void {
  const { codes } = (sensor ?? {}) as { codes?: unknown };
  if (typeof codes !== "object" || codes === null) return;
  const own = codes as Record<string, unknown>;
  for (const key of Object.keys(own)) {
    const plain = key.replace(/^0+(?=\d)/, "");
    if (plain === key) continue;
    own[plain] ??= own[key];
    delete own[key];
  }
}
