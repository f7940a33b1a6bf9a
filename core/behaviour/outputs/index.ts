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

/** What the robot is told. Speeds are shares of top speed. */
export type Command = CommandOf<(typeof ALL)[number]>;
/** What it is told, as a line of the protocol. */
export type CommandLine = LineOf<(typeof ALL)[number]>;

/** All that a robot can be told. */
export const OUTPUTS = new Table<OutputKind<Command, CommandLine>>(
  ALL as unknown as OutputKind<Command, CommandLine>[],
);

/** The kind of a command. */
export const outputOf = (command: Command): OutputKind<Command, CommandLine> => OUTPUTS.get(command.kind);
