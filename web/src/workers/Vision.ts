import type { TapeId, TargetId } from "@perceptum/core/names";
import { decodePng, encodePng, withoutAlpha } from "@perceptum/core/png";
import type { Box, CameraSensor, RawReadings } from "@perceptum/core/readings";
import type { RuleSet, Target } from "@perceptum/core/rules";
import {
  type Blob as BlobMeasures,
  colourRules,
  FactGatherer,
  type FoundBlob,
  type Frame,
  type FrameFacts,
  formOf,
  PixelLabels,
  pixelsOfBoxes,
  placesIn,
  Sights,
  Watch,
} from "@perceptum/core/vision";
import { type FramesOfRun, RunFrames } from "@perceptum/core/world";
import { Cache } from "./Cache";

/** What frames are looked at by. */
export interface Setup {
  sensor: CameraSensor;
  ruleSet: RuleSet;
  targets: readonly Target[];
}

/** What was found in a frame. */
export interface Looked {
  /** The blobs of each target that has one, the largest first, at most `MOST_BLOBS`. */
  blobs: { target: TargetId; found: FoundBlob[]; measures: BlobMeasures }[];
  /** The cleaned mask of the target that was asked for: row, first column and the first behind it, three numbers a run. */
  mask: Int32Array<ArrayBuffer>;
}

/** A frame as the screen shows it: upright, red, green, blue and opaque. */
export interface ShownFrame {
  width: number;
  height: number;
  data: Uint8ClampedArray<ArrayBuffer>;
}

/** More blobs of a target than this nobody looks at. */
const MOST_BLOBS = 20;
const MOST_PNG_BYTES = 48 * 1024 * 1024;
const MOST_FRAME_BYTES = 48 * 1024 * 1024;

/** Frames of a project's cameras: fetched, decoded, looked at and packed. It lives in a worker. */
export class Vision {
  private readonly pngs = new Cache<Uint8Array>(MOST_PNG_BYTES, (bytes) => bytes.length);
  private readonly frames = new Cache<Frame>(MOST_FRAME_BYTES, (frame) => frame.data.length);
  /** PNG that the server does not have yet. */
  private readonly own = new Map<string, Uint8Array>();
  private readonly coming = new Map<string, Promise<Frame>>();
  private watch: Watch | null = null;
  private labels: PixelLabels | null = null;
  private setup: Setup | null = null;
  private readonly runs = new Map<string, RunFrames>();
  /** Which question about all frames of a tape is still wanted. */
  private asked = 0;
  /** When a single frame was last asked for: who goes through a tape waits for a while then. */
  private wantedAt = Number.NEGATIVE_INFINITY;

  constructor(private readonly load: (name: string) => Promise<Uint8Array>) {}

  /** Takes in a frame that the server does not have yet: it is kept until that has it. */
  addFrame(name: string, bytes: Uint8Array): void {
    this.own.set(name, bytes);
  }

  /** The server has a frame: from now on it is fetched from there, unless it was used of late. */
  sent(name: string): void {
    const bytes = this.own.get(name);
    if (bytes !== undefined) this.pngs.set(name, bytes);
    this.own.delete(name);
  }

  /** Sets what frames are looked at by. */
  setSetup(setup: Setup): void {
    const { sensor, ruleSet, targets } = setup;
    this.setup = setup;
    const rules = colourRules(
      ruleSet,
      targets.map((t) => t.id),
    );
    if (this.labels === null) this.labels = new PixelLabels(rules);
    else this.labels.renew(rules);
    this.watch = new Watch(sensor, ruleSet, targets, this.labels);
  }

  /** Takes in a run whose frames are asked for by `runFrameName`. */
  addRun(id: string, run: FramesOfRun): void {
    this.runs.set(id, new RunFrames(run));
  }

  /** Nobody asks for the frames of a run any more. */
  dropRun(id: string): void {
    this.runs.delete(id);
  }

  private runOf(id: string): RunFrames {
    const run = this.runs.get(id);
    if (run === undefined) throw new Error("the run is not there any more");
    return run;
  }

  /** A frame of the run, taken once more: a copy, since the next one overwrites it. */
  private frameOfRun(name: string): Frame {
    const [, id, k] = name.split(":");
    const frame = this.runOf(id).take(Number(k));
    return { ...frame, data: frame.data.slice() };
  }

  /** A frame of a run to be kept as a frame of a tape, with what is in truth on it. */
  async packOfRun(
    id: string,
    k: number,
  ): Promise<Packed & { boxes: Pick<Box, "target" | "left" | "top" | "width" | "height">[] }> {
    const run = this.runOf(id);
    const frame = run.take(k);
    const { boxes } = run;
    return { ...(await this.pack(frame)), boxes };
  }

  /** @throws Error with a sentence where it cannot be fetched or is damaged */
  async frame(name: string): Promise<Frame> {
    const known = this.frames.get(name);
    if (known !== undefined) return known;
    if (name.startsWith(OF_RUN)) {
      const frame = this.frameOfRun(name);
      this.frames.set(name, frame);
      return frame;
    }
    const coming =
      this.coming.get(name) ??
      this.png(name)
        .then((bytes) => {
          const frame = decodePng(bytes);
          this.frames.set(name, frame);
          return frame;
        })
        .finally(() => this.coming.delete(name));
    this.coming.set(name, coming);
    return coming;
  }

  private async png(name: string): Promise<Uint8Array> {
    const known = this.own.get(name) ?? this.pngs.get(name);
    if (known !== undefined) return known;
    const bytes = await this.load(name);
    this.pngs.set(name, bytes);
    return bytes;
  }

  /** A frame to be shown, as the present sensor has it. */
  async shown(name: string): Promise<ShownFrame> {
    this.wantedAt = performance.now();
    return this.showing(await this.frame(name));
  }

  /** A frame as the screen shows it, for the present sensor. */
  showing(frame: Frame): ShownFrame {
    return uprightOf(frame, this.sensor);
  }

  /** An upright frame as the present sensor would send it: its rows and colours in its order. */
  wired(frame: Frame): Frame {
    const { rows, order } = formOf(this.sensor);
    if (rows === "top first" && order === "rgb") return frame;
    const { width, height, data } = frame;
    const { rowStart, red, green, blue } = placesIn(frame, { width, height, rows, order });
    const sent = new Uint8Array(data.length);
    for (let row = 0, from = 0; row < height; row++) {
      let to = rowStart(row);
      for (let column = 0; column < width; column++, from += 3, to += 3) {
        sent[to + red] = data[from];
        sent[to + green] = data[from + 1];
        sent[to + blue] = data[from + 2];
      }
    }
    return { width, height, channels: 3, data: sent };
  }

  private get sensor(): CameraSensor {
    if (this.setup === null) throw new Error("no camera is looked at");
    return this.setup.sensor;
  }

  /** Looks at a frame by the present rules; the mask is that of the label, 0 for none. */
  async look(name: string, label: number): Promise<Looked> {
    this.wantedAt = performance.now();
    const frame = await this.frame(name);
    return this.lookAt(frame, label);
  }

  lookAt(frame: Frame, label: number): Looked {
    const { watch, setup } = this;
    if (watch === null || setup === null) return { blobs: [], mask: new Int32Array() };
    const measures = watch.look(frame);
    const { left, top } = watch.eye.strip;
    const blobs = setup.targets.flatMap(({ id }, i) => {
      const list = watch.eye.blobs(i + 1);
      const own = measures.get(id);
      if (own === undefined) return [];
      const found = Array.from({ length: Math.min(MOST_BLOBS, list.length) }, (_, k) => list.blob(k, left, top));
      return [{ target: id, found, measures: own }];
    });
    return { blobs, mask: label === 0 ? new Int32Array() : maskRuns(watch, label) };
  }

  /** The pixels of boxes, each on the frame that is named beside it. */
  async pixels(boxes: readonly Box[], names: readonly string[], sensor: CameraSensor): Promise<RawReadings> {
    const frames = new Map<number, Frame>();
    for (const [i, box] of boxes.entries()) if (!frames.has(box.t)) frames.set(box.t, await this.frame(names[i]));
    return pixelsOfBoxes(boxes, sensor, (t) => frames.get(t)) ?? { t: new Float64Array(), channels: {} };
  }

  /**
   * What is seen after each of a tape's frames: for each frame a byte for each target. `told` hears of it part by part;
   * a later question ends this one. At the end it gives what the frames show as a whole; null where it was ended.
   */
  async seen(
    tape: TapeId,
    names: readonly string[],
    times: ArrayLike<number>,
    told: (rows: Uint8Array<ArrayBuffer>, done: number) => void,
  ): Promise<FrameFacts | null> {
    const own = ++this.asked;
    const { setup } = this;
    if (setup === null) return null;
    const gatherer = new FactGatherer(setup.sensor, setup.ruleSet, setup.targets);
    const side = setup.targets.length;
    const rows = new Uint8Array(names.length * side);
    const sights = new Sights(
      setup.targets.map(({ id }) => id),
      setup.ruleSet.steady,
    );
    let lastTold = 0;
    let began = performance.now();
    for (const [k, name] of names.entries()) {
      const blobs = gatherer.look(await this.frame(name));
      if (own !== this.asked) return null;
      sights.take(blobs, times[k]);
      for (let i = 0; i < side; i++) rows[k * side + i] = sights.isSeen(i) ? 1 : 0;
      if (k - lastTold >= TOLD_EVERY || k === names.length - 1) {
        lastTold = k;
        told(rows.slice(), k + 1);
      }
      if (performance.now() - began < REST_EVERY_MS) continue;
      // Others who ask meanwhile are answered in between, and go first as long as they go on asking.
      do await new Promise((go) => setTimeout(go, performance.now() - this.wantedAt < QUIET_MS ? QUIET_MS / 2 : 0));
      while (own === this.asked && performance.now() - this.wantedAt < QUIET_MS);
      if (own !== this.asked) return null;
      began = performance.now();
    }
    return gatherer.of(tape, times);
  }

  /** A picture as a frame to be kept: its name, its PNG and its size. */
  async pack(frame: Frame): Promise<Packed> {
    const bytes = encodePng(frame);
    const hash = new Uint8Array(await crypto.subtle.digest("SHA-256", bytes));
    const name = [...hash].map((byte) => byte.toString(16).padStart(2, "0")).join("");
    return { name, bytes, width: frame.width, height: frame.height };
  }
}

const OF_RUN = "run:";
/** The name of a run's frame, which is taken again when it is asked for. */
export const runFrameName = (run: string, k: number) => `${OF_RUN}${run}:${k}`;

/** A tape is gone through once nobody has asked for a frame for so long. */
const QUIET_MS = 150;
/** One who asks while a tape is gone through waits about so long. */
const REST_EVERY_MS = 8;
/** After so many frames one hears of what is seen. */
const TOLD_EVERY = 25;

export interface Packed {
  name: string;
  bytes: Uint8Array<ArrayBuffer>;
  width: number;
  height: number;
}

/** Red, green, blue and alpha of a picture as a frame. */
export const frameOfPixels = (width: number, height: number, rgba: ArrayLike<number>): Frame => ({
  width,
  height,
  channels: 3,
  data: withoutAlpha(rgba),
});

function uprightOf(frame: Frame, sensor: CameraSensor): ShownFrame {
  const { width, height, channels, data } = frame;
  const { rowStart, red, green, blue } = placesIn(frame, formOf(sensor));
  const shown = new Uint8ClampedArray(4 * width * height);
  for (let row = 0, to = 0; row < height; row++) {
    let from = rowStart(row);
    for (let column = 0; column < width; column++, from += channels, to += 4) {
      shown[to] = data[from + red];
      shown[to + 1] = data[from + green];
      shown[to + 2] = data[from + blue];
      shown[to + 3] = 255;
    }
  }
  return { width, height, data: shown };
}

function maskRuns({ eye }: Watch, label: number): Int32Array<ArrayBuffer> {
  const { strip } = eye;
  const runs: number[] = [];
  eye.eachRun(label, (row, from, to) => {
    runs.push(strip.top + row, strip.left + from, strip.left + to);
  });
  return Int32Array.from(runs);
}
