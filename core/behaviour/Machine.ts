import type { SensorId } from "../names";

/** The robot as behaviour knows it: what it can be told, what it counts, and by which sensors it sees. */
export interface Machine {
  /** Its sensors; the first is meant where none is named. */
  eyes: readonly SensorId[];
  lamps: readonly string[];
  buttons: readonly string[];
  /** Each servo with its range and where it stands at the start, in degrees. */
  servos: readonly { id: string; from: number; to: number; at: number }[];
  /** Driven wheels by their diameter in mm, two by their track too; missing on a machine that does not drive. */
  wheels?: { trackMm?: number; wheelMm: number };
  /** Top speed in mm/s that a share of 1 stands for; 0 where nothing moves. */
  topSpeed: number;
  /** What stands along its belt; missing on a machine without one. */
  belt?: BeltMachine;
  /** What it can be told beyond what every machine can. */
  can: readonly Ability[];
}

/** What a step may need of a machine: to drive, to turn by two wheels, or to sort by gates. */
export type Ability = "drive" | "turn" | "sort";

/** What needs each of them, in words after “needs”. */
export const ABILITY_WORDS: Readonly<Record<Ability, string>> = {
  drive: "a motor",
  turn: "two wheels to turn by",
  sort: "gates along a belt",
};

/** A gate along a belt: its middle `atMm` from the belt's start; when open it clears `reachMm` of it into a crate. */
export interface Gate {
  id: string;
  /** The name that people know it by; its id where it has none. */
  name?: string | undefined;
  atMm: number;
  crate: string;
  /** To open, and again to close. */
  travelMs: number;
  reachMm: number;
}

export const gateName = ({ id, name }: Pick<Gate, "id" | "name">): string => name ?? id;

/** What behaviour knows of a belt. */
export interface BeltMachine {
  gates: readonly Gate[];
  crates: readonly { id: string; name: string }[];
  /** The crate of what nobody took. */
  end: string;
  /** Where each of the sensors looks, in mm from the belt's start. */
  looksAt: readonly number[];
}
