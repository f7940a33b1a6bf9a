import {
  LineAddress,
  LinkId,
  type LinkState,
  Listens,
  type LiveMoment,
  MOST_PICTURE_BYTES,
  MOST_READINGS_BYTES,
  PICTURES_TAKEN,
  type PictureEvent,
  type ReadingsEvent,
} from "@perceptum/core/live";
import { MAX_DOCUMENT_BYTES } from "@perceptum/core/names";
import { ProjectDocument } from "@perceptum/core/project";
import * as z from "zod";
import { DONE, endpoint, json, RAW, raw } from "./endpoint";

/** A description of a project's sensors has so many bytes at most. */
const MOST_LISTENS_BYTES = 1024 * 1024;
/** An address has so many bytes at most. */
const MOST_ADDRESS_BYTES = 100 * 1024;

/** How readings come by lines: a JSON object each. */
export const LINES_TAKEN = ["application/jsonl", "application/x-ndjson", "application/json", "text/plain"] as const;
/** How readings come as a table. */
export const TABLE_TAKEN = "text/csv";

const link = LinkId;
/** An act has an id that its page makes. */
const act = z.uuid();
const count = z.number().int().min(0);
/** A time of a link, in ms since it was opened. */
const at = z.number();

/** What a page hears of a link that it watches, by the name of the event. */
export const EVENTS = {
  open: z.object({}).describe("the link is open"),
  readings: z
    .object({ s: z.string(), t: z.array(z.number().nullable()), v: z.array(z.array(z.number())), at })
    .describe("readings of one sensor, in the order in which they came") satisfies z.ZodType<ReadingsEvent>,
  picture: z
    .object({ n: count, t: at, lost: count })
    .describe("a picture has come, and waits to be fetched") satisfies z.ZodType<PictureEvent>,
  moment: z
    .object({
      t: z.number(),
      commands: z.array(z.looseObject({ kind: z.string() })),
      notes: z.array(z.looseObject({ t: z.number(), kind: z.string() })),
    })
    .describe("what the robot was told, and what happened") as unknown as z.ZodType<LiveMoment>,
  state: z
    .object({
      act: z.string().nullable(),
      acting: z.boolean(),
      trouble: z.string().nullable(),
      over: z.boolean(),
      counts: z.object({ lines: count, readings: count, refused: count, beyond: count, jumps: count }).nullable(),
    })
    .describe("how the line, or what acts, stands") satisfies z.ZodType<LinkState>,
  missed: z.object({ count }).describe("so many readings were not shown: the page did not keep up"),
  taken: z.object({}).describe("another page has opened the link"),
};
export type EventName = keyof typeof EVENTS;
export type EventOf<K extends EventName> = z.infer<(typeof EVENTS)[K]>;

const openLink = endpoint({
  method: "post",
  path: "opening",
  says: "Opens a link for a page. It is open as long as that page watches it.",
  params: z.object({ link }),
  body: { ...json(Listens), most: MOST_LISTENS_BYTES, read: "here" },
  answers: {
    201: { says: "It is open; `watch` is what it is watched by.", content: json(z.strictObject({ watch: z.uuid() })) },
  },
});

const listenBy = endpoint({
  method: "put",
  path: "listens",
  says: "Has the lines of a link judged by other sensors from now on.",
  params: z.object({ link }),
  body: { ...json(Listens), most: MOST_LISTENS_BYTES, read: "here" },
  answers: { 204: DONE },
  problems: [409],
});

const watchLink = endpoint({
  method: "get",
  path: "events",
  says: `Tells the page that opened a link what comes over it, as events: ${Object.entries(EVENTS)
    .map(([name, schema]) => `\`${name}\`, ${schema.description}`)
    .join("; ")}.`,
  params: z.object({ link }),
  query: z.object({ watch: z.string().optional().describe("what opening the link gave") }),
  answers: { 200: { says: "The events, until the link ends.", content: raw("text/event-stream") } },
  problems: [409],
});

const hearCommands = endpoint({
  method: "get",
  path: "commands",
  says: "Tells a robot that sends by POST what it shall do: lines of the protocol, as events.",
  params: z.object({ link }),
  answers: { 200: { says: "The lines, until the link ends.", content: raw("text/event-stream") } },
  problems: [409],
});

const connectLine = endpoint({
  method: "put",
  path: "wire",
  says: "Opens the line of a link to a robot.",
  params: z.object({ link }),
  body: { ...json(z.object({ address: LineAddress })), most: MOST_ADDRESS_BYTES, read: "here" },
  answers: { 204: { says: "The line is open." } },
  problems: [409, 502],
});

const startAct = endpoint({
  method: "post",
  path: "act",
  says: "Lets a project’s behaviour act on the robot of a link.",
  params: z.object({ link, act }),
  body: { ...json(ProjectDocument), most: MAX_DOCUMENT_BYTES, read: "apart" },
  answers: { 201: { says: "It acts." } },
  problems: [409],
});

const changeAct = endpoint({
  method: "put",
  path: "act",
  says: "Changes the project by which an act goes.",
  params: z.object({ link, act }),
  body: { ...json(ProjectDocument), most: MAX_DOCUMENT_BYTES, read: "apart" },
  answers: { 204: DONE },
  problems: [409],
});

const watchAct = endpoint({
  method: "put",
  path: "watched",
  says: "Says that whoever watches an act is still there. Where that is not said for 1.5 s, the robot is stopped.",
  params: z.object({ link, act }),
  answers: { 204: DONE },
});

const stopAct = endpoint({
  method: "delete",
  path: "act",
  says: "Stops the robot. An act that was stopped never starts again.",
  params: z.object({ link, act }),
  answers: { 204: DONE },
});

const picture = endpoint({
  method: "get",
  path: "picture",
  says: "Gives a picture that waits, once.",
  params: z.object({ link: z.string(), n: z.string() }),
  answers: { 200: { says: "The picture.", content: raw(...PICTURES_TAKEN) } },
});

/** The count of lines that were sent, and of those that were refused. */
export const Taken = z.strictObject({
  readings: count,
  refused: count,
  beyond: count.describe("readings with a value beyond their sensor’s scale; they are taken"),
  errors: z.array(z.strictObject({ error: z.string(), line: count })),
});

const sendReadings = endpoint({
  method: "post",
  path: "sent",
  says: "Takes what a robot sends: JSON lines, a table, or one picture.",
  params: z.object({ link }),
  query: z.object({ sensor: z.string().optional().describe("the sensor of a table that names none") }),
  body: {
    types: [...LINES_TAKEN, TABLE_TAKEN, ...PICTURES_TAKEN],
    schema: RAW,
    most: Math.max(MOST_READINGS_BYTES, MOST_PICTURE_BYTES),
    read: "apart",
  },
  answers: {
    200: { says: "Lines or a table were taken.", content: json(Taken) },
    204: { says: "A picture was taken." },
  },
  problems: [409, 415],
});

export const LINKS = {
  openLink,
  listenBy,
  watchLink,
  hearCommands,
  connectLine,
  startAct,
  changeAct,
  watchAct,
  stopAct,
  picture,
  sendReadings,
};
