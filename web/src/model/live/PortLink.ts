import { STOP_LINE } from "@perceptum/core/live";
import type { ProjectDocument } from "@perceptum/core/project";
import { proxy, type Remote } from "comlink";
import { sentence } from "../../server/api";
import type { FromRobot, RobotWorker } from "../../workers/robot.worker";
import type { Surroundings } from "../surroundings";
import { WorkerGone, WorkerLink } from "../WorkerLink";
import { RobotLink } from "./RobotLink";

/** A serial port as the browser has it (Web Serial), as far as it is used here. */
export interface BrowserPort {
  open(options: { baudRate: number }): Promise<void>;
  close(): Promise<void>;
  readonly readable: ReadableStream<Uint8Array> | null;
  readonly writable: WritableStream<Uint8Array> | null;
}

/** The worker answers at once; one that does not for so long is lost, in ms. */
const LIMIT_MS = 5000;

/** The browser's list of serial ports. */
export interface Ports {
  requestPort(): Promise<BrowserPort>;
}

/** A link over a serial port that the browser opens; the behaviour acts in a worker of this page. */
export class PortLink extends RobotLink {
  private readonly worker: WorkerLink<RobotWorker>;
  private writer: WritableStreamDefaultWriter<Uint8Array> | null = null;
  private reader: ReadableStreamDefaultReader<Uint8Array> | null = null;
  private port: BrowserPort | null = null;
  private ended = false;
  private readonly unlisten: () => void;
  /** The work that waits for the worker to stop. */
  private stopped: () => void = () => undefined;

  constructor(
    baud: number,
    private readonly ports: Ports | undefined,
    { startWorker, page }: Surroundings,
  ) {
    super();
    const tell = proxy((message: FromRobot) => this.heard(message));
    this.worker = new WorkerLink(() => startWorker("robot"), {
      limitMs: LIMIT_MS,
      prepare: (remote) => remote.begin(tell),
      broke: (message) => this.broke(message),
    });
    this.unlisten = page.onHide(this.hide);
    void this.run(baud);
  }

  private heard(message: FromRobot): void {
    if ("say" in message) this.write(message.say);
    else if ("readings" in message) this.readings(message.readings);
    else if ("moment" in message) this.moment(message.moment);
    else {
      this.state(message.state);
      this.stopped();
    }
  }

  private ask(question: (remote: Remote<RobotWorker>) => Promise<void>): void {
    this.worker.ask(question).catch((error: Error) => {
      // A worker that broke off tells of itself.
      if (!(error instanceof WorkerGone)) this.broke(error.message);
    });
  }

  /** The robot is not left driving by what does not work any more. */
  private broke(message: string): void {
    if (this.ended) return;
    // The line is given up from here: that it ends then is not said in the place of why.
    this.ended = true;
    this.write(`${STOP_LINE}\n`);
    void this.leave();
    this.close(`What acts on the robot broke off (${message}). The robot was told to stop, and the link is closed.`);
  }

  private async run(baud: number): Promise<void> {
    try {
      const port = await this.ports?.requestPort();
      if (port === undefined) throw new Error("this browser has no serial ports");
      await port.open({ baudRate: baud });
      this.port = port;
      this.writer = port.writable?.getWriter() ?? null;
      this.reader = port.readable?.getReader() ?? null;
      this.change({ phase: "open" });
      const decoder = new TextDecoder();
      for (;;) {
        const { value, done } = (await this.reader?.read()) ?? { value: undefined, done: true };
        if (done) break;
        const part = decoder.decode(value, { stream: true });
        this.ask((remote) => remote.take(part));
      }
      if (!this.ended) this.close("The robot closed the line.");
    } catch (error) {
      const words = (error as Error).name === "NotFoundError" ? "no port was chosen" : (error as Error).message;
      if (!this.ended) this.close(sentence(words));
    }
  }

  private close(trouble: string): void {
    this.unlisten();
    this.worker.end();
    this.over(trouble);
  }

  protected begin(act: string, project: ProjectDocument): void {
    this.ask((remote) => remote.start(act, project));
  }

  protected alter(act: string, project: ProjectDocument): void {
    this.ask((remote) => remote.change(act, project));
  }

  protected watch(act: string): void {
    this.ask((remote) => remote.watch(act));
  }

  protected halt(act: string): void {
    this.ask((remote) => remote.stop(act));
  }

  /** The page goes: the worker would not come to say it any more. */
  private readonly hide = (): void => {
    if (!this.now.get().acting) return;
    this.write(`${STOP_LINE}\n`);
    this.stop();
  };

  private write(text: string): void {
    void this.writer?.write(new TextEncoder().encode(text)).catch(() => undefined);
  }

  private async leave(): Promise<void> {
    this.stopped = () => undefined;
    const { reader, writer, port } = this;
    await reader?.cancel().catch(() => undefined);
    reader?.releaseLock();
    await writer?.close().catch(() => undefined);
    await port?.close().catch(() => undefined);
    this.worker.end();
  }

  override end(): void {
    if (this.ended) return;
    this.ended = true;
    this.unlisten();
    // What the worker says last, the stop, still goes out.
    if (this.now.get().acting) this.stopped = () => void this.leave();
    else void this.leave();
    super.end();
  }
}
