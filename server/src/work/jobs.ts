import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { MAX_READINGS, type TapeId, zodProblem } from "@perceptum/core/names";
import { picturePart, sizeOfPng } from "@perceptum/core/png";
import {
  joinProject,
  joinReadings,
  type Project,
  ProjectDocument,
  parseJson,
  readProject,
  renew,
  splitProject,
  writeProject,
} from "@perceptum/core/project";
import {
  channelsOnTape,
  cutReadings,
  decodeReadings,
  encodeReadings,
  MOST_FRAME,
  packReadings,
  type RawReadings,
  type Report,
  reportOfReadings,
  textBytesOfReadings,
  writeCsv,
} from "@perceptum/core/readings";
import { type RunChoice, RunError, run, traceJsonLines } from "@perceptum/core/world";

/** A tape of a camera with the size that its frames have. */
export interface FramedTape {
  name: string;
  place: string;
  frames: readonly string[];
  width: number;
  height: number;
}

/** What is wrong with what came in: a sentence, and the place. */
export interface Fault {
  message: string;
  place: string;
}

/** Readings as they are kept: by their content, in parts. */
export interface StoredReadings {
  digest: string;
  report: Report;
  count: number;
  /** How long they are in a project file. */
  textBytes: number;
  parts: Uint8Array<ArrayBuffer>[];
}

/** A frame as it is kept. */
export interface StoredFrame {
  name: string;
  width: number;
  height: number;
  bytes: Uint8Array<ArrayBuffer>;
}

/** A document as it is kept, with what the tables need to know of it. */
export interface StoredDocument {
  text: string;
  name: string;
  /** How long it is in a project file. */
  fileBytes: number;
  tapes: { id: TapeId; name: string; report: Report }[];
  /** Tapes of cameras with the size that their frames have. */
  framed: FramedTape[];
}

/** A project as it is kept. */
export interface StoredProject {
  document: StoredDocument;
  readings: [TapeId, StoredReadings][];
  frames: StoredFrame[];
}

/** A body: its bytes, or the file that it was written to because it is large. */
export type Body = { bytes: Uint8Array } | { file: string };

/** Readings in one part. */
const PART = 65_536;

const bytesOf = (body: Body) => ("bytes" in body ? body.bytes : readFileSync(body.file));
const textOf = (body: Body) => {
  if ("file" in body) return readFileSync(body.file, "utf8");
  const { bytes } = body;
  return Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString("utf8");
};

function parsedDocument(body: Body): { project: ProjectDocument } | { fault: Fault } {
  const json = parseJson(textOf(body));
  if ("problem" in json) return { fault: json.problem };
  // A page of an earlier version may still be open.
  if (typeof json.value === "object" && json.value !== null) renew(json.value);
  const parsed = ProjectDocument.safeParse(json.value);
  return parsed.success ? { project: parsed.data } : { fault: zodProblem(parsed.error) };
}

function storedDocument(document: ProjectDocument): StoredDocument {
  const reports = new Map(document.sensors.map(({ id, reports }) => [id, reports]));
  return {
    text: JSON.stringify(document),
    name: document.name,
    fileBytes: Buffer.byteLength(writeProject(joinReadings(document, new Map()))),
    tapes: document.tapes.map(({ id, name, sensor }) => ({ id, name, report: reports.get(sensor) ?? "rgb" })),
    framed: document.tapes.flatMap(({ name, sensor, frames }, i) => {
      const size = document.sensors.find(({ id }) => id === sensor)?.frame;
      return frames === undefined || size === undefined ? [] : [{ name, place: `tapes[${i}]`, frames, ...size }];
    }),
  };
}

/** A frame that is what its name says, or what is wrong with it. */
function storedFrame(
  name: string,
  bytes: Uint8Array<ArrayBuffer>,
  place: string,
): { frame: StoredFrame } | { fault: Fault } {
  const size = sizeOfPng(bytes);
  if (size === undefined) return { fault: { message: "this is not a PNG", place } };
  const { width, height } = size;
  if (width > MOST_FRAME.width || height > MOST_FRAME.height)
    return {
      fault: {
        message: `the frame has ${width} × ${height} px; at most ${MOST_FRAME.width} × ${MOST_FRAME.height} are kept`,
        place,
      },
    };
  if (createHash("sha256").update(bytes).digest("hex") !== name)
    return { fault: { message: "the frame is not the one that its name says", place } };
  try {
    picturePart(bytes);
  } catch (error) {
    if (error instanceof RangeError) return { fault: { message: error.message, place } };
    throw error;
  }
  return { frame: { name, width, height, bytes } };
}

/** The digest of the bytes that `encodeReadings` would write, without writing them. */
function digestOf(readings: RawReadings): string {
  const head = encodeReadings(cutReadings(readings, 0, 0)).slice();
  new Float64Array(head.buffer)[0] += readings.t.length;
  const hash = createHash("sha256").update(head);
  const names = channelsOnTape(reportOfReadings(readings));
  for (const column of [readings.t, ...names.map((name) => readings.channels[name] as Float64Array)])
    hash.update(new Uint8Array(column.buffer, column.byteOffset, column.byteLength));
  return hash.digest("hex");
}

function storedReadings(readings: RawReadings): StoredReadings {
  const parts: Uint8Array<ArrayBuffer>[] = [];
  for (let from = 0; from === 0 || from < readings.t.length; from += PART)
    parts.push(encodeReadings(cutReadings(readings, from, from + PART)));
  return {
    digest: digestOf(readings),
    report: reportOfReadings(readings),
    count: readings.t.length,
    textBytes: textBytesOfReadings(readings),
    parts,
  };
}

/** The first frame that is not as large as those of its sensor. */
function wrongSize({ framed }: StoredDocument, frames: readonly StoredFrame[]): Fault | undefined {
  const sizes = new Map(frames.map((frame) => [frame.name, frame]));
  for (const { place, frames: names, width, height } of framed)
    for (const [i, name] of names.entries()) {
      const found = sizes.get(name);
      if (found !== undefined && (found.width !== width || found.height !== height))
        return {
          message: `the frame has ${found.width} × ${found.height} px; its sensor's have ${width} × ${height}`,
          place: `${place}.frames[${i}]`,
        };
    }
  return undefined;
}

/** The work that takes long: the same functions here and in the worker. */
export const JOBS = {
  /** Runs a stored document on a course: the lines of the trace, or why there is no such run. */
  run(document: string, choice: RunChoice): { lines: string } | { problem: string } {
    try {
      return { lines: traceJsonLines(run(JSON.parse(document) as ProjectDocument, choice)) };
    } catch (error) {
      if (error instanceof RunError) return { problem: error.message };
      throw error;
    }
  },

  /** Reads a project file. */
  readFile(body: Body): StoredProject | { fault: Fault } {
    const read = readProject(textOf(body));
    return "problem" in read ? { fault: read.problem } : JOBS.take(read.project);
  },

  /** A project that was checked, as it is kept. Its readings and frames are used up. */
  take(project: Project): StoredProject | { fault: Fault } {
    const frames: StoredFrame[] = [];
    for (const [name, png] of Object.entries(project.frames ?? {})) {
      const stored = storedFrame(name, new Uint8Array(Buffer.from(png, "base64")), `frames.${name}`);
      if ("fault" in stored) return stored;
      frames.push(stored.frame);
    }
    delete project.frames;
    const readings = project.tapes.map((tape): [TapeId, StoredReadings] => {
      const stored = storedReadings(packReadings(tape.readings));
      // One tape after the other, and none of them twice: the file may hold millions of numbers.
      tape.readings = { t: [], channels: {} };
      return [tape.id, stored];
    });
    const document = storedDocument(splitProject(project).document);
    const fault = wrongSize(document, frames);
    return fault === undefined ? { document, readings, frames } : { fault };
  },

  /** Reads a document without readings. */
  readDocument(body: Body): { document: StoredDocument } | { fault: Fault } {
    const read = parsedDocument(body);
    return "fault" in read ? read : { document: storedDocument(read.project) };
  },

  /** Reads a document that is to be used, not kept. */
  checkDocument: parsedDocument,

  /** Reads the readings of one tape. */
  readReadings(body: Body): { readings: StoredReadings } | { fault: Fault } {
    try {
      const readings = decodeReadings(bytesOf(body));
      if (readings.t.length > MAX_READINGS)
        return {
          fault: {
            message: `there are ${readings.t.length} readings; a tape holds at most ${MAX_READINGS}`,
            place: "the readings",
          },
        };
      return { readings: storedReadings(readings) };
    } catch (error) {
      if (error instanceof RangeError) return { fault: { message: error.message, place: "the readings" } };
      throw error;
    }
  },

  /** Reads a frame, which must be the one that its name says. */
  readFrame: (body: Body, name: string): { frame: StoredFrame } | { fault: Fault } =>
    storedFrame(name, new Uint8Array(bytesOf(body)), "the frame"),

  /** A project file, as bytes. */
  writeFile(
    document: string,
    readings: readonly [TapeId, Uint8Array][],
    frames: readonly [name: string, bytes: Uint8Array][],
  ): Uint8Array {
    const raw = new Map(readings.map(([tape, bytes]) => [tape, decodeReadings(bytes)]));
    const held = Object.fromEntries(frames.map(([name, bytes]) => [name, Buffer.from(bytes).toString("base64")]));
    return Buffer.from(writeProject(joinProject(JSON.parse(document) as ProjectDocument, raw, held)));
  },

  /** Readings as CSV. */
  writeReadings: (bytes: Uint8Array): Uint8Array => Buffer.from(writeCsv(decodeReadings(bytes))),
};

export type Jobs = typeof JOBS;
