import { Table } from "../../names";
import { picture, show } from "./display";
import type { Face, FaceTime } from "./Face";
import { gate } from "./gate";
import { lamp } from "./lamp";
import type { Moved, OutputKind } from "./OutputKind";
import { servo } from "./servo";
import { say, tone, tune } from "./sound";
import { stop, wheels } from "./wheels";

export { degreesAt, type Face, type FaceTime } from "./Face";
export { MAIN_LAMP } from "./lamp";
export type { Moved, OutputKind, OutputNames } from "./OutputKind";

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

/** Has a body do what it is told, as far as that moves anything. */
export const obey = (body: Moved, command: Command): void => outputOf(command).moves?.(command, body);

/** The speeds at which a command has the wheels run, as shares of top speed; undefined where it says nothing to them. */
export function wheelSpeeds(command: Command): { left: number; right: number } | undefined {
  let speeds: { left: number; right: number } | undefined;
  obey(
    {
      command(left, right) {
        speeds = { left: left ?? 0, right: right ?? 0 };
      },
    },
    command,
  );
  return speeds;
}

/** Gives what a robot shows at a time, after what it was told up to then. */
export function faceOf(
  { servos }: { servos: readonly { id: string; at: number }[] },
  told: readonly { t: number; command: Command }[],
  time: FaceTime,
): Face {
  const face: Face = {
    lamps: new Map(),
    display: "",
    picture: null,
    sound: "",
    servos: new Map(servos.map(({ id, at }) => [id, { from: at, to: at, at: 0, degreesPerSecond: 1 }])),
  };
  for (const { t, command } of told) {
    if (t > time.t) break;
    outputOf(command).shows?.(command, t, face, time);
  }
  return face;
}
