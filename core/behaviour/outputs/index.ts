import { Table } from "../../names";
import { picture, show } from "./display";
import { gate } from "./gate";
import { lamp } from "./lamp";
import type { OutputKind } from "./OutputKind";
import { servo } from "./servo";
import { say, tone, tune } from "./sound";
import { stop, wheels } from "./wheels";

export type { OutputKind, OutputNames } from "./OutputKind";

const ALL = [wheels, stop, lamp, tone, tune, say, show, picture, servo, gate] as const;

type CommandOf<K> = K extends OutputKind<infer C, infer _> ? C : never;
type LineOf<K> = K extends OutputKind<infer _, infer L> ? L : never;

/** One thing that the robot is told. Speeds are shares of top speed. */
export type Command = CommandOf<(typeof ALL)[number]>;
/** The same as a line of the protocol. */
export type CommandLine = LineOf<(typeof ALL)[number]>;

/** All that a robot can be told. */
export const OUTPUTS = new Table<OutputKind<Command, CommandLine>>(
  ALL as unknown as OutputKind<Command, CommandLine>[],
);

/** The kind of a command. */
export const outputOf = (command: Command): OutputKind<Command, CommandLine> => OUTPUTS.get(command.kind);

/** The speeds at which a command has the wheels run, as shares of top speed; undefined where it says nothing to them. */
export function wheelSpeeds(command: Command): { left: number; right: number } | undefined {
  if (command.kind === "wheels") return { left: command.left, right: command.right };
  return command.kind === "stop" ? { left: 0, right: 0 } : undefined;
}
