import type { EngineState, Program } from "../../behaviour";
import type { ResponseId, SensorId, TargetId } from "../../names";
import type { CameraSensor, Light } from "../../readings";
import { type Blob, KEPT_BLOB_CELLS, keepBlob, keptBlob, Watch } from "../../vision";
import type { Body } from "../body";
import type { SensedWorld } from "../EyeRecorder";
import { longer } from "../longer";
import type { Recorder } from "../Recorder";
import type { Mount } from "../robots";
import { type Answer, type EyeTrace, type Passage, type Thing, thingsOf } from "../trace";
import { Camera } from "./Camera";
import { cardBefore } from "./cardBefore";
import { POSE } from "./RunFrames";

/** Room for so many frames to begin with. */
const FIRST_FRAMES = 256;

/** A camera in a run: takes frames at its own period, and keeps from where and what was found in them. */
export class CameraRecorder implements Recorder {
  readonly passages: Passage[] = [];
  /** A frame is due after this time, in ms; the first one at once. */
  looksAfter = Number.NEGATIVE_INFINITY;
  private readonly camera: Camera;
  private readonly watch: Watch;
  private readonly things: readonly Thing[];
  private readonly periodMs: number;
  private times: Float64Array<ArrayBuffer> = new Float64Array(FIRST_FRAMES);
  private poses: Float64Array<ArrayBuffer> = new Float64Array(POSE * FIRST_FRAMES);
  private seen: Uint8Array<ArrayBuffer>;
  /** The first of what is seen after each frame. */
  private first: Uint8Array<ArrayBuffer> = new Uint8Array(FIRST_FRAMES);
  private blobs: Int32Array<ArrayBuffer>;
  private n = 0;
  private latest: ReadonlyMap<TargetId, Blob> = new Map();
  /** The thing that the blob of a target was of when it was last looked at. */
  private readonly shown = new Map<TargetId, number>();
  /** Things of which enough is in sight now, and a count of each thing's pixels. */
  private readonly counts: Uint32Array;
  private inSight: readonly number[] = [];

  constructor(
    mount: Mount,
    private readonly program: Program,
    readonly index: number,
    private readonly own: CameraSensor,
    light: Light,
    private readonly world: SensedWorld,
  ) {
    const { course, targets, seed, tickMs } = world;
    this.camera = new Camera(own, mount, light, course, targets, seed);
    this.watch = new Watch(own, program.eyes[index].ruleSet, targets);
    this.things = thingsOf(course);
    this.counts = new Uint32Array(this.things.length);
    this.periodMs = Math.max(tickMs, Math.ceil(own.periodMs / tickMs) * tickMs);
    this.seen = new Uint8Array(FIRST_FRAMES * targets.length);
    this.blobs = new Int32Array(FIRST_FRAMES * targets.length * KEPT_BLOB_CELLS);
  }

  get sensor(): SensorId {
    return this.own.id;
  }

  /** Takes the frame that is due at time `t`, and gives the largest blob of each target in it. */
  look(t: number, body: Body): ReadonlyMap<TargetId, Blob> {
    if (this.n === this.times.length) this.grow();
    const { n, camera, watch, program } = this;
    const { course, targets, seed } = this.world;
    this.times[n] = t;
    this.poses.set([body.x, body.y, body.sin, body.cos], POSE * n);
    this.latest = watch.look(
      camera.take(body, n, {
        gone: this.world.floor.gone,
        card: cardBefore(course, targets, seed, this.own, program.eyes[0].id, t),
      }),
    );
    const { strip } = watch.eye;
    for (let i = 0; i < program.targets.length; i++) {
      const list = watch.eye.blobs(i + 1);
      if (list.length === 0) continue;
      keepBlob(this.blobs, n * program.targets.length + i, list.blob(0, strip.left, strip.top));
    }
    this.follow(t);
    this.n++;
    this.looksAfter = t + this.periodMs - this.world.tickMs / 2;
    return this.latest;
  }

  /** The largest blob of each target in the frame that was taken last: left, top, width, height and area in px. */
  foundLast(): Record<string, [number, number, number, number, number]> {
    const { targets } = this.program;
    return Object.fromEntries(
      targets.flatMap((target, i) => {
        const blob = keptBlob(this.blobs, (this.n - 1) * targets.length + i);
        return blob === undefined || !this.latest.has(target)
          ? []
          : [[target, [blob.left, blob.top, blob.width, blob.height, blob.area]]];
      }),
    );
  }

  private grow(): void {
    this.times = longer(this.times);
    this.poses = longer(this.poses);
    this.seen = longer(this.seen);
    this.first = longer(this.first);
    this.blobs = longer(this.blobs);
  }

  /** Keeps passages: from the first frame that shows enough of a thing within the strip to the first that does not. */
  private follow(t: number): void {
    const { counts, camera, things, own } = this;
    counts.fill(0);
    const { strip } = this.watch.eye;
    for (let row = strip.top; row < strip.bottom; row++) {
      const start = row * own.frame.width;
      for (let i = start + strip.left; i < start + strip.right; i++)
        if (camera.shows[i] >= 0) counts[camera.shows[i]]++;
    }
    const before = this.inSight;
    const now: number[] = [];
    for (let thing = 0; thing < counts.length; thing++) if (counts[thing] >= own.minArea) now.push(thing);
    for (const thing of before) {
      if (counts[thing] >= own.minArea) continue;
      const passage = this.passages.findLast((p) => p.patch === thing);
      if (passage !== undefined) passage.left = t;
    }
    for (const thing of now)
      if (!before.includes(thing))
        this.passages.push({ patch: thing, target: things[thing].target, eye: this.index, entered: t });
    this.inSight = now;
  }

  learn(state: EngineState): void {
    const { targets } = this.program;
    for (let i = 0; i < targets.length; i++)
      this.seen[(this.n - 1) * targets.length + i] = state.sees(this.index, i + 1) ? 1 : 0;
    this.first[this.n - 1] = state.seenBy(this.index);
  }

  visitBegins(target: TargetId): void {
    this.lookAtBlob(target);
  }

  /** Notes the thing that makes up the most of a target's blob: one of that target, else whatever it is. */
  private lookAtBlob(target: TargetId): void {
    const blob = this.latest.get(target);
    if (blob === undefined) return;
    const counted = new Map<number, number>();
    const left = blob.x - (blob.width - 1) / 2;
    const top = blob.y - (blob.height - 1) / 2;
    for (let row = top; row < top + blob.height; row++)
      for (let column = left; column < left + blob.width; column++) {
        const thing = this.camera.shows[row * this.own.frame.width + column];
        counted.set(thing, (counted.get(thing) ?? 0) + 1);
      }
    const most = [...counted].sort((a, b) => b[1] - a[1]).map(([thing]) => thing);
    const own = most.find((thing) => this.camera.targetOf(thing) === target) ?? most[0];
    this.shown.set(target, own);
  }

  answer(t: number, response: ResponseId, target: TargetId): Answer {
    this.lookAtBlob(target);
    const thing = this.shown.get(target);
    const truth = thing === undefined ? undefined : this.camera.targetOf(thing);
    return {
      t,
      response,
      target,
      eye: this.index,
      ...(truth !== undefined && { truth }),
      ...(thing !== undefined && thing >= 0 && { patch: thing }),
    };
  }

  /** It has no spot. */
  get under() {
    return [];
  }

  finished(): EyeTrace {
    const { n, program } = this;
    const side = program.targets.length;
    const blobs = this.blobs.slice(0, n * side * KEPT_BLOB_CELLS);
    const labels = new Uint8Array(n);
    for (let k = 0; k < n; k++)
      for (let i = side - 1; i >= 0; i--) if (keptBlob(blobs, k * side + i) !== undefined) labels[k] = i + 1;
    return {
      sensor: this.own.id,
      height: this.camera.view.z,
      readings: { t: this.times.slice(0, n), channels: {} },
      labels,
      seen: this.first.slice(0, n),
      truth: new Uint8Array(n),
      frames: { poses: this.poses.slice(0, n * POSE), blobs, seen: this.seen.slice(0, n * side) },
    };
  }
}
