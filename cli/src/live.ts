import { closeSync, openSync, writeSync } from "node:fs";
import {
  DRIVE_EVERY_MS,
  Driver,
  type LiveCounts,
  type LiveMoment,
  LiveRobot,
  linesOf,
  readAddress,
} from "@perceptum/core/live";
import { openWire, type Wire } from "@perceptum/wires";
import { InputError, openDocument } from "./input";

export interface LiveOptions {
  link: string;
  watch?: boolean;
  tape?: string;
  trace?: string;
}

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

/** What is told behind the work, on standard error. */
const summary = (counts: LiveCounts): string =>
  `${counts.readings} readings in ${counts.lines} lines, ${counts.refused} refused${counts.jumps === 0 ? "" : `, the clock jumped ${counts.jumps} times`}`;

/**
 * The project's behaviour behind a robot's line: its readings come in, commands go out, a JSON object a line. On
 * standard input and output no time passes but the readings' own. Gives the exit code: 1 where the line was lost.
 */
export async function liveCommand(projectFile: string, options: LiveOptions): Promise<number> {
  const { document } = openDocument(projectFile);
  const address = readAddress(options.link);
  if ("problem" in address) throw new InputError(address.problem);
  const tape = opened(options.tape);
  const trace = opened(options.trace);
  const traced = (moment: LiveMoment) => trace.write(`${JSON.stringify(moment)}\n`);
  const finish = (code: number, words: string, counts: LiveCounts) => {
    tape.close();
    trace.close();
    process.stderr.write(`perceptum: ${words}: ${summary(counts)}\n`);
    return code;
  };
  if (address.by === "stdio") {
    const say = (lines: readonly string[]) => void process.stdout.write(lines.map((line) => `${line}\n`).join(""));
    const told = (moment: LiveMoment) => {
      traced(moment);
      say(options.watch ? moment.notes.map((note) => JSON.stringify(note)) : linesOf(moment));
    };
    const robot = new LiveRobot(document, told, (line) => say([JSON.stringify(line)]));
    process.stdin.setEncoding("utf8");
    for await (const text of process.stdin) {
      tape.write(text as string);
      robot.feed(text as string);
    }
    robot.end();
    return finish(0, "the lines ended", robot.counts);
  }
  let wire: Wire | null = null;
  const driver = new Driver(
    document,
    (lines) => wire?.send(lines.map((line) => `${line}\n`).join("")),
    traced,
    !options.watch,
  );
  let ended: [code: number, words: string] | null = null;
  let over: (code: number) => void = () => undefined;
  const ending = new Promise<number>((done) => {
    over = done;
  });
  const hears = {
    text: (text: string) => {
      tape.write(text);
      if (ended === null) driver.take(text, performance.now());
    },
    paused: (why: string | null) =>
      void process.stderr.write(
        `perceptum: ${why === null ? "the broker is there again" : `${why}; it is tried again`}\n`,
      ),
    closed: (why?: string) => {
      driver.end();
      // A robot in lockstep ends as soon as it hears that the behaviour has finished.
      if (driver.finished) ended ??= [0, "the behaviour has finished"];
      const [code, words] = ended ?? [1, `the line to ${options.link} was lost${why === undefined ? "" : ` (${why})`}`];
      over(finish(code, words, driver.counts));
    },
  };
  try {
    wire = await openWire(address, hears);
  } catch (error) {
    return finish(1, `the line to ${options.link} could not be opened (${(error as Error).message})`, driver.counts);
  }
  const ticking = setInterval(() => {
    driver.tick(performance.now());
    if (driver.finished) leave(0, "the behaviour has finished");
  }, DRIVE_EVERY_MS);
  /** The robot stops, whatever it does, before the line ends. */
  const leave = (code: number, words: string) => {
    if (ended !== null) return;
    ended = [code, words];
    driver.stop();
    wire?.end();
  };
  const stop = () => leave(0, "stopped");
  process.once("SIGINT", stop);
  process.once("SIGTERM", stop);
  const code = await ending;
  clearInterval(ticking);
  process.off("SIGINT", stop);
  process.off("SIGTERM", stop);
  return code;
}
