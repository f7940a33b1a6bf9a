import { createHash } from "node:crypto";
import { decodePng } from "@perceptum/core/png";
import { type FramesByName, type ProjectDocument, splitProject } from "@perceptum/core/project";
import { type CameraSensor, MAX_FILE_BYTES, type ReadingsByTape, type TapeHead } from "@perceptum/core/readings";
import { ruleSetOf } from "@perceptum/core/rules";
import {
  allPixels,
  type Blob,
  cameraTapes,
  FactGatherer,
  type Frame,
  type FrameFacts,
  Sights,
  taughtBy,
  Watch,
} from "@perceptum/core/vision";
import { frameOf } from "@perceptum/wires";
import { InputError, openProject, readBytes } from "./input";

/** The frame in a PNG or JPEG file, as large as the sensor's are. @throws InputError */
export function readFrame(file: string, { frame: wanted, id }: CameraSensor): Frame {
  const bytes = readBytes(file, MAX_FILE_BYTES);
  let frame: Frame;
  try {
    frame = frameOf(bytes);
  } catch (error) {
    if (error instanceof RangeError) throw new InputError(`${file}: ${error.message}`);
    throw error;
  }
  if (frame.width !== wanted.width || frame.height !== wanted.height)
    throw new InputError(
      `${file}: the picture has ${frame.width} × ${frame.height} px; the frames of ${id} have ${wanted.width} × ${wanted.height}`,
    );
  return frame;
}

/** The frames of a project file, each decoded when it is first asked for. @throws InputError for one that is damaged */
function framesFrom(file: string, frames: FramesByName): (name: string) => Frame | undefined {
  const known = new Map<string, Frame>();
  return (name) => {
    const held = known.get(name);
    if (held !== undefined || frames[name] === undefined) return held;
    const bytes = Buffer.from(frames[name], "base64");
    if (createHash("sha256").update(bytes).digest("hex") !== name)
      throw new InputError(`${file}: frames.${name}: the frame is not the one that its name says`);
    try {
      const frame = decodePng(bytes);
      known.set(name, frame);
      return frame;
    } catch (error) {
      if (error instanceof RangeError) throw new InputError(`${file}: frames.${name}: ${error.message}`);
      throw error;
    }
  };
}

/** A project as its rules are taught and judged: a camera's tapes hold the pixels of their boxes. @throws InputError */
export function openTaught(file: string): {
  document: ProjectDocument;
  readings: ReadingsByTape;
  frames: FramesByName;
  /** A frame by its name. */
  frame(name: string): Frame | undefined;
  taught: { project: ProjectDocument; readings: ReadingsByTape };
} {
  const { document, readings, frames } = splitProject(openProject(file));
  const frame = framesFrom(file, frames);
  return {
    document,
    readings,
    frames,
    frame,
    taught: taughtBy(document, readings, allPixels(document, readings, frame)),
  };
}

/** What the frames of all cameras' tapes show. @throws InputError for a frame that is damaged */
export const factsOf = (opened: Opened): FrameFacts[] =>
  cameraTapes(opened.document).map(({ tape, sensor }) => factsOfTape(opened, tape, sensor));

/** What the frames of a camera's tape show. @throws InputError for a frame that is damaged */
export function factsOfTape({ document, readings, frame }: Opened, tape: TapeHead, sensor: CameraSensor): FrameFacts {
  const gatherer = new FactGatherer(sensor, ruleSetOf(document, sensor), document.targets);
  for (const name of tape.frames ?? []) {
    const own = frame(name);
    if (own !== undefined) gatherer.look(own);
  }
  return gatherer.of(tape.id, readings.get(tape.id)?.t ?? []);
}

type Opened = ReturnType<typeof openTaught>;

/** What a camera makes of frames, one after the other: a line for each target that has a blob. @throws InputError */
export function classifyFrames(project: ProjectDocument, sensor: CameraSensor, files: readonly string[]): string {
  const ruleSet = ruleSetOf(project, sensor);
  const watch = new Watch(sensor, ruleSet, project.targets);
  const sights = new Sights(
    project.targets.map(({ id }) => id),
    ruleSet.steady,
  );
  const lines = [`frame,target,${COLUMNS.join(",")},seen`];
  files.forEach((file, k) => {
    const blobs = watch.look(readFrame(file, sensor));
    sights.take(blobs, k * sensor.periodMs);
    if (blobs.size === 0) lines.push(`${quoted(file)},unknown${",".repeat(COLUMNS.length)},`);
    project.targets.forEach(({ id }, i) => {
      const blob = blobs.get(id);
      if (blob === undefined) return;
      lines.push([quoted(file), id, ...COLUMNS.map((measure) => blob[measure]), sights.isSeen(i)].join(","));
    });
  });
  return `${lines.join("\n")}\n`;
}

const COLUMNS = ["x", "y", "width", "height", "area", "error"] as const satisfies readonly (keyof Blob)[];

const quoted = (cell: string) => (/[",\r\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);
