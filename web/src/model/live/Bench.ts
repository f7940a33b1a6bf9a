import type { TargetId } from "@perceptum/core/names";
import { Published } from "../Published";
import type { Live, Recorded } from "./live";
import type { Stream } from "./Stream";

const NOT_LIVE: Live = {
  sensor: null,
  readings: { t: new Float64Array(), channels: {} },
  since: 0,
  rate: 0,
  frozen: false,
  recording: null,
  trouble: null,
};

/** What streams in an open project: one sensor at a time, from the bench or over a link. */
export class Bench {
  readonly live = new Published<Live>(NOT_LIVE);
  private stream: Stream | null = null;

  /** Begins to stream; what streamed before ends. */
  start<S extends Stream>(made: (live: Published<Live>) => S): S {
    this.stream?.end();
    const stream = made(this.live);
    this.stream = stream;
    return stream;
  }

  /** Ends the stream. */
  stop(): void {
    this.stream?.end();
    this.stream = null;
    this.live.set(NOT_LIVE);
  }

  freeze(on: boolean): void {
    this.stream?.freeze(on);
  }

  get isRecording(): boolean {
    return this.live.get().recording !== null;
  }

  /** Begins to record; gives what is recorded, and what it holds from some reading on. Null where nothing streams. */
  record(): (Pick<Stream, "sensor" | "origin" | "circumstances"> & { from: (count: number) => Recorded }) | null {
    const { stream } = this;
    if (stream === null) return null;
    stream.record();
    const { sensor, origin, circumstances } = stream;
    return { sensor, origin, circumstances, from: (count) => stream.recordedFrom(count) };
  }

  /** Marks from now on, or ends the mark. */
  mark(target: TargetId | null): void {
    this.stream?.mark(target);
  }

  /** Ends recording: the readings from its beginning, with their marks; null where none came. */
  finish(): Recorded | null {
    return this.stream?.finish() ?? null;
  }
}
