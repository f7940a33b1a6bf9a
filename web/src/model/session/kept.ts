import type { Edit } from "@perceptum/core/edits";
import type { SensorId, TapeId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import type { Mark, RawReadings, TapeHead } from "@perceptum/core/readings";

/** What the server has not answered for, as one window keeps it: a document that was whole, and what was done to it since. */
export interface KeptChange {
  project: string;
  /** Which window keeps it. */
  window: string;
  /** The revision that it was made on. */
  revision: number;
  /** What the server acknowledged last, as a rule. */
  base: ProjectDocument;
  /** The edits since, in their order. */
  edits: readonly Edit[];
  /** The id by which it is sent: where the server has it already, sending it once more changes nothing. */
  send?: string;
  at: number;
}

/** A change that was kept, with the document that its edits make. */
export interface Unsent extends KeptChange {
  document: ProjectDocument;
  /** So many of its edits could not be made again: they were kept by a page of another version. */
  lost: number;
}

/** The head of the tape that a recording becomes. */
export interface RecordedTape {
  /** The tape that it becomes. */
  tape: TapeId;
  name: string;
  sensor: SensorId;
  origin: TapeHead["origin"];
}

/** A recording so far, from some reading on. */
export interface Recorded {
  readings: RawReadings;
  marks: readonly Mark[];
  /** Of a camera the frame of each time. */
  frames?: readonly string[];
}

/** A part of a recording as it is kept, with the marks so far; readings as `encodeReadings` writes them. */
export interface RecordingPart extends RecordedTape, Pick<Recorded, "marks" | "frames"> {
  project: string;
  window: string;
  part: number;
  bytes: Uint8Array<ArrayBuffer>;
  at: number;
}

/** The store of work that the server does not have. Each may throw a `DOMException` where there is no room. */
export interface KeptWork {
  /** Keeps a change. It is on its way at once, before what shows it is drawn, and kept when this resolves. */
  keep(change: KeptChange): Promise<void>;
  forget(project: string, window: string): Promise<void>;
  /** All changes that are kept, of whatever window; those of one project, or of all. */
  changes(project?: string): Promise<KeptChange[]>;
  keepReadings(project: string, tape: TapeId, readings: RawReadings): Promise<void>;
  readings(project: string, tape: TapeId): Promise<RawReadings | undefined>;
  forgetReadings(project: string, tapes: Iterable<TapeId>): Promise<void>;
  keepFrame(project: string, name: string, bytes: Uint8Array<ArrayBuffer>): Promise<void>;
  frame(project: string, name: string): Promise<Uint8Array<ArrayBuffer> | undefined>;
  forgetFrames(project: string, names: Iterable<string>): Promise<void>;
  keepRecording(part: RecordingPart): Promise<void>;
  /** The parts of all recordings of a project, of whatever window. */
  recordings(project: string): Promise<RecordingPart[]>;
  forgetRecording(project: string, window: string): Promise<void>;
}
