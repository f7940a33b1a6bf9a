import {
  type Address,
  LineSplitter,
  readAddress,
  readToRobotLine,
  SILENCE_MS,
  SimulatedRobot,
  type ToRobotLine,
} from "@perceptum/core/live";
import { ENDING_WORDS, RunError } from "@perceptum/core/world";
import { listenAt, openPty, openRobotMqtt, type Wire, type WireListener } from "@perceptum/wires";
import { InputError, jsonLinesFile, openDocument, wholeNumber } from "./input";
import { writeTo } from "./run";

export interface RobotOptions {
  course: string;
  start?: string;
  light?: string;
  seed?: string;
  link: string;
  speed?: string;
  trace?: string;
}

const LINKS = "-, tcp://:port, pty, mqtt://host/topic";

/** Where it is driven from; `tcp://:4190` listens on this machine alone. @throws InputError */
function linkOf(link: string): Exclude<Address, { by: "serial" }> | { by: "pty" } {
  if (link === "pty") return { by: "pty" };
  // It listens: any free port will do for that.
  if (link === "tcp://:0") return { by: "tcp", host: "127.0.0.1", port: 0 };
  const address = readAddress(link.replace(/^tcp:\/\/:/, "tcp://127.0.0.1:"));
  if ("problem" in address || address.by === "serial")
    throw new InputError(`“${link}” is no line that a simulated robot has; there is ${LINKS}`);
  return address;
}

/** How much faster than the clock; 0: as fast as it is answered. @throws InputError */
function speedOf(text: string | undefined): number {
  const speed = Number(text ?? "1");
  if (!Number.isFinite(speed) || speed < 0 || speed > 100)
    throw new InputError(`“${text}” is no speed; one is from 0 (as fast as it is answered) to 100`);
  return speed;
}

const say = (words: string) => void process.stderr.write(`perceptum: ${words}\n`);

/** The simulated robot behind its line: it says what it reads, does what it is told, and is driven by whoever answers. */
class DrivenRobot {
  wire: Wire | null = null;
  private heardAt = performance.now();
  private wasStopped = false;
  private readonly lines = new LineSplitter((line) => line !== null && this.hear(line));
  /** Goes on once a question was answered, or the line is over. */
  private answered: ((finished: boolean) => void) | null = null;
  private asked = 0;
  private begin: () => void = () => undefined;
  /** Somebody was heard, or is there. */
  readonly driven = new Promise<void>((done) => {
    this.begin = done;
  });
  private timer: ReturnType<typeof setInterval> | undefined;
  private over = false;

  constructor(
    private readonly robot: SimulatedRobot,
    private readonly speed: number,
  ) {}

  readonly hears: WireListener = {
    text: (part) => {
      this.lines.feed(part);
      this.begin();
    },
    closed: () => {
      this.wire = null;
      this.answered?.(false);
    },
  };

  comes(wire: Wire): void {
    this.wire = wire;
    wire.send(`${JSON.stringify(this.robot.hello())}\n`);
    this.begin();
  }

  private hear(line: string): void {
    let read: ToRobotLine;
    try {
      read = readToRobotLine(line);
    } catch {
      return; // a robot passes over what it does not know
    }
    this.heardAt = performance.now();
    this.robot.hear(read);
    if ("done" in read && read.done === this.asked) this.answered?.(read.finished === true);
  }

  /** Goes no further. */
  leave(): void {
    this.over = true;
    clearInterval(this.timer);
    this.answered?.(false);
  }

  /** Drives the course to its end. Gives how it ended, null where nobody answered. */
  async drive(): Promise<string | null> {
    await this.driven;
    this.heardAt = performance.now();
    return this.speed === 0 ? this.inLockstep() : this.byClock();
  }

  private send(lines: readonly object[]): void {
    if (lines.length > 0) this.wire?.send(lines.map((line) => `${JSON.stringify(line)}\n`).join(""));
  }

  /** Each tick waits until what it says is answered: the same world as a run, however slow the line is. */
  private async inLockstep(): Promise<string | null> {
    while (this.wire !== null && !this.over) {
      const lines = this.robot.look();
      this.asked++;
      const answer = new Promise<boolean | null>((done) => {
        const silence = setTimeout(() => done(null), SILENCE_MS);
        this.answered = (finished) => {
          clearTimeout(silence);
          done(this.wire === null || this.over ? null : finished);
        };
      });
      this.send([...lines, { ask: this.asked, t: this.robot.t }]);
      const finished = await answer;
      this.answered = null;
      if (finished === null) return null;
      const ending = this.robot.step(finished);
      if (ending !== null) return ENDING_WORDS[ending];
    }
    return null;
  }

  private byClock(): Promise<string> {
    const began = performance.now();
    return new Promise((done) => {
      this.timer = setInterval(() => {
        const due = (performance.now() - began) * this.speed;
        while (this.robot.t <= due) {
          // By the clock on the wall: who drives it lives there.
          const isStopped = performance.now() - this.heardAt > SILENCE_MS;
          if (isStopped !== this.wasStopped)
            say(isStopped ? "nothing was heard for 1.5 s: the robot stopped" : "somebody is heard again");
          this.wasStopped = isStopped;
          if (isStopped) this.robot.brake();
          this.send(this.robot.look());
          const ending = this.robot.step();
          if (ending === null) continue;
          clearInterval(this.timer);
          done(ENDING_WORDS[ending]);
          return;
        }
      }, 1);
    });
  }
}

/** A simulated robot on a course that speaks the protocol. Exit code 1 where nobody answered it. */
export async function robotCommand(projectFile: string, options: RobotOptions): Promise<number> {
  const { document } = openDocument(projectFile);
  const link = linkOf(options.link);
  const speed = speedOf(options.speed);
  const { course, start, light } = options;
  const trace = jsonLinesFile(options.trace);
  const seed = wholeNumber("seed", options.seed ?? "1", 0, 2_147_483_647);
  const choice = { course, seed, ...(start !== undefined && { start }), ...(light !== undefined && { light }) };
  let robot: SimulatedRobot;
  try {
    robot = new SimulatedRobot(document, choice);
  } catch (error) {
    if (error instanceof RunError) throw new InputError(error.message);
    throw error;
  }
  const driven = new DrivenRobot(robot, speed);
  const end = await opened(link, driven, options.link);
  let leave: (words: string) => void = () => undefined;
  const left = new Promise<string>((done) => {
    leave = done;
  });
  const stop = () => leave("it was stopped");
  process.once("SIGINT", stop);
  process.once("SIGTERM", stop);
  const words = await Promise.race([driven.drive(), left]);
  driven.leave();
  end();
  if (trace !== undefined) writeTo(trace, robot.trace());
  say(words === null ? "nobody answers: the robot stopped" : `${words}, after ${robot.t / 1000} s`);
  return words === null ? 1 : 0;
}

/** Opens the robot's line; gives what closes it. @throws InputError */
async function opened(link: ReturnType<typeof linkOf>, driven: DrivenRobot, words: string): Promise<() => void> {
  try {
    if (link.by === "stdio") {
      process.stdin.setEncoding("utf8");
      process.stdin.on("data", (text) => driven.hears.text(String(text)));
      process.stdin.on("end", () => driven.hears.closed());
      process.stdout.on("error", () => driven.hears.closed());
      driven.comes({ send: (text) => void process.stdout.write(text), end: () => undefined });
      return () => process.stdin.destroy();
    }
    if (link.by === "tcp") {
      const { port, end } = await listenAt(link, driven.hears, (wire) => driven.comes(wire));
      say(`the robot listens at tcp://${link.host}:${port}`);
      return end;
    }
    const wire = link.by === "pty" ? await openPty(driven.hears) : await openRobotMqtt(link, driven.hears);
    if ("path" in wire) say(`the robot's line is ${wire.path}`);
    else say(`the robot says its lines under ${words}`);
    driven.wire = wire;
    // Whoever opens the line later shall know who it is: it says so when it is first heard.
    void driven.driven.then(() => driven.comes(wire));
    return () => wire.end();
  } catch (error) {
    throw new InputError(`${words} cannot be opened: ${(error as Error).message}`);
  }
}
