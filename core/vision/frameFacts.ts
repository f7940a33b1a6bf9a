import type { TapeId, TargetId } from "../names";
import type { CameraSensor } from "../readings";
import type { RuleSet, Target } from "../rules";
import { Watch } from "./blob";
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
}

/** Looks at one frame of a tape after another and gathers what they show. */
export class FactGatherer {
  readonly watch: Watch;
  private readonly cleaned: Watch;
  private readonly found: TargetFacts[];

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
    const bare = this.sensor.clean.erode === 0;
    if (bare) this.cleaned.look(frame);
    this.targets.forEach(({ kind }, i) => {
      if (kind === "background") return;
      const list = this.watch.eye.blobs(i + 1);
      if (list.length === 0) return;
      const facts = this.found[i];
      facts.frames++;
      if (list.length > 1 && list.blob(1).area >= list.blob(0).area / 2) facts.doubled++;
      // What erosion takes away whole is thinner than its square.
      if (bare && this.cleaned.eye.blobs(i + 1).length < list.length) facts.thin++;
    });
    return blobs;
  }

  get facts(): TargetFacts[] {
    return this.found.filter(({ frames }) => frames > 0);
  }
}
