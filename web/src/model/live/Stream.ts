import { type LightId, MAX_READINGS, nextId, type TargetId } from "@perceptum/core/names";
import { cutReadings, type Mark, type RawReadings, REPORT_KINDS, type Sensor } from "@perceptum/core/readings";
import type { Published } from "../Published";
import { type Live, type Recorded, SHOWN_MS } from "./live";
import { Series } from "./Series";

/** The display keeps so much of the past, in ms. */
const KEPT_MS = 10_000;
/** The display follows so often, in ms: oftener nobody reads a figure. */
const SHOW_EVERY_MS = 66;

/** A recording under way: its beginning in ms and as a place among the readings, and its marks. */
interface Recorder {
  from: number;
  at: number;
  marks: Mark[];
  marking: { target: TargetId; from: number } | null;
}

/** The circumstances in which readings are taken, as marks note them. */
export interface Circumstances {
  light: LightId | null;
  height?: number;
}

/** Readings of one sensor as they come: made when one begins to watch, ended when one leaves. */
export abstract class Stream {
  private readonly t = new Series();
  private readonly columns: Series[];
  private readonly names: readonly (keyof RawReadings["channels"])[];
  protected readonly began = performance.now();
  /** The count of all readings that came. */
  protected made = 0;
  /** The time from which on they are of what is watched now, in ms of the readings. */
  protected since = 0;
  protected trouble: string | null = null;
  private frozen: RawReadings | null = null;
  private recorder: Recorder | null = null;
  private readonly timer: ReturnType<typeof setInterval>;

  constructor(
    readonly sensor: Sensor,
    private readonly live: Published<Live>,
  ) {
    this.names = REPORT_KINDS.get(sensor.reports).channels;
    this.columns = this.names.map(() => new Series());
    this.timer = setInterval(() => this.follow(), SHOW_EVERY_MS);
  }

  abstract get circumstances(): Circumstances;
  /** The origin of its recordings. */
  abstract readonly origin: "bench" | "live";

  /** Readings a second. */
  protected get rate(): number {
    return this.made < 2 ? 0 : (this.made / Math.max(1, performance.now() - this.began)) * 1000;
  }

  /** Takes in what has come since it was last called; nothing where readings come by themselves. */
  protected takeDue(): void {}

  /** Takes in one reading, later than those before it, in ms. */
  protected push(t: number, raw: ArrayLike<number>): void {
    this.t.push(t);
    for (let c = 0; c < this.columns.length; c++) this.columns[c].push(raw[c]);
    this.made++;
  }

  /** Brings the display up to date. */
  protected follow(): void {
    this.takeDue();
    this.forget();
    this.show();
  }

  /** Drops what is neither on display nor recorded. */
  private forget(): void {
    const keep = Math.ceil(KEPT_MS / this.sensor.periodMs);
    const excess =
      (this.recorder === null ? this.t.length - keep : Math.min(this.recorder.at, this.t.length - keep)) - keep;
    if (excess <= 0) return;
    for (const column of [this.t, ...this.columns]) column.drop(excess);
    if (this.recorder) this.recorder.at -= excess;
  }

  /** The readings from the place `from` on, with time counted from `start`. Their columns are views. */
  private cut(from: number, start: number): RawReadings {
    const t = this.t.view(from);
    return {
      t: start === 0 ? t : t.map((at) => Math.max(0, at - start)),
      channels: Object.fromEntries(this.names.map((name, c) => [name, this.columns[c].view(from)])),
    };
  }

  protected now(): number {
    return this.t.last ?? 0;
  }

  private marksSoFar(recorder: Recorder): Mark[] {
    const { marks, marking, from } = recorder;
    return marking === null ? [...marks] : [...marks, this.markOf(marking.target, marking.from, this.now() - from)];
  }

  private markOf(target: TargetId, from: number, to: number): Mark {
    const { light, height } = this.circumstances;
    const id = nextId("mark", this.recorder?.marks ?? []);
    return { id, from, to, target, ...(light !== null && { light }), ...(height !== undefined && { height }) };
  }

  show(): void {
    const keep = Math.ceil(KEPT_MS / this.sensor.periodMs);
    const shown = this.frozen ?? this.cut(Math.max(0, this.t.length - keep), 0);
    const { recorder } = this;
    this.live.set({
      sensor: this.sensor,
      readings: shown,
      since: this.since,
      rate: this.rate,
      frozen: this.frozen !== null,
      recording: recorder && {
        readings: this.cut(
          Math.max(recorder.at, this.t.length - Math.ceil(SHOWN_MS / this.sensor.periodMs)),
          recorder.from,
        ),
        count: this.t.length - recorder.at,
        marks: this.marksSoFar(recorder),
        marking: recorder.marking?.target ?? null,
      },
      trouble: this.trouble,
    });
  }

  freeze(on: boolean): void {
    this.frozen = on ? this.live.get().readings : null;
    this.show();
  }

  record(): void {
    const at = this.t.length;
    // The next one comes a period after the last.
    const from = this.made === 0 ? 0 : this.now() + this.sensor.periodMs;
    this.recorder = { from, at, marks: [], marking: null };
    this.show();
  }

  mark(target: TargetId | null): void {
    const { recorder } = this;
    if (recorder === null || recorder.marking?.target === target) return;
    const t = Math.max(0, this.now() - recorder.from);
    if (recorder.marking !== null) {
      const made = this.markOf(recorder.marking.target, recorder.marking.from, t);
      // One reading is no stretch, and a mark that never held one is none.
      if (made.to > made.from) recorder.marks.push(made);
    }
    recorder.marking =
      target === null ? null : { target, from: recorder.marks.at(-1)?.to === t ? t + this.sensor.periodMs : t };
    this.show();
  }

  /** Tells if the recording holds as much as a tape can. */
  get isFull(): boolean {
    return this.recorder !== null && this.t.length - this.recorder.at >= MAX_READINGS;
  }

  /** Gives the recording so far, from some reading of it on. */
  recordedFrom(count: number): Recorded {
    const { recorder } = this;
    if (recorder === null) return { readings: this.cut(this.t.length, 0), marks: [] };
    return { readings: this.cut(recorder.at + count, recorder.from), marks: this.marksSoFar(recorder) };
  }

  finish(): Recorded | null {
    const { recorder } = this;
    if (recorder === null) return null;
    this.mark(null);
    this.recorder = null;
    // A tape has columns of its own: a worker that is sent a view is sent all that lies behind it.
    const recorded = this.cut(recorder.at, recorder.from);
    const made = { readings: cutReadings(recorded, 0, recorded.t.length), marks: recorder.marks };
    this.show();
    return made.readings.t.length === 0 ? null : made;
  }

  end(): void {
    clearInterval(this.timer);
  }
}
