import type { ProjectDocument } from "@perceptum/core/project";
import type { Sensor } from "@perceptum/core/readings";
import { BenchStand, type StandSettings } from "@perceptum/core/world";
import type { Published } from "../Published";
import type { Live } from "./live";
import { Stream } from "./Stream";

/** After a pause (a hidden page) at most so many readings are made up for. */
const MOST_AT_ONCE = 500;

/** The simulated sensor on its stand. */
export class StandStream extends Stream {
  override readonly origin = "bench";
  private readonly stand: BenchStand;
  private skipped = 0;

  constructor(
    sensor: Sensor,
    project: Pick<ProjectDocument, "lights" | "targets">,
    private settings: StandSettings,
    live: Published<Live>,
  ) {
    super(sensor, live);
    this.stand = new BenchStand(sensor, project.lights, project.targets, settings, Math.floor(this.began) % 1_000_000);
    this.follow();
  }

  override get circumstances() {
    return this.settings;
  }

  set(settings: StandSettings): void {
    this.settings = settings;
    this.stand.set(settings);
    this.since = this.made * this.sensor.periodMs;
  }

  protected override takeDue(): void {
    const due = Math.floor((performance.now() - this.began) / this.sensor.periodMs) + 1 - this.skipped;
    if (due - this.made > MOST_AT_ONCE) this.skipped += due - this.made - MOST_AT_ONCE;
    const until = Math.min(due, this.made + MOST_AT_ONCE);
    while (this.made < until && !this.isFull) this.push(this.made * this.sensor.periodMs, this.stand.read());
  }
}
