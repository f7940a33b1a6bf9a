import type { ReadingsEvent } from "@perceptum/core/live";
import { REPORT_KINDS, type Sensor } from "@perceptum/core/readings";
import { type Circumstances, type Live, Stream } from "../session/Bench";
import type { Published } from "../session/Published";
import type { RobotLink } from "./RobotLink";

/** Readings a second are those of so many ms. */
const RATE_MS = 2000;

/** A robot's readings of one sensor, as they come over a link. */
export class LinkStream extends Stream {
  override readonly origin = "live";
  private readonly close: () => void;
  /** What is added to the robot's clock. */
  private offset: number | null = null;
  private arrivals: { at: number; count: number }[] = [];
  /** Readings of this sensor that were no such readings, and those of sensors that are another's. */
  private strange = 0;

  constructor(
    sensor: Sensor,
    link: RobotLink,
    private readonly light: Circumstances["light"],
    live: Published<Live>,
    /** The project's other sensors, by id and name: what comes of them is another's. */
    private readonly others: ReadonlySet<string> = new Set(),
  ) {
    super(sensor, live);
    this.close = link.onReadings((event) => this.take(event));
    this.follow();
  }

  override get circumstances(): Circumstances {
    return { light: this.light };
  }

  /** What is wrong is shown with the next picture: it may come with every reading. */
  private say(trouble: string | null): void {
    this.trouble = trouble;
  }

  protected override get rate(): number {
    const now = performance.now();
    this.arrivals = this.arrivals.filter(({ at }) => now - at <= RATE_MS);
    return (1000 * this.arrivals.reduce((sum, { count }) => sum + count, 0)) / RATE_MS;
  }

  private take({ s, t, v }: ReadingsEvent): void {
    const { sensor } = this;
    const wanted = REPORT_KINDS[sensor.reports].channels.length;
    const wrong = v.find((raw) => raw.length !== wanted);
    if (this.others.has(s)) return;
    if (s !== sensor.id && s !== sensor.name) {
      this.strange += v.length;
      this.say(
        `${this.strange} readings came of sensors that the project does not have, the last of ${s}; they are left out.`,
      );
      return;
    }
    if (wrong !== undefined) {
      this.say(`A reading came with ${wrong.length} values; ${sensor.name} has ${wanted}. It is left out.`);
      return;
    }
    for (let i = 0; i < v.length && !this.isFull; i++) this.push(this.timeOf(t[i]), v[i]);
    this.arrivals.push({ at: performance.now(), count: v.length });
  }

  /** The time of a reading, later than the one before: a clock that goes back is taken anew from there. */
  private timeOf(t: number | null): number {
    const next = this.made === 0 ? 0 : this.now() + this.sensor.periodMs;
    if (t === null) return next;
    this.offset ??= next - t;
    const own = t + this.offset;
    if (this.made === 0 || own > this.now()) return own;
    this.offset = next - t;
    return next;
  }

  override end(): void {
    super.end();
    this.close();
  }
}
