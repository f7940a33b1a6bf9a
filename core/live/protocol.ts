import * as z from "zod";
import type { Command, PictureName } from "../behaviour";
import { zodProblem } from "../names";

/** The version of the protocol that this program speaks. */
export const PROTOCOL_VERSION = 1;
/** A line has at most so many bytes. */
export const MOST_LINE_BYTES = 64 * 1024;
/** A robot that hears nothing for so long stops by itself, in ms. */
export const SILENCE_MS = 1500;

const Ms = z.number().min(0).max(1e15);
const t = Ms.optional();

/** What a robot says first. */
const Hello = z.object({
  hello: z.literal("perceptum"),
  version: z.number().int(),
  robot: z.string().max(80).optional(),
  /** What each of its sensors reports. */
  sensors: z.record(z.string().max(80), z.string().max(20)).optional(),
  outputs: z.array(z.string().max(80)).max(100).optional(),
});
/** One reading: raw values in wire order, in ms of the robot's clock. */
const Reading = z.object({ s: z.string().min(1).max(80), v: z.array(z.number()).min(1).max(4), t });
/** How far each wheel has gone, in mm. */
const Encoders = z.object({ e: z.tuple([z.number(), z.number()]), t });
const Button = z.object({ button: z.string().min(1).max(80), down: z.boolean(), t });
/** What a camera that finds blobs by itself found in a frame: of each target the largest, in px: left, top, width, height, area. */
const Px = z.number().min(0).max(10_000);
const Blobs = z.object({
  s: z.string().min(1).max(80),
  blobs: z.record(z.string().max(80), z.tuple([Px, Px, Px, Px, z.number().min(0).max(1e8)])),
  t,
});
/** Asks that all up to this time be done, and be answered with `done` and the same number. */
const Ask = z.object({ ask: z.number().int().min(0), t });

/** What a robot says, a line each. */
export const RobotLine = z.union([Hello, Blobs, Reading, Encoders, Button, Ask]);
export type RobotLine = z.infer<typeof RobotLine>;

/** What a robot is told, a line each. */
export const ToRobotLine = z.union([
  z.object({ wheels: z.tuple([z.number(), z.number()]) }),
  z.object({ stop: z.enum(["brake", "coast"]) }),
  z.object({ lamp: z.string(), rgb: z.string().nullable(), blink: z.number() }),
  z.object({ tone: z.number(), ms: z.number() }),
  z.object({ tune: z.array(z.tuple([z.number(), z.number()])) }),
  z.object({ say: z.string() }),
  z.object({ show: z.string() }),
  z.object({ picture: z.string() }),
  z.object({ servo: z.string(), to: z.number(), dps: z.number() }),
  z.object({ gate: z.string(), open: z.boolean() }),
  z.object({ alive: z.number().int() }),
  z.object({ done: z.number().int(), finished: z.boolean().optional() }),
  z.object({ error: z.string(), line: z.number().int() }),
]);
export type ToRobotLine = z.infer<typeof ToRobotLine>;

/** By which property each kind of line is known. */
const KINDS = [
  ["hello", Hello],
  ["blobs", Blobs],
  ["s", Reading],
  ["e", Encoders],
  ["button", Button],
  ["ask", Ask],
] as const;

/** Reads one line of a robot. */
export function readRobotLine(line: string): { message: RobotLine } | { error: string } {
  let parsed: unknown;
  try {
    parsed = JSON.parse(line);
  } catch {
    return { error: "the line is no JSON" };
  }
  if (typeof parsed !== "object" || parsed === null || Array.isArray(parsed))
    return { error: "the line is no JSON object" };
  const kind = KINDS.find(([key]) => key in parsed);
  if (kind === undefined) return { error: "the line says nothing that is known: hello, s, e, button or ask" };
  const read = kind[1].safeParse(parsed);
  if (!read.success) {
    const { place, message } = zodProblem(read.error);
    return { error: place === "" ? message : `${place}: ${message}` };
  }
  return { message: read.data };
}

/** What a robot is told by a command. */
export function lineOf(command: Command): ToRobotLine {
  switch (command.kind) {
    case "wheels":
      return { wheels: [command.left, command.right] };
    case "stop":
      return { stop: command.how };
    case "lamp":
      return { lamp: command.lamp, rgb: command.colour, blink: command.blinkHz };
    case "tone":
      return { tone: command.hertz, ms: command.ms };
    case "tune":
      return { tune: command.tones.map(({ hertz, ms }): [number, number] => [hertz, ms]) };
    case "say":
      return { say: command.text };
    case "show":
      return { show: command.text };
    case "picture":
      return { picture: command.picture };
    case "servo":
      return { servo: command.servo, to: command.degrees, dps: command.degreesPerSecond };
    case "gate":
      return { gate: command.gate, open: command.open };
  }
}

/** The command of a line; undefined where it commands nothing. */
export function commandOf(line: ToRobotLine): Command | undefined {
  if ("wheels" in line) return { kind: "wheels", left: line.wheels[0], right: line.wheels[1] };
  if ("stop" in line) return { kind: "stop", how: line.stop };
  if ("lamp" in line) return { kind: "lamp", lamp: line.lamp, colour: line.rgb, blinkHz: line.blink };
  if ("tone" in line) return { kind: "tone", hertz: line.tone, ms: line.ms };
  if ("tune" in line) return { kind: "tune", tones: line.tune.map(([hertz, ms]) => ({ hertz, ms })) };
  if ("say" in line) return { kind: "say", text: line.say };
  if ("show" in line) return { kind: "show", text: line.show };
  if ("picture" in line) return { kind: "picture", picture: line.picture as PictureName };
  if ("servo" in line) return { kind: "servo", servo: line.servo, degrees: line.to, degreesPerSecond: line.dps };
  if ("gate" in line) return { kind: "gate", gate: line.gate, open: line.open };
  return undefined;
}

/** Reads one line that a robot is told. @throws Error for one that says nothing known */
export const readToRobotLine = (line: string): ToRobotLine => ToRobotLine.parse(JSON.parse(line));

/** A stream of text as its lines; what is longer than a line may be is passed over, and told as null. */
export class LineSplitter {
  private rest = "";
  private passing = false;

  /** @param take hears each line without its end, with its number from 1; null for one that was too long */
  constructor(
    private readonly take: (line: string | null, number: number) => void,
    private number = 0,
  ) {}

  feed(text: string): void {
    let from = 0;
    for (let end = text.indexOf("\n"); end >= 0; end = text.indexOf("\n", from)) {
      this.add(text.slice(from, end));
      this.finish();
      from = end + 1;
    }
    this.add(text.slice(from));
  }

  /** Takes what stands behind the last line's end as a line, too. */
  end(): void {
    if (this.rest !== "" || this.passing) this.finish();
  }

  private add(part: string): void {
    if (this.passing) return;
    this.rest += part;
    // Letters beyond ASCII have more bytes; that many are too long in any case.
    if (this.rest.length > MOST_LINE_BYTES) {
      this.rest = "";
      this.passing = true;
    }
  }

  private finish(): void {
    const line = this.passing ? null : this.rest.replace(/\r$/, "");
    this.rest = "";
    this.passing = false;
    this.number++;
    if (line === null || line.trim() !== "") this.take(line, this.number);
  }
}

/** The JSON Schema of both sides of the protocol, as text. */
export function protocolJsonSchema(): string {
  const side = (schema: z.ZodType, title: string) => ({
    title,
    ...z.toJSONSchema(schema, { io: "input", unrepresentable: "any" }),
    $schema: undefined,
  });
  const schema = {
    $schema: "https://json-schema.org/draft/2020-12/schema",
    title: "A line between a robot and Perceptum",
    $defs: { fromRobot: side(RobotLine, "What a robot says"), toRobot: side(ToRobotLine, "What a robot is told") },
    anyOf: [{ $ref: "#/$defs/fromRobot" }, { $ref: "#/$defs/toRobot" }],
  };
  return `${JSON.stringify(schema, null, 2)}\n`;
}
