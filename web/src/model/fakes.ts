import type { TapeId } from "@perceptum/core/names";
import type { RawReadings } from "@perceptum/core/readings";
import { expose } from "comlink";
import type { KeptChange, KeptWork, RecordingPart } from "./session/kept";
import type { OwnWindow, PageLife, Surroundings } from "./surroundings";

/** For tests: what is kept, in memory. `full` has no room. */
export class FakeKept implements KeptWork {
  held: KeptChange[] = [];
  readonly tapes = new Map<string, RawReadings>();
  readonly frames = new Map<string, Uint8Array<ArrayBuffer>>();
  parts: RecordingPart[] = [];
  full = false;
  /** It does not tell what it holds. */
  broken = false;

  private needRoom(): void {
    if (this.full) throw new DOMException("no room", "QuotaExceededError");
  }

  async keep(change: KeptChange): Promise<void> {
    this.needRoom();
    this.held = [...this.without(change.project, change.window), structuredClone(change)];
  }
  async forget(project: string, window: string): Promise<void> {
    this.held = this.without(project, window);
  }
  private without(project: string, window: string): KeptChange[] {
    return this.held.filter((kept) => kept.project !== project || kept.window !== window);
  }
  async changes(project?: string): Promise<KeptChange[]> {
    if (this.broken) throw new DOMException("the store is damaged");
    return this.held.filter((kept) => project === undefined || kept.project === project);
  }
  async keepReadings(project: string, tape: TapeId, readings: RawReadings): Promise<void> {
    this.needRoom();
    this.tapes.set(`${project} ${tape}`, readings);
  }
  async readings(project: string, tape: TapeId): Promise<RawReadings | undefined> {
    return this.tapes.get(`${project} ${tape}`);
  }
  async forgetReadings(project: string, tapes: Iterable<TapeId>): Promise<void> {
    for (const tape of tapes) this.tapes.delete(`${project} ${tape}`);
  }
  async keepFrame(project: string, name: string, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
    this.needRoom();
    this.frames.set(`${project} ${name}`, bytes);
  }
  async frame(project: string, name: string): Promise<Uint8Array<ArrayBuffer> | undefined> {
    return this.frames.get(`${project} ${name}`);
  }
  async forgetFrames(project: string, names: Iterable<string>): Promise<void> {
    for (const name of names) this.frames.delete(`${project} ${name}`);
  }
  async keepRecording(part: RecordingPart): Promise<void> {
    this.needRoom();
    this.parts = [...this.parts, structuredClone(part)];
  }
  async recordings(project: string): Promise<RecordingPart[]> {
    if (this.broken) throw new DOMException("the store is damaged");
    return this.parts.filter((part) => part.project === project);
  }
  async forgetRecording(project: string, window: string): Promise<void> {
    this.parts = this.parts.filter((part) => part.project !== project || part.window !== window);
  }
}

/** For tests: a window of a tab, which may have been loaded anew. */
export class FakeWindow implements OwnWindow {
  /** The work that the tab noted for its next page. */
  left: KeptChange | null = null;

  constructor(
    readonly name: string,
    readonly before: string | null = null,
    /** The other windows that are open. */
    readonly alive: Set<string> = new Set(),
  ) {}

  /** The same tab with its page loaded anew. */
  loadedAnew(name: string): FakeWindow {
    const next = new FakeWindow(name, this.name, this.alive);
    next.left = this.left;
    return next;
  }
  leave(change: KeptChange): void {
    this.left = change;
  }
  takeLeft(project: string): KeptChange | null {
    const { left } = this;
    if (left?.project !== project) return null;
    this.left = null;
    return left;
  }
  async others(): Promise<ReadonlySet<string>> {
    return this.alive;
  }
}

/** For tests: a page that goes away when it is told to. */
export class FakePage implements PageLife {
  private readonly hears = new Set<() => void>();
  private readonly askers = new Set<() => boolean>();

  readonly onHide = (hear: () => void) => {
    this.hears.add(hear);
    return () => void this.hears.delete(hear);
  };
  readonly onLeave = (asks: () => boolean) => {
    this.askers.add(asks);
    return () => void this.askers.delete(asks);
  };
  private readonly fails = new Set<(error: unknown) => void>();
  readonly onFailure = (hear: (error: unknown) => void) => {
    this.fails.add(hear);
    return () => void this.fails.delete(hear);
  };
  fail(error: unknown): void {
    for (const hear of this.fails) hear(error);
  }
  hide(): void {
    for (const hear of this.hears) hear();
  }
  /** Whether the person would be asked. */
  get asks(): boolean {
    return [...this.askers].map((ask) => ask()).some(Boolean);
  }
}

/** For tests: a worker that never answers. */
export class SilentWorker extends EventTarget {
  ended = false;
  postMessage(): void {}
  terminate(): void {
    this.ended = true;
  }
}

/** For tests: a worker that answers as an object does, without one. */
export function workerOf(answers: object): Worker {
  const { port1, port2 } = new MessageChannel();
  expose(answers, port1);
  port2.start();
  return Object.assign(port2, { terminate: () => port1.close() }) as unknown as Worker;
}

/** For tests: surroundings in memory; workers are silent where nothing else is said. */
export const fakeSurroundings = (own: Partial<Surroundings> = {}): Surroundings => ({
  kept: new FakeKept(),
  window: new FakeWindow("w"),
  page: new FakePage(),
  startWorker: () => new SilentWorker() as unknown as Worker,
  spares: { judge: [], mentor: [] },
  cores: 2,
  ...own,
});
