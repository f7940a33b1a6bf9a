import {
  MOST_JOTTED,
  TROUBLE_BESIDES,
  TROUBLE_CANNOT,
  TROUBLE_CIRCLE,
  TROUBLE_FULL,
  TROUBLE_NESTED,
  TROUBLE_NO_ANSWER,
  TROUBLE_NO_GATE,
  TROUBLE_NO_PIECE,
  TROUBLE_NOTHING_FIRED,
  TROUBLE_SENT,
} from "./engine/Engine";
import type { Program } from "./program";

/** What goes wrong while a behaviour runs, in words; a and b are what it is about, as `TROUBLE_…` says. */
export function troubleText(
  { naming, targets, modes }: Program,
  which: number,
  a: number,
  b: number,
  x: number,
): string {
  const texts: Readonly<Record<number, () => string>> = {
    [TROUBLE_CIRCLE]: () => "modes and steps follow each other in a circle without time passing",
    [TROUBLE_NESTED]: () => "steps are nested too deeply",
    [TROUBLE_CANNOT]: () => "this robot cannot do that; the step was skipped",
    [TROUBLE_BESIDES]: () => "too many steps run beside each other",
    [TROUBLE_NOTHING_FIRED]: () => `no target fired that could be jotted to ${naming.lists[a]}`,
    [TROUBLE_FULL]: () => `${naming.lists[a]} is full: it holds ${MOST_JOTTED}`,
    [TROUBLE_NO_ANSWER]: () =>
      `${[...modes.keys()][a]} has no response to ${targets[x - 1]}, which ${naming.lists[b]} holds`,
    [TROUBLE_NO_PIECE]: () => `no piece fired that could be sent to ${naming.crates[a]}`,
    [TROUBLE_NO_GATE]: () => `no gate behind the sensor leads to ${naming.crates[a]}`,
    [TROUBLE_SENT]: () => "too many pieces are under way",
  };
  return texts[which]();
}
