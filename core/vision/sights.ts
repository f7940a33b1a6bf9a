import type { TargetId } from "../names";
import { type Steady, type Steadying, steady, steadyingOf } from "../rules";

/** Steadies what a camera sees, frame after frame: each target by itself, like the labels of a sensor that sees nothing else. */
export class Sights {
  private readonly steadying: Steadying;

  constructor(
    private readonly targets: readonly TargetId[],
    settings: Steady,
  ) {
    this.steadying = steadyingOf(targets.map(() => settings));
  }

  /** Takes in which targets have a blob in the frame at time `t` (ms). */
  take(blobs: ReadonlyMap<TargetId, unknown>, t: number): void {
    this.targets.forEach((target, i) => {
      steady(this.steadying, i, blobs.has(target) ? i + 1 : 0, t);
    });
  }

  /** Tells whether the target of a place is seen. */
  isSeen(place: number): boolean {
    return this.steadying.seen[place] !== 0;
  }
}
