import { closeSync, openSync, writeSync } from "node:fs";
import {
  Acting,
  type Address,
  ALIVE_MS,
  DRIVE_EVERY_MS,
  type LiveCounts,
  type LiveMoment,
  LiveRobot,
  linesOf,
  readAddress,
} from "@perceptum/core/live";
import type { ProjectDocument } from "@perceptum/core/project";
import { openWire, type Wire } from "@perceptum/wires";
import { InputError, jsonLinesFile, openDocument } from "./input";

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
  `${counts.readings} readings in ${counts.lines} lines, ${counts.refused} refused${counts.beyond === 0 ? "" : `, ${counts.beyond} beyond the scale`}${counts.jumps === 0 ? "" : `, the clock jumped ${counts.jumps} times`}`;

/**
 * The project's behaviour behind a robot's line: its readings come in, commands go out, a JSON object a line. On
 * standard input and output no time passes but the readings' own. Gives the exit code: 1 where the line was lost.
 */
export async function liveCommand(projectFile: string, options: LiveOptions): Promise<number> {
  const { document } = openDocument(projectFile);
  const address = readAddress(options.link);
  if ("problem" in address) throw new InputError(address.problem);
  const tape = opened(jsonLinesFile(options.tape));
  const trace = opened(jsonLinesFile(options.trace));
  const traced = (moment: LiveMoment) => trace.write(`${JSON.stringify(moment)}\n`);
  const finish = (code: number, words: string, counts: LiveCounts) => {
    tape.close();
    trace.close();
    process.stderr.write(`perceptum: ${words}: ${summary(counts)}\n`);
    return code;
  };
  if (address.by === "stdio") {
    const robot = await filtered(document, options.watch === true, { tape: tape.write, trace: traced });
    return finish(0, "the lines ended", robot.counts);
  }
  return driven(document, address, options, { tape: tape.write, trace: traced, finish });
}

/** Keeps the robot's lines and what was commanded. */
interface Kept {
  tape(text: string): void;
  trace(moment: LiveMoment): void;
}

/** A robot on standard input and output. */
async function filtered(document: ProjectDocument, watch: boolean, kept: Kept): Promise<LiveRobot> {
  const say = (lines: readonly string[]) => void process.stdout.write(lines.map((line) => `${line}\n`).join(""));
  const told = (moment: LiveMoment) => {
    kept.trace(moment);
    say(watch ? moment.notes.map((note) => JSON.stringify(note)) : linesOf(moment));
  };
  const robot = new LiveRobot(document, told, (line) => say([JSON.stringify(line)]));
  const alive = new Alive((line) => !watch && say([line]));
  process.stdin.setEncoding("utf8");
  alive.wait();
  for await (const text of process.stdin) {
    alive.go();
    kept.tape(text as string);
    robot.feed(text as string);
    alive.wait();
  }
  alive.go();
  robot.end();
  return robot;
}

/**
 * Says to a robot that somebody is there, for each half second that was waited for it. What comes from a file is there
 * at once: nothing is said to that, and the same lines give the same answers.
 */
class Alive {
  private n = 0;
  private waited = 0;
  private since = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly say: (line: string) => void) {}

  wait(): void {
    this.since = performance.now();
    this.timer = setTimeout(() => {
      this.waited = 0;
      this.say(JSON.stringify({ alive: ++this.n }));
      this.wait();
    }, ALIVE_MS - this.waited);
  }

  go(): void {
    clearTimeout(this.timer);
    this.waited = Math.min(ALIVE_MS, this.waited + performance.now() - this.since);
  }
}

/** A robot over a line that is opened. Gives the exit code. */
async function driven(
  document: ProjectDocument,
  address: Exclude<Address, { by: "stdio" }>,
  { link, watch = false }: LiveOptions,
  kept: Kept & { finish(code: number, words: string, counts: LiveCounts): number },
): Promise<number> {
  const { trace, finish } = kept;
  let wire: Wire | null = null;
  let ended: [code: number, words: string] | null = null;
  let over: (code: number) => void = () => undefined;
  const ending = new Promise<number>((done) => {
    over = done;
  });
  const say = (lines: readonly string[]) => wire?.send(lines.map((line) => `${line}\n`).join(""));
  let counts: LiveCounts = { lines: 0, readings: 0, refused: 0, beyond: 0, jumps: 0 };
  let said: string | null = null;
  const acting = new Acting(
    {
      say,
      moment: trace,
      state: (state) => {
        counts = state.counts ?? counts;
        const { trouble, act } = state;
        if (!state.acting && act !== null && !state.over)
          leave(acting.finished || trouble === null ? 0 : 1, trouble ?? "stopped");
        else if (trouble !== said && !state.over)
          process.stderr.write(`perceptum: ${trouble ?? "the robot is there again"}\n`);
        said = trouble;
      },
    },
    { watched: false, goOn: "start it again to go on", commands: !watch },
  );
  const hears = {
    text: (text: string) => {
      kept.tape(text);
      if (ended !== null) return;
      acting.take(text, performance.now());
    },
    paused: (why: string | null) => {
      if (why === null) acting.back(performance.now());
      else acting.away(`${why}; it is tried again`, performance.now());
    },
    closed: (why?: string) => {
      const words = `the line to ${link} was lost${why === undefined ? "" : ` (${why})`}`;
      acting.lost(words);
      // A robot in lockstep ends as soon as it hears that the behaviour has finished.
      if (acting.finished) ended ??= [0, "the behaviour has finished"];
      const [code, last] = ended ?? [1, words];
      over(finish(code, last, counts));
    },
  };
  try {
    wire = await openWire(address, hears);
  } catch (error) {
    return finish(1, `the line to ${link} could not be opened (${(error as Error).message})`, counts);
  }
  acting.renew(performance.now());
  // A simulated robot begins once somebody is heard, who need not command it.
  if (watch) say(['{"alive":0}']);
  acting.start("terminal", document, performance.now());
  const ticking = setInterval(() => acting.tick(performance.now()), DRIVE_EVERY_MS);
  /** The robot stops, whatever it does, before the line ends. */
  function leave(code: number, words: string): void {
    if (ended !== null) return;
    ended = [code, words];
    acting.stop();
    wire?.end();
  }
  const stop = () => leave(0, "stopped");
  process.once("SIGINT", stop);
  process.once("SIGTERM", stop);
  const code = await ending;
  clearInterval(ticking);
  process.off("SIGINT", stop);
  process.off("SIGTERM", stop);
  return code;
}
