import type { TapeId, TargetId } from "../names";
import type { CameraSensor } from "../readings";
import type { RuleSet, Target } from "../rules";
import type { FoundBlob } from "./BlobList";
import { type Blob, KEPT_BLOB_CELLS, keepBlob, keptBlob, measured, Watch } from "./blob";
import type { Frame } from "./frame";
import type { PixelLabels } from "./PixelLabels";

/** What the frames of a tape show of one target, of which more than one frame tells. */
export interface TargetFacts {
  target: TargetId;
  /** Frames that have a blob of it. */
  frames: number;
  /** Of those, how many have a second one at least half as large. */
  doubled: number;
  /** Of those, how many have a blob that no square of 3 × 3 px fits into, though no mask is cleaned. */
  thin: number;
}

/** What the frames of a tape show, by the rules and the cleaning as they were then. */
export interface FrameFacts {
  tape: TapeId;
  targets: readonly TargetFacts[];
  /** The times of the frames, in ms. */
  t: ArrayLike<number>;
  /** The targets that were looked for, in the order in which `largest` has them. */
  lookedFor: readonly TargetId[];
  /** The largest blob of each target in each frame, as `keptBlob` gives it. */
  largest: Int32Array;
}

/** What is known of each of a tape's frames: its time, and the largest blob of each target. */
export type FoundInFrames = Pick<FrameFacts, "t" | "lookedFor" | "largest">;

/** The largest blob of a target in a tape's k-th frame. */
export function largestIn({ lookedFor, largest }: FoundInFrames, k: number, target: TargetId): FoundBlob | undefined {
  const i = lookedFor.indexOf(target);
  return i < 0 ? undefined : keptBlob(largest, k * lookedFor.length + i);
}

/** The largest blob of each target that has one in a tape's k-th frame, as the engine takes them. */
export function blobsIn(facts: FoundInFrames, k: number, sensor: CameraSensor): ReadonlyMap<TargetId, Blob> {
  return new Map(
    facts.lookedFor.flatMap((id) => {
      const blob = largestIn(facts, k, id);
      return blob === undefined ? [] : [[id, measured(blob, sensor)]];
    }),
  );
}

/** Looks at one frame of a tape after another and gathers what they show. */
export class FactGatherer {
  readonly watch: Watch;
  /** Looks at what a square of 3 × 3 px leaves, where no mask is cleaned. */
  private readonly cleaned: Watch | null;
  private readonly found: TargetFacts[];
  private largest = new Int32Array(KEPT_BLOB_CELLS * 64);
  private frames = 0;

  constructor(
    sensor: CameraSensor,
    ruleSet: RuleSet,
    private readonly targets: readonly Target[],
    labels?: PixelLabels,
  ) {
    this.watch = new Watch(sensor, ruleSet, targets, labels);
    const bare = sensor.clean.erode === 0;
    this.cleaned = bare
      ? new Watch({ ...sensor, clean: { erode: 1, dilate: 0 } }, ruleSet, targets, this.watch.labels)
      : null;
    this.found = targets.map(({ id }) => ({ target: id, frames: 0, doubled: 0, thin: 0 }));
  }

  /** Looks at a frame; the blobs are those of `watch`. */
  look(frame: Frame): ReturnType<Watch["look"]> {
    const blobs = this.watch.look(frame);
    const { left, top } = this.watch.eye.strip;
    this.cleaned?.look(frame);
    const from = this.frames++ * this.targets.length;
    this.makeRoom(this.frames * this.targets.length * KEPT_BLOB_CELLS);
    this.targets.forEach(({ kind }, i) => {
      const list = this.watch.eye.blobs(i + 1);
      if (kind === "background" || list.length === 0) return;
      const first = list.blob(0, left, top);
      keepBlob(this.largest, from + i, first);
      const facts = this.found[i];
      facts.frames++;
      if (list.length > 1 && list.blob(1).area >= first.area / 2) facts.doubled++;
      // What erosion takes away whole is thinner than its square.
      if (this.cleaned !== null && this.cleaned.eye.blobs(i + 1).length < list.length) facts.thin++;
    });
    return blobs;
  }

  /** What the frames of a tape show, those looked at being of the times `t` in ms. */
  of(tape: TapeId, t: ArrayLike<number>): FrameFacts {
    return {
      tape,
      t,
      targets: this.found.filter(({ frames }) => frames > 0),
      lookedFor: this.targets.map(({ id }) => id),
      largest: this.largest.slice(0, this.frames * this.targets.length * KEPT_BLOB_CELLS),
    };
  }

  private makeRoom(length: number): void {
    if (length <= this.largest.length) return;
    const longer = new Int32Array(2 * length);
    longer.set(this.largest);
    this.largest = longer;
  }
}
