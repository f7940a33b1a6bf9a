import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { MAX_READINGS, type TapeId, zodProblem } from "@perceptum/core/names";
import {
  joinProject,
  type Project,
  ProjectDocument,
  parseJson,
  readProject,
  splitProject,
  writeProject,
} from "@perceptum/core/project";
import {
  cutReadings,
  decodeReadings,
  encodeReadings,
  packReadings,
  type RawReadings,
  REPORT_KINDS,
  type Report,
  reportOfReadings,
  textBytesOfReadings,
  writeCsv,
} from "@perceptum/core/readings";

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

/** A document as it is kept, with what the tables need to know of it. */
export interface StoredDocument {
  text: string;
  name: string;
  /** How long it is in a project file. */
  fileBytes: number;
  tapes: { id: TapeId; name: string; report: Report }[];
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

function storedDocument(document: ProjectDocument): StoredDocument {
  const reports = new Map(document.sensors.map(({ id, reports }) => [id, reports]));
  return {
    text: JSON.stringify(document),
    name: document.name,
    fileBytes: Buffer.byteLength(writeProject(joinProject(document, new Map()))),
    tapes: document.tapes.map(({ id, name, sensor }) => ({ id, name, report: reports.get(sensor) ?? "rgb" })),
  };
}

/** The digest of the bytes that `encodeReadings` would write, without writing them. */
function digestOf(readings: RawReadings): string {
  const head = encodeReadings(cutReadings(readings, 0, 0)).slice();
  new Float64Array(head.buffer)[0] += readings.t.length;
  const hash = createHash("sha256").update(head);
  const names = REPORT_KINDS[reportOfReadings(readings)].channels;
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

/** The work that takes long for large bodies: the same functions here and in the worker. */
export const JOBS = {
  /** Reads a project file. */
  readFile(body: Body): { document: StoredDocument; readings: [TapeId, StoredReadings][] } | { fault: Fault } {
    const read = readProject(textOf(body));
    return "problem" in read ? { fault: read.problem } : JOBS.take(read.project);
  },

  /** A project that was checked, as it is kept. Its readings are used up. */
  take(project: Project): { document: StoredDocument; readings: [TapeId, StoredReadings][] } {
    const readings = project.tapes.map((tape): [TapeId, StoredReadings] => {
      const stored = storedReadings(packReadings(tape.readings));
      // One tape after the other, and none of them twice: the file may hold millions of numbers.
      tape.readings = { t: [], channels: {} };
      return [tape.id, stored];
    });
    return { document: storedDocument(splitProject(project).document), readings };
  },

  /** Reads a document without readings. */
  readDocument(body: Body): { document: StoredDocument } | { fault: Fault } {
    const json = parseJson(textOf(body));
    if ("problem" in json) return { fault: json.problem };
    const parsed = ProjectDocument.safeParse(json.value);
    return parsed.success ? { document: storedDocument(parsed.data) } : { fault: zodProblem(parsed.error) };
  },

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

  /** A project file, as bytes. */
  writeFile(document: string, readings: readonly [TapeId, Uint8Array][]): Uint8Array {
    const raw = new Map(readings.map(([tape, bytes]) => [tape, decodeReadings(bytes)]));
    return Buffer.from(writeProject(joinProject(JSON.parse(document) as ProjectDocument, raw)));
  },

  /** Readings as CSV. */
  writeReadings: (bytes: Uint8Array): Uint8Array => Buffer.from(writeCsv(decodeReadings(bytes))),
};

export type Jobs = typeof JOBS;
