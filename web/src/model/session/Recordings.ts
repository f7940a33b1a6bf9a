import type { TapeId } from "@perceptum/core/names";
import { decodeReadings, encodeReadings, type RawReadings } from "@perceptum/core/readings";
import { Published } from "../Published";
import type { Surroundings } from "../surroundings";
import type { Frames } from "./Frames";
import type { Recorded, RecordedTape, RecordingPart } from "./kept";

/** Keeps the new part of a recording so often, in ms. */
const KEEP_EVERY_MS = 2000;
/** A new tape is saved, or in the browser, within this time, in ms. */
const FORGET_AFTER_MS = 10_000;

/** A recording that was under way when its page went. */
export interface LeftRecording extends RecordedTape, Recorded {
  window: string;
  /** When it was kept last. */
  at: number;
}

/**
 * Keeps what is being recorded in the browser, part by part, until it is a tape: a page that is loaded anew, closed or
 * killed loses its last moments at most, and the next visit offers the rest.
 */
export class Recordings {
  /** Recordings that earlier visits left, the latest first. */
  readonly left = new Published<readonly LeftRecording[]>([]);
  private underWay: { of: RecordedTape; from: (count: number) => Recorded } | null = null;
  private count = 0;
  private part = 0;
  /** Whether it was told that what is recorded cannot be kept. */
  private isTold = false;
  private timer: ReturnType<typeof setInterval> | undefined;
  private stopListening: () => void = () => undefined;
  private keeping: Promise<void> = Promise.resolve();

  constructor(
    private readonly project: string,
    private readonly surroundings: Surroundings,
    private readonly frames: Frames,
    private readonly tell: (sentence: string) => void,
  ) {}

  /** The tape that is being recorded; null while none is. */
  get of(): RecordedTape | null {
    return this.underWay?.of ?? null;
  }

  /** A recording begins; `from` gives what it holds from some reading on. */
  begin(of: RecordedTape, from: (count: number) => Recorded): void {
    this.underWay = { of, from };
    this.count = 0;
    this.part = 0;
    this.isTold = false;
    this.forgetOwn();
    const { page } = this.surroundings;
    const leaves = [page.onHide(this.keep), page.onLeave(this.asks)];
    this.stopListening = () => {
      for (const leave of leaves) leave();
    };
    this.timer = setInterval(() => this.keep(), KEEP_EVERY_MS);
  }

  /** The parts that this window kept are wanted no more. */
  private forgetOwn(): void {
    const { kept, window } = this.surroundings;
    this.keeping = this.keeping.then(() => kept.forgetRecording(this.project, window.name)).catch(() => undefined);
  }

  /** Keeps what is new. */
  private readonly keep = (): void => {
    const { underWay, project } = this;
    if (underWay === null) return;
    const { window, kept } = this.surroundings;
    const { readings, marks, frames } = underWay.from(this.count);
    if (readings.t.length === 0) return;
    this.count += readings.t.length;
    const bytes = encodeReadings(readings);
    const part = { ...underWay.of, project, window: window.name, part: this.part++, bytes, marks, at: Date.now() };
    const work = async () => {
      for (const name of frames ?? []) {
        const bytes = this.frames.unsent.get(name);
        if (bytes !== undefined) await kept.keepFrame(project, name, bytes);
      }
      await kept.keepRecording({ ...part, ...(frames && { frames }) });
    };
    // A browser without room lets the recording go on, which is kept when it ends.
    this.keeping = this.keeping.then(work).catch((error: Error) => {
      if (!this.isTold)
        this.tell(
          `What is being recorded cannot be kept in this browser (${error.message}). It is in this page alone until it ends: leave the page open.`,
        );
      this.isTold = true;
    });
  };

  /** The recording has become a tape, or it was empty. Its parts stay until the tape is surely kept as such. */
  end(): void {
    if (this.underWay === null) return;
    this.underWay = null;
    clearInterval(this.timer);
    this.stopListening();
    setTimeout(() => {
      if (this.underWay === null) this.forgetOwn();
    }, FORGET_AFTER_MS);
  }

  /** Looks for recordings of windows that are gone; those that became tapes are forgotten. */
  async look(isGone: (window: string) => boolean, tapes: ReadonlySet<TapeId>): Promise<void> {
    const { project } = this;
    const { kept } = this.surroundings;
    const parts = (await kept.recordings(project)).filter(({ window }) => isGone(window));
    const found: LeftRecording[] = [];
    for (const window of new Set(parts.map((part) => part.window))) {
      const own = parts.filter((part) => part.window === window).sort((a, b) => a.part - b.part);
      const last = own[own.length - 1];
      if (tapes.has(last.tape)) {
        await kept.forgetRecording(project, window);
        continue;
      }
      const frames = own.flatMap((part) => part.frames ?? []);
      found.push({ ...last, readings: joined(own), ...(last.frames && { frames }) });
    }
    this.left.set(found.sort((a, b) => b.at - a.at));
  }

  /** The frames of a recording that was left are here again. */
  async takeFrames({ frames = [] }: LeftRecording): Promise<void> {
    for (const name of frames) {
      const bytes = await this.surroundings.kept.frame(this.project, name);
      if (bytes !== undefined) this.frames.add(name, bytes);
    }
  }

  /** A recording that was left is wanted no more, or is a tape now. */
  async forget({ window }: LeftRecording): Promise<void> {
    this.left.set(this.left.get().filter((other) => other.window !== window));
    await this.surroundings.kept.forgetRecording(this.project, window).catch(() => undefined);
  }

  /** Asks before the page is left while something is recorded. */
  private readonly asks = (): boolean => {
    this.keep();
    return true;
  };
}

/** Chunks of one kind are joined as they are. */
function joined(parts: readonly RecordingPart[]): RawReadings {
  const whole = new Uint8Array(parts.reduce((sum, { bytes }) => sum + bytes.length, 0));
  let at = 0;
  for (const { bytes } of parts) {
    whole.set(bytes, at);
    at += bytes.length;
  }
  return decodeReadings(whole);
}
