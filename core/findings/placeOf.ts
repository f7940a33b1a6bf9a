import type { Behaviour } from "../behaviour";
import type { FindingPlace } from "./finding";

/** Where a path of the behaviour leads; undefined inside a response that is off. */
export function placeOf(
  { modes }: Behaviour,
  [part, m, list, r]: readonly (string | number)[],
): FindingPlace | undefined {
  if (part !== "modes") return { stage: "act" };
  const mode = modes[Number(m)];
  if (list !== "responses") return { stage: "act", mode: mode.id };
  const response = mode.responses[Number(r)];
  return response.on ? { stage: "act", mode: mode.id, response: response.id } : undefined;
}
