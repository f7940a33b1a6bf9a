import { beyondScale, type ReadingsEvent } from "@perceptum/core/live";
import { REPORT_KINDS, type Sensor } from "@perceptum/core/readings";
import type { Published } from "../Published";
import type { Live } from "./live";
import type { RobotLink } from "./RobotLink";
import { type Circumstances, Stream } from "./Stream";

/** Readings a second are those of so many ms. */
const RATE_MS = 2000;
/** A trouble is said for at least so long, in ms. */
const SAID_MS = 3000;

/** A robot's readings of one sensor, as they come over a link. */
export class LinkStream extends Stream {
  override readonly origin = "live";
  private readonly close: () => void;
  /** What is added to the robot's clock. */
  private offset: number | null = null;
  private arrivals: { at: number; count: number }[] = [];
  /** The time at which something was wrong last. */
  private wrongAt = 0;

  constructor(
    sensor: Sensor,
    link: RobotLink,
    /** The light that it is now. */
    private readonly light: () => Circumstances["light"],
    live: Published<Live>,
    /** Whether a name is of this sensor, or of another of the project's; undefined: of none. */
    private readonly isOwn: (name: string) => boolean | undefined,
    /** Hears of a name that the project does not know. */
    private readonly strange: (name: string) => void,
  ) {
    super(sensor, live);
    this.close = link.onReadings((event) => this.take(event));
    this.follow();
  }

  override get circumstances(): Circumstances {
    return { light: this.light() };
  }

  /** What is wrong is shown with the next picture: it may come with every reading. */
  private say(trouble: string): void {
    this.trouble = trouble;
    this.wrongAt = performance.now();
  }

  /** Takes a trouble back when nothing was wrong for a while. */
  private wellAgain(): void {
    if (performance.now() - this.wrongAt > SAID_MS) this.trouble = null;
  }

  protected override get rate(): number {
    const now = performance.now();
    this.arrivals = this.arrivals.filter(({ at }) => now - at <= RATE_MS);
    return (1000 * this.arrivals.reduce((sum, { count }) => sum + count, 0)) / RATE_MS;
  }

  private take({ s, t, v }: ReadingsEvent): void {
    const { sensor } = this;
    const wanted = REPORT_KINDS.get(sensor.reports).channels.length;
    const wrong = v.find((raw) => raw.length !== wanted);
    const own = this.isOwn(s);
    if (own === undefined) this.strange(s);
    if (!own) return;
    if (wrong !== undefined) {
      this.say(`A reading came with ${wrong.length} values; ${sensor.name} has ${wanted}. It is left out.`);
      return;
    }
    const beyond = v.map((raw) => beyondScale(sensor, raw)).find((words) => words !== undefined);
    if (beyond === undefined) this.wellAgain();
    else this.say(`${beyond}. It is taken for the end of the scale: set the scale of the sensor right.`);
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
