import * as z from "zod";
import { Name, type SensorId, SensorIdSchema } from "../names";
import { CHANNEL_FACTS, REPORT_KINDS, Sensor, wireOf } from "../readings";
import { type Link, robotNames } from "./link";
import { MOST_LINE_BYTES, type RobotLine, readRobotLine } from "./protocol";

const { reports, scale, order } = Sensor.shape;

/** The part of a project by which a robot's lines are judged: its sensors, and the names that robots have for them. */
export const Listens = z.object({
  sensors: z.array(z.object({ id: SensorIdSchema, name: Name, reports, scale, order })).max(200),
  names: z.record(z.string().max(80), SensorIdSchema),
});
export type Listens = z.infer<typeof Listens>;
export type ListenedSensor = Listens["sensors"][number];

/** Gives the part of a project by which its robot's lines are judged. */
export const listensOf = (project: { sensors: readonly Sensor[]; links?: readonly Link[] | undefined }): Listens => ({
  sensors: project.sensors.map(({ id, name, reports, scale, order }) => ({ id, name, reports, scale, order })),
  names: Object.fromEntries(robotNames(project)),
});

/** A line that was taken; of a reading its sensor, and what of it lies beyond that one's scale. */
export interface ReadLine {
  message: RobotLine;
  sensor?: ListenedSensor;
  beyond?: string;
}

/** Judges the lines of a robot, by whichever way they come: one answer about each line everywhere. */
export class LineReader {
  private readonly byName: ReadonlyMap<string, ListenedSensor>;
  private readonly ids: string;

  constructor({ sensors, names }: Listens) {
    const byId = new Map<string, ListenedSensor>(sensors.map((sensor) => [sensor.id, sensor]));
    const named = Object.entries(names).flatMap(([name, id]): [string, ListenedSensor][] => {
      const sensor = byId.get(id);
      return sensor === undefined ? [] : [[name, sensor]];
    });
    this.byName = new Map([
      ...named,
      ...sensors.map((sensor): [string, ListenedSensor] => [sensor.name, sensor]),
      ...byId,
    ]);
    this.ids = sensors.map(({ id }) => id).join(", ");
  }

  /** The sensor that is meant by a name, if there is one. */
  sensorOf(name: string): SensorId | undefined {
    return this.byName.get(name)?.id;
  }

  /** Reads a line; null is one that was too long. What is wrong stands in `error`, beside what could still be read. */
  read(line: string | null): ReadLine | { error: string; message?: RobotLine } {
    if (line === null) return { error: `the line has more than ${MOST_LINE_BYTES} bytes` };
    const read = readRobotLine(line);
    if ("error" in read || !("s" in read.message)) return read;
    const { message } = read;
    const sensor = this.byName.get(message.s);
    if (sensor === undefined) return { error: `the project has no sensor ${message.s}; it has ${this.ids}`, message };
    const kind = REPORT_KINDS.get(sensor.reports);
    if ("blobs" in message)
      return kind.ofPixels ? { message, sensor } : { error: `${message.s} is no camera`, message };
    if (kind.ofPixels)
      return { error: `${message.s} is a camera; its pictures do not come as lines, its blobs do`, message };
    const { length } = message.v;
    if (length !== kind.channels.length)
      return { error: `${message.s} reports ${kind.name}: ${kind.channels.length} values, not ${length}`, message };
    const beyond = beyondScale(sensor, message.v);
    return beyond === undefined ? { message, sensor } : { message, sensor, beyond };
  }
}

/** Says which value of a reading lies beyond the sensor's scale, where one does. A hue wraps, and a code has no scale. */
export function beyondScale(
  { name, reports, scale, order }: Pick<Sensor, "name" | "reports" | "scale" | "order">,
  raw: readonly number[],
): string | undefined {
  const { channels, coded } = REPORT_KINDS.get(reports);
  if (coded) return undefined;
  const wire = wireOf({ reports, order });
  for (const [i, channel] of channels.entries()) {
    const ends = scale[channel];
    const value = raw[wire[i]];
    if (ends === undefined || CHANNEL_FACTS[channel].goesRound || (value >= ends[0] && value <= ends[1])) continue;
    return `${value} lies beyond the scale of ${name}, ${ends[0]} to ${ends[1]}`;
  }
  return undefined;
}
