import * as z from "zod";
import { type Command, type CommandLine, OUTPUTS, outputOf } from "../behaviour";
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

const Alive = z.object({ alive: z.number().int() });
const Done = z.object({ done: z.number().int(), finished: z.boolean().optional() });
const Wrong = z.object({ error: z.string(), line: z.number().int() });

/** What a robot is told, a line each. */
export type ToRobotLine = CommandLine | z.infer<typeof Alive> | z.infer<typeof Done> | z.infer<typeof Wrong>;
const LINES = OUTPUTS.schemasAs((line) => line);
LINES.push(Alive, Done, Wrong);
export const ToRobotLine = z.union(LINES) as z.ZodType<ToRobotLine>;

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
export const lineOf = (command: Command): ToRobotLine => outputOf(command).line(command);

/** The command of a line; undefined where it commands nothing. */
export function commandOf(line: ToRobotLine): Command | undefined {
  const kind = OUTPUTS.entries.find(({ key }) => key in line);
  return kind?.command(line as CommandLine);
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
