import { closeSync, openSync, writeSync } from "node:fs";
import { type Address, type LiveMoment, LiveRobot, linesOf, readAddress } from "@perceptum/core/live";
import { openWire, type Wire } from "@perceptum/wires";
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

/** Where a line is. @throws InputError */
export function addressOf(link: string): Address {
  const address = readAddress(link);
  if ("problem" in address) throw new InputError(address.problem);
  return address;
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
  const address = addressOf(options.link);
  const tape = opened(options.tape);
  const trace = opened(options.trace);
  /** Says lines to the robot; set once there is one. */
  let say: (lines: readonly string[]) => void = (lines) => {
    if (lines.length > 0) process.stdout.write(`${lines.join("\n")}\n`);
  };
  const told = (moment: LiveMoment) => {
    trace.write(`${JSON.stringify(moment)}\n`);
    if (!options.watch) say(linesOf(moment));
    else if (address.by === "stdio") say(moment.notes.map((note) => JSON.stringify(note)));
  };
  const robot = new LiveRobot(document, told, (line) => say([JSON.stringify(line)]));
  const finish = (code: number, words: string) => {
    tape.close();
    trace.close();
    process.stderr.write(`perceptum: ${words}: ${summary(robot)}\n`);
    return code;
  };
  if (address.by === "stdio") {
    process.stdin.setEncoding("utf8");
    for await (const text of process.stdin) {
      tape.write(text as string);
      robot.feed(text as string);
    }
    robot.end();
    return finish(0, "the lines ended");
  }
  let lastAt = 0;
  let ended: [code: number, words: string] | null = null;
  let over: (code: number) => void = () => undefined;
  const ending = new Promise<number>((done) => {
    over = done;
  });
  const hears = {
    text: (text: string) => {
      lastAt = performance.now();
      tape.write(text);
      if (ended !== null) return;
      robot.feed(text, lastAt);
      // A robot writes what belongs to one moment at once.
      robot.settle();
    },
    paused: (why: string | null) =>
      void process.stderr.write(
        `perceptum: ${why === null ? "the broker is there again" : `${why}; it is tried again`}\n`,
      ),
    closed: (why?: string) => {
      robot.end();
      const [code, words] = ended ?? [1, `the line to ${options.link} was lost${why === undefined ? "" : ` (${why})`}`];
      over(finish(code, words));
    },
  };
  let wire: Wire;
  try {
    wire = await openWire(address, hears);
  } catch (error) {
    return finish(1, `the line to ${options.link} could not be opened (${(error as Error).message})`);
  }
  say = (lines) => {
    if (lines.length > 0) wire.send(`${lines.join("\n")}\n`);
  };
  let alive = 0;
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
    wire.end();
  };
  const stop = () => leave(0, "stopped");
  process.once("SIGINT", stop);
  process.once("SIGTERM", stop);
  const code = await ending;
  clearInterval(ticking);
  clearInterval(living);
  process.off("SIGINT", stop);
  process.off("SIGTERM", stop);
  return code;
}
