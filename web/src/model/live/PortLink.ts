import { STOP_LINE } from "@perceptum/core/live";
import type { ProjectDocument } from "@perceptum/core/project";
import type { FromRobotWorker, ToRobotWorker } from "../../workers/robot.worker";
import { sentence } from "../server/api";
import { RobotLink } from "./RobotLink";

/** A serial port as the browser has it (Web Serial), as far as it is used here. */
export interface BrowserPort {
  open(options: { baudRate: number }): Promise<void>;
  close(): Promise<void>;
  readonly readable: ReadableStream<Uint8Array> | null;
  readonly writable: WritableStream<Uint8Array> | null;
}

/** What asks for a port; missing where the browser has none. */
export const browserSerial = (): { requestPort(): Promise<BrowserPort> } | undefined =>
  (navigator as { serial?: { requestPort(): Promise<BrowserPort> } }).serial;

/** A link over a serial port that the browser opens; the behaviour acts in a worker of this page. */
export class PortLink extends RobotLink {
  private readonly worker = new Worker(new URL("../../workers/robot.worker.ts", import.meta.url), { type: "module" });
  private writer: WritableStreamDefaultWriter<Uint8Array> | null = null;
  private reader: ReadableStreamDefaultReader<Uint8Array> | null = null;
  private port: BrowserPort | null = null;
  private ended = false;

  constructor(baud: number) {
    super();
    this.worker.onmessage = ({ data }: MessageEvent<FromRobotWorker>) => {
      if ("say" in data) this.write(data.say);
      else if ("readings" in data) this.readings(data.readings);
      else if ("moment" in data) this.moment(data.moment);
      else this.state(data.state);
    };
    window.addEventListener("pagehide", this.hide);
    void this.run(baud);
  }

  private ask(message: ToRobotWorker): void {
    this.worker.postMessage(message);
  }

  private async run(baud: number): Promise<void> {
    try {
      const port = await browserSerial()?.requestPort();
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
        this.ask({ text: decoder.decode(value, { stream: true }) });
      }
      if (!this.ended) this.close("The robot closed the line.");
    } catch (error) {
      const words = (error as Error).name === "NotFoundError" ? "no port was chosen" : (error as Error).message;
      if (!this.ended) this.close(sentence(words));
    }
  }

  private close(trouble: string): void {
    window.removeEventListener("pagehide", this.hide);
    this.worker.terminate();
    this.over(trouble);
  }

  protected begin(act: string, project: ProjectDocument): void {
    this.ask({ begin: act, project });
  }

  protected alter(act: string, project: ProjectDocument): void {
    this.ask({ alter: act, project });
  }

  protected watch(act: string): void {
    this.ask({ watch: act });
  }

  protected halt(act: string): void {
    this.ask({ halt: act });
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

  override end(): void {
    if (this.ended) return;
    this.ended = true;
    window.removeEventListener("pagehide", this.hide);
    const { reader, writer, port, worker } = this;
    const wasActing = this.now.get().acting;
    // What the worker says last, the stop, still goes out.
    const leave = async () => {
      await reader?.cancel().catch(() => undefined);
      reader?.releaseLock();
      await writer?.close().catch(() => undefined);
      await port?.close().catch(() => undefined);
      worker.terminate();
    };
    worker.addEventListener("message", ({ data }: MessageEvent<FromRobotWorker>) => {
      if ("state" in data) void leave();
    });
    if (!wasActing) void leave();
    super.end();
  }
}
