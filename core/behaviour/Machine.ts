import type { SensorId } from "../names";

/** The robot as behaviour knows it: what it can be told, what it counts, and by which sensors it sees. */
export interface Machine {
  /** Its sensors; the first is meant where none is named. */
  eyes: readonly SensorId[];
  lamps: readonly string[];
  buttons: readonly string[];
  /** Each servo with its range and where it stands at the start, in degrees. */
  servos: readonly { id: string; from: number; to: number; at: number }[];
  /** Two driven wheels by their track and diameter in mm; missing on a machine that does not turn by them. */
  wheels?: { trackMm: number; wheelMm: number };
  /** Top speed in mm/s that a share of 1 stands for; 0 where nothing moves. */
  topSpeed: number;
}
