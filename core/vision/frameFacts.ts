import type { TapeId, TargetId } from "../names";
import type { CameraSensor } from "../readings";
import type { RuleSet, Target } from "../rules";
import { type Blob, measured, Watch } from "./blob";
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
  /** The largest blob of each target in each frame, five numbers each: left, top, width, height, area; area 0 for none. */
  largest: Int32Array;
}

/** The largest blob of a target, given by its place in the project, in a tape's k-th frame. */
export function largestIn({ largest, t }: Pick<FrameFacts, "largest" | "t">, k: number, target: number) {
  const targets = largest.length / 5 / t.length;
  const [left, top, width, height, area] = largest.subarray(5 * (k * targets + target));
  return area > 0 ? { left, top, width, height, area } : undefined;
}

/** The largest blob of each target that has one in a tape's k-th frame, as the engine takes them. */
export function blobsIn(
  facts: Pick<FrameFacts, "largest" | "t">,
  k: number,
  sensor: CameraSensor,
  targets: readonly Target[],
): ReadonlyMap<TargetId, Blob> {
  return new Map(
    targets.flatMap(({ id }, i) => {
      const blob = largestIn(facts, k, i);
      return blob === undefined ? [] : [[id, measured(blob, sensor)]];
    }),
  );
}

/** Looks at one frame of a tape after another and gathers what they show. */
export class FactGatherer {
  readonly watch: Watch;
  private readonly cleaned: Watch;
  private readonly found: TargetFacts[];
  private readonly boxes: number[] = [];

  constructor(
    private readonly sensor: CameraSensor,
    ruleSet: RuleSet,
    private readonly targets: readonly Target[],
    labels?: PixelLabels,
  ) {
    this.watch = new Watch(sensor, ruleSet, targets, labels);
    const { erode } = sensor.clean;
    this.cleaned = new Watch(
      { ...sensor, clean: { erode: Math.max(1, erode), dilate: 0 } },
      ruleSet,
      targets,
      this.watch.labels,
    );
    this.found = targets.map(({ id }) => ({ target: id, frames: 0, doubled: 0, thin: 0 }));
  }

  /** Looks at a frame; the blobs are those of `watch`. */
  look(frame: Frame): ReturnType<Watch["look"]> {
    const blobs = this.watch.look(frame);
    const { left, top } = this.watch.eye.strip;
    const bare = this.sensor.clean.erode === 0;
    if (bare) this.cleaned.look(frame);
    this.targets.forEach(({ kind }, i) => {
      const list = this.watch.eye.blobs(i + 1);
      const first = kind === "background" || list.length === 0 ? undefined : list.blob(0, left, top);
      this.boxes.push(...(first ? [first.left, first.top, first.width, first.height, first.area] : [0, 0, 0, 0, 0]));
      if (first === undefined) return;
      const facts = this.found[i];
      facts.frames++;
      if (list.length > 1 && list.blob(1).area >= first.area / 2) facts.doubled++;
      // What erosion takes away whole is thinner than its square.
      if (bare && this.cleaned.eye.blobs(i + 1).length < list.length) facts.thin++;
    });
    return blobs;
  }

  /** What the frames of a tape show, those looked at being of the times `t` in ms. */
  of(tape: TapeId, t: ArrayLike<number>): FrameFacts {
    return { tape, t, targets: this.found.filter(({ frames }) => frames > 0), largest: Int32Array.from(this.boxes) };
  }
}
