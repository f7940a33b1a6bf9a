import type * as z from "zod";
import type { Entry } from "../../names";
import type { Face, FaceTime } from "./Face";

/** Names of the robot's parts by the numbers that an engine has for them, and the cells of its rows. */
export interface OutputNames {
  naming: { lamps: readonly string[]; servos: readonly string[]; gates: readonly string[] };
  rows: { rows: ArrayLike<number> };
}

/** A body that moves as it is told: wheels at shares of top speed, null for one that runs out, and gates. */
export interface Moved {
  command(left: number | null, right: number | null): void;
  gate?(gate: string, open: boolean): void;
}

/**
 * All that is known of one kind of command to a robot: how the engine tells it, its line in the protocol both ways, how
 * people read it, what of it lasts, and its text on a robot's side. The engine calls a method of its name (`RobotSide`).
 */
export interface OutputKind<C extends { kind: string } = { kind: string }, L extends object = object> extends Entry {
  /** Its name, and the property by which its line is known. */
  readonly key: C["kind"];
  /** Its line in the protocol: that property, and then what the robot's function takes, in the same order. */
  readonly schema: z.ZodType<L>;
  line(command: C): L;
  command(line: L): C;
  /** The command that the engine tells in numbers. */
  heard(names: OutputNames, ...told: (number | string)[]): C;
  /** It as the conformance table writes it. */
  print(command: C): string;
  /** People are told this of it; nothing where it is seen in how the robot moves. */
  tell?(command: C): string;
  /** The part of the robot that stays as told until it is told otherwise; nothing where it is over by itself. */
  lasts?(command: C): string;
  /** Moves a body; missing where it moves none. */
  moves?(command: C, body: Moved): void;
  /** Changes what the robot shows at a time, told at `at` ms; missing where it shows nothing. */
  shows?(command: C, at: number, face: Face, time: FaceTime): void;
  /** The head of the robot's function, and what hands on to it in names; neutral code. */
  readonly fn: string;
  readonly told: string;
  /** That function as each language delivers it, by the language's key. */
  readonly on: Readonly<Record<string, string>>;
}

/** An entry of the table, with its command and its line. */
export const outputKind = <C extends { kind: string }, L extends object>(entry: OutputKind<C, L>): OutputKind<C, L> =>
  entry;
