import { closeSync, openSync, writeSync } from "node:fs";
import { connect } from "node:net";
import { type LiveMoment, LiveRobot, linesOf } from "@perceptum/core/live";
import { InputError, openDocument } from "./input";

export interface LiveOptions {
  link: string;
  watch?: boolean;
  tape?: string;
  trace?: string;
}

/** A robot hears that somebody is there so often, in ms. */
const ALIVE_MS = 500;
/** So often time is carried on where nothing comes, in ms. */
const TICK_MS = 5;

/** How a link is written. */
const LINKS = "-, tcp://host:port";

/** A file that is written to part by part; nothing where none is named. @throws InputError */
function opened(file: string | undefined): { write: (text: string) => void; close: () => void } {
  if (file === undefined) return { write: () => undefined, close: () => undefined };
  try {
    const descriptor = openSync(file, "w");
    return { write: (text) => void writeSync(descriptor, text), close: () => closeSync(descriptor) };
  } catch (error) {
    throw new InputError(`${file}: ${(error as Error).message}`);
  }
}

/** The host and port of `tcp://host:port`. @throws InputError */
function addressOf(link: string): { host: string; port: number } {
  const [, host, digits] = /^tcp:\/\/(\[[0-9a-f:]+\]|[^:/]+):(\d{1,5})$/i.exec(link) ?? [];
  const port = Number(digits);
  if (host === undefined || port < 1 || port > 65_535) throw new InputError(`“${link}” is no link; there is ${LINKS}`);
  return { host: host.replace(/[[\]]/g, ""), port };
}

/** What is told behind the work, on standard error. */
const summary = ({ counts }: LiveRobot): string =>
  `${counts.readings} readings in ${counts.lines} lines, ${counts.refused} refused${counts.jumps === 0 ? "" : `, the clock jumped ${counts.jumps} times`}`;

/**
 * The project's behaviour behind a robot's line: its readings come in, commands go out, a JSON object a line. On
 * standard input and output no time passes but the readings' own. Gives the exit code: 1 where the line was lost.
 */
export async function liveCommand(projectFile: string, options: LiveOptions): Promise<number> {
  const { document } = openDocument(projectFile);
  const address = options.link === "-" ? null : addressOf(options.link);
  const tape = opened(options.tape);
  const trace = opened(options.trace);
  /** Says lines to the robot; set once there is one. */
  let say: (lines: readonly string[]) => void = (lines) => {
    if (lines.length > 0) process.stdout.write(`${lines.join("\n")}\n`);
  };
  const told = (moment: LiveMoment) => {
    trace.write(`${JSON.stringify(moment)}\n`);
    if (!options.watch) say(linesOf(moment));
    else if (address === null) say(moment.notes.map((note) => JSON.stringify(note)));
  };
  const robot = new LiveRobot(document, told, (line) => say([JSON.stringify(line)]));
  const finish = (code: number, words: string) => {
    tape.close();
    trace.close();
    process.stderr.write(`perceptum: ${words}: ${summary(robot)}\n`);
    return code;
  };
  if (address === null) {
    process.stdin.setEncoding("utf8");
    for await (const text of process.stdin) {
      tape.write(text as string);
      robot.feed(text as string);
    }
    robot.end();
    return finish(0, "the lines ended");
  }
  return new Promise((done) => {
    const socket = connect(address);
    socket.setNoDelay(true);
    socket.setEncoding("utf8");
    say = (lines) => {
      if (lines.length > 0 && socket.writable) socket.write(`${lines.join("\n")}\n`);
    };
    let alive = 0;
    let lastAt = 0;
    let ended: [code: number, words: string] | null = null;
    const ticking = setInterval(() => {
      if (lastAt > 0) robot.passTime(performance.now() - lastAt);
      if (robot.finished) leave(0, "the behaviour has finished");
    }, TICK_MS);
    const living = setInterval(() => !options.watch && say([JSON.stringify({ alive: ++alive })]), ALIVE_MS);
    /** The robot stops, whatever it does, before the line ends. */
    const leave = (code: number, words: string) => {
      if (ended !== null) return;
      ended = [code, words];
      if (!options.watch) say(['{"stop":"brake"}']);
      socket.end();
    };
    const stop = () => leave(0, "stopped");
    process.once("SIGINT", stop);
    process.once("SIGTERM", stop);
    socket.on("data", (text) => {
      lastAt = performance.now();
      tape.write(String(text));
      if (ended !== null) return;
      robot.feed(String(text), lastAt);
      // A robot writes what belongs to one moment at once.
      robot.settle();
    });
    let broken = "";
    socket.on("error", (error: NodeJS.ErrnoException) => {
      broken = error.code === "ECONNREFUSED" ? "nothing listens there" : error.message;
    });
    socket.on("close", () => {
      clearInterval(ticking);
      clearInterval(living);
      process.off("SIGINT", stop);
      process.off("SIGTERM", stop);
      robot.end();
      const [code, words] = ended ?? [1, `the line to ${options.link} was lost${broken === "" ? "" : ` (${broken})`}`];
      done(finish(code, words));
    });
  });
}
