import type { Blocks } from "@perceptum/core/readings";
import { type MarkedTape, markedTapes } from "@perceptum/core/teaching";
import type { Readings } from "../session/Readings";
import type { AppStore } from "../store/store";

/** Every tape with its marks laid over its features; laid anew, once for all who ask, when tapes, sensors, targets or readings change. */
export class MarkedTapes {
  private of: readonly unknown[] = [];
  private tapes: readonly MarkedTape[] = [];

  constructor(
    private readonly store: AppStore,
    private readonly readings: Readings,
    private readonly blocks: Blocks,
  ) {}

  readonly subscribe = (listener: () => void) => {
    const off = [this.store.subscribe(listener), this.readings.version.subscribe(listener)];
    return () => {
      for (const end of off) end();
    };
  };

  readonly get = (): readonly MarkedTape[] => {
    const { present } = this.store.getState().document;
    if (present === null) return this.tapes;
    const { tapes, sensors, targets } = present;
    const of = [tapes, sensors, targets, this.readings.version.get()];
    if (of.some((part, i) => part !== this.of[i])) {
      this.of = of;
      const { heads, readings } = this.readings.taughtBy(tapes);
      this.tapes = markedTapes({ tapes: heads, sensors, targets }, readings, this.blocks);
    }
    return this.tapes;
  };
}
