import type { SensorId } from "@perceptum/core/names";
import { type CameraSensor, isCamera, type TapeHead } from "@perceptum/core/readings";
import { type RuleSet, ruleSetOf, type Target } from "@perceptum/core/rules";
import { type EyeTrace, framesOfRun } from "@perceptum/core/world";
import { proxy, transfer } from "comlink";
import { Cache } from "../../workers/Cache";
import { type Looked, type Packed, runFrameName, type Setup, type ShownFrame } from "../../workers/Vision";
import type { Taken, TakenPicture, VisionWorker } from "../../workers/vision.worker";
import type { LastRun } from "../judging/Mentor";
import { LatestOnly } from "../LatestOnly";
import { Published } from "../Published";
import type { ProjectSession } from "../session/ProjectSession";
import { WorkerLink } from "../WorkerLink";

const LIMIT_MS = 60_000;
const MOST_SHOWN_BYTES = 32 * 1024 * 1024;

/** The frames of so many cameras of runs can be asked for: while those of one are kept, another may be made. */
const MOST_RUNS = 4;

/** A camera of a run, and the names by which its frames are asked for. */
export interface RunOfCamera {
  id: string;
  names: readonly string[];
}

/** What is seen after each frame of a tape: a byte for each target. */
export interface SeenRows {
  /** The tape, and what it was looked at by. */
  tape: string;
  rows: Uint8Array;
  done: number;
}

/** What is done with frames while a project is open: they are fetched, looked at and packed in a worker. */
export class CameraWork {
  readonly seen = new Published<SeenRows | null>(null);
  private readonly worker: WorkerLink<VisionWorker>;
  private runCount = 0;
  /** The cameras of runs whose frames can be asked for, those used last behind. */
  private readonly runs = new Map<EyeTrace, RunOfCamera & { told: Promise<void> }>();
  private readonly shownFrames = new Cache<ShownFrame>(MOST_SHOWN_BYTES, ({ data }) => data.length);
  private setup: Setup | null = null;
  /** The last setup by which frames of each camera were looked at. */
  private readonly setups = new Map<SensorId, Setup>();
  /** The form of the frames that the boxes of each tape were taken from. */
  private readonly boxedBy = new Map<string, unknown>();
  private readonly unlisten: () => void;
  /** Counts the forms of frames that were shown: in another one the same frame looks otherwise. */
  private form = 0;
  private readonly boxing: LatestOnly<() => Promise<void>>;

  constructor(private readonly session: ProjectSession) {
    const { id, frames, broke, failed } = session;
    this.boxing = new LatestOnly((work) => work(), failed("The pixels in the boxes could not be taken"));
    this.worker = new WorkerLink(() => session.surroundings.startWorker("vision"), {
      limitMs: LIMIT_MS,
      broke,
      prepare: async (remote) => {
        this.runs.clear();
        await remote.begin(id);
        if (this.setup !== null) await remote.setSetup(this.setup as never);
        for (const [name, bytes] of frames.unsent) await remote.addFrame(name, bytes);
      },
    });
    this.unlisten = frames.listen({
      added: (name, bytes) => this.worker.tell((remote) => remote.addFrame(name, bytes)),
      sent: (name) => this.worker.tell((remote) => remote.sent(name)),
    });
  }

  end(): void {
    this.unlisten();
    this.worker.end();
  }

  /** Gives the setup by which frames of a camera are looked at; the same object as long as none of it changes. */
  setupOf(sensor: CameraSensor, ruleSets: readonly RuleSet[], targets: readonly Target[]): Setup {
    const ruleSet = ruleSetOf({ ruleSets }, sensor);
    const known = this.setups.get(sensor.id);
    if (known?.sensor === sensor && known.ruleSet === ruleSet && known.targets === targets) return known;
    const made = { sensor, ruleSet, targets };
    this.setups.set(sensor.id, made);
    return made;
  }

  /** Has frames looked at by a setup from the next question on: the worker takes them in their order. */
  private lookBy(setup: Setup): void {
    const before = this.setup;
    if (before?.sensor === setup.sensor && before.ruleSet === setup.ruleSet && before.targets === setup.targets) return;
    if (before?.sensor.order !== setup.sensor.order || before?.sensor.frame !== setup.sensor.frame) this.form++;
    this.setup = setup;
    this.worker.ask((remote) => remote.setSetup(setup as never)).catch(() => undefined);
  }

  /** Lets the frames of a camera of a run be asked for; null where it has none. */
  async addRun(run: LastRun, eye: EyeTrace | undefined = cameraEye(run)): Promise<RunOfCamera | null> {
    if (eye === undefined) return null;
    const known = this.runs.get(eye);
    const made = known ?? this.beginRun(run, eye);
    if (made === null) return null;
    this.runs.delete(eye);
    this.runs.set(eye, made);
    await made.told;
    return made;
  }

  private beginRun(run: LastRun, eye: EyeTrace) {
    const frames = framesOfRun(run.project, run.trace, eye);
    if (frames === undefined) return null;
    const id = String(++this.runCount);
    const told = this.worker.ask((remote) => remote.addRun(id, frames));
    for (const [old, { id }] of this.runs) {
      if (this.runs.size < MOST_RUNS) break;
      this.runs.delete(old);
      this.worker.tell((remote) => remote.dropRun(id));
    }
    return { id, names: Array.from(frames.times, (_, k) => runFrameName(id, k)), told };
  }

  /** Packs a frame of a run, with the boxes of what is in truth on it. */
  packOfRun({ id }: RunOfCamera, k: number) {
    return this.worker.ask((remote) => remote.packOfRun(id, k));
  }

  /** A frame as the screen shows it. */
  async shown(name: string, setup: Setup): Promise<ShownFrame> {
    this.lookBy(setup);
    const key = `${this.form} ${name}`;
    const known = this.shownFrames.get(key);
    if (known !== undefined) return known;
    const shown = await this.worker.ask((remote) => remote.shown(name));
    this.shownFrames.set(key, shown);
    return shown;
  }

  async thumb(name: string, height: number, setup: Setup): Promise<ImageBitmap> {
    this.lookBy(setup);
    return this.worker.ask((remote) => remote.thumb(name, height));
  }

  /** Looks at a frame; the mask is that of a label, 0 for none. */
  async look(name: string, setup: Setup, label: number): Promise<Looked> {
    this.lookBy(setup);
    return this.worker.ask((remote) => remote.look(name, label));
  }

  /** Looks at pixels that are no frame yet, as the sensor would give them; packs them where they are to be kept. */
  lookAt({ width, height, data }: ImageData, setup: Setup, label: number, keep: boolean): Promise<Taken> {
    this.lookBy(setup);
    return this.worker.ask((remote) =>
      remote.lookAtPixels(width, height, transfer(data, [data.buffer]) as Uint8ClampedArray<ArrayBuffer>, label, keep),
    );
  }

  /** Works out what is seen after each frame of a tape. */
  async follow(tape: Pick<TapeHead, "id" | "frames">, times: Float64Array, setup: Setup): Promise<void> {
    this.lookBy(setup);
    const told = proxy((rows: Uint8Array, done: number) => this.seen.set({ tape: tape.id, rows, done }));
    const facts = await this.worker.ask(
      (remote) => remote.seen(tape.id, tape.frames ?? [], times, told),
      Number.POSITIVE_INFINITY,
    );
    const { frameFacts, isOpen } = this.session;
    if (facts !== null && isOpen) frameFacts.set(new Map(frameFacts.get()).set(tape.id, facts));
  }

  /** Has the pixels of all boxes of the project's tapes taken, as far as they are not known yet. */
  takePixels(): void {
    this.boxing.ask(async () => {
      const { session } = this;
      const { present } = session.store.getState().document;
      for (const tape of present?.tapes ?? []) {
        const { id, frames, boxes = [] } = tape;
        const sensor = present?.sensors.find((s) => s.id === tape.sensor);
        const times = session.readings.get(id)?.t;
        if (frames === undefined || sensor === undefined || times === undefined || !isCamera(sensor)) continue;
        if (session.readings.known(id)?.boxes === boxes && this.boxedBy.get(id) === sensor.frame) continue;
        const names = boxes.map((box) => frames[times.indexOf(box.t)] ?? "");
        const pixels = await this.worker.ask((remote) => remote.pixels(boxes, names, sensor));
        this.boxedBy.set(id, sensor.frame);
        if (session.isOpen) session.readings.know(id, { boxes, pixels });
      }
    });
  }

  take(file: Blob, size: { width: number; height: number } | null): Promise<TakenPicture> {
    return this.worker.ask((remote) => remote.take(file, size));
  }

  /** Looks at a picture as a camera sent it; packs it where it is to be kept. @throws Error with a sentence */
  lookAtPicture(file: Blob, setup: Setup, label: number, keep: boolean): Promise<Taken> {
    this.lookBy(setup);
    return this.worker.ask((remote) => remote.lookAtPicture(file, setup.sensor.frame, label, keep));
  }

  /** Packs an image; for a setup as its sensor would send it. */
  async takeImage({ width, height, data }: ImageData, setup: Setup | null): Promise<Packed> {
    if (setup !== null) this.lookBy(setup);
    return this.worker.ask((remote) =>
      remote.takePixels(width, height, transfer(data, [data.buffer]) as Uint8ClampedArray, setup !== null),
    );
  }
}

/** What a run's first camera did; undefined where it had none. */
export const cameraEye = ({ trace }: LastRun): EyeTrace | undefined =>
  trace.eyes.find(({ frames }) => frames !== undefined);
