import * as z from "zod";
import { Name, type SensorId, SensorIdSchema } from "../names";
import { readAddress } from "./address";

/** What a link is addressed by: from chance, since a robot's program may keep it. */
export const LinkId = z.string().regex(/^link-[0-9a-f]{12}$/, "a link's id is “link-” and 12 hexadecimal digits");

/** An address of a line that a server can open. */
export const LineAddress = z
  .string()
  .max(300)
  .superRefine((text, context) => {
    const read = readAddress(text);
    if ("problem" in read) context.addIssue({ code: "custom", message: read.problem });
    else if (read.by === "stdio") context.addIssue({ code: "custom", message: "only a terminal has a standard input" });
  });

/** A way from a robot to the program: what it sends is watched on Sense. */
export const Link = z.strictObject({
  id: LinkId,
  name: Name,
  /** `http`: it sends by POST. `line`: the server opens a line to it. `port`: the browser opens a serial port. */
  over: z.discriminatedUnion("kind", [
    z.strictObject({ kind: z.literal("http") }),
    z.strictObject({ kind: z.literal("line"), address: LineAddress }),
    z.strictObject({ kind: z.literal("port"), baud: z.number().int().min(50).max(12_000_000) }),
  ]),
  /** Which of the project's sensors the robot means by names of its own. */
  sensors: z.record(z.string().min(1).max(80), SensorIdSchema).optional(),
});
export type Link = z.infer<typeof Link>;

/** Which sensors are meant by names that robots have of their own. */
export const robotNames = ({ links = [] }: { links?: readonly Link[] | undefined }): ReadonlyMap<string, SensorId> =>
  new Map(links.flatMap(({ sensors = {} }) => Object.entries(sensors)));

/** The pictures that a link takes, as media types. */
export const PICTURES_TAKEN = ["image/png", "image/jpeg", "image/webp"] as const;
/** A picture that is sent has at most so many bytes. */
export const MOST_PICTURE_BYTES = 10 * 1024 * 1024;

/** What a page hears of readings of one sensor that have come over a link, in the order in which they came. */
export interface ReadingsEvent {
  /** The sensor, as the robot names it. */
  s: string;
  /** The robot's clock in ms; null where it does not say. */
  t: (number | null)[];
  /** Raw values in wire order. */
  v: number[][];
  /** When they came, in ms since the link was opened. */
  at: number;
}

/** A body of readings has at most so many bytes. */
export const MOST_READINGS_BYTES = 10 * 1024 * 1024;

/** What is counted while a robot is listened to. */
export interface LiveCounts {
  lines: number;
  readings: number;
  /** Lines that could not be read, and readings of sensors that are not the robot's. */
  refused: number;
  /** Readings with a value beyond their sensor's scale; they are taken. */
  beyond: number;
  /** Leaps of the robot's clock, back or on. */
  jumps: number;
}

/** What a page hears of a link that acts, or of its line. */
export interface LinkState {
  /** The act that this is said of; null where none was begun. */
  act: string | null;
  /** Whether the behaviour acts on the robot. */
  acting: boolean;
  /** What is wrong with the line, as a sentence's beginning; null where nothing is. */
  trouble: string | null;
  /** Whether the line is over. */
  over: boolean;
  counts: LiveCounts | null;
}

/** What a page hears of a picture that has come over a link. */
export interface PictureEvent {
  /** Which one it is, from 1. */
  n: number;
  /** When it came, in ms since the link was opened. */
  t: number;
  /** So many gave way to newer ones so far. */
  lost: number;
}
