import { spawn } from "node:child_process";
import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { Command, CommanderError } from "commander";
import { classifyCommand } from "./classify";
import { exportCommand } from "./export";
import { findingsCommand } from "./findings";
import { InputError } from "./input";
import { type LiveOptions, liveCommand } from "./live";
import { type RobotOptions, robotCommand } from "./robot";
import { type RunOptions, runCommand } from "./run";
import { scoreCommand } from "./score";
import { suggestCommand } from "./suggest";
import { type SweepOptions, sweepCommand } from "./sweep";

const SERVER = fileURLToPath(new URL("../../server/dist/main.js", import.meta.url));

const { version } = JSON.parse(readFileSync(new URL("../package.json", import.meta.url), "utf8")) as {
  version: string;
};

/** An option that may be said several times. */
function several(value: string, before: string[]): string[] {
  return [...before, value];
}

/** Hands over to the server's own program; gives its exit code. */
function server(words: readonly string[]): Promise<number> {
  const child = spawn(process.execPath, [SERVER, ...words], { stdio: "inherit" });
  for (const signal of ["SIGINT", "SIGTERM"] as const) process.on(signal, () => child.kill(signal));
  return new Promise((done) => child.on("exit", (code) => done(code ?? 1)));
}

/** Does what the words ask, as from the command line; gives the exit code. */
export async function perceptum(words: readonly string[]): Promise<number> {
  let code = 0;
  const finish = (done: { text: string; code: number }) => {
    process.stdout.write(done.text);
    code = done.code;
  };
  const program = new Command("perceptum")
    .description("Colour rules for a robot, without a screen")
    .version(version, "--version", "say the version")
    .exitOverride();

  program
    .command("serve")
    .description("serve the application at a local address")
    .option("--port <number>", "port to listen on")
    .option("--data <dir>", "folder of the database")
    .option("--demo", "add a fresh copy of the demo")
    .action(async (options: { port?: string; data?: string; demo?: boolean }) => {
      code = await server([
        ...(options.port !== undefined ? ["--port", options.port] : []),
        ...(options.data !== undefined ? ["--data", options.data] : []),
        ...(options.demo ? ["--demo"] : []),
      ]);
    });

  program
    .command("restore")
    .description("list the backups of the database, or bring one back; what was there is kept beside it")
    .argument("[day]", "like 2026-01-31; without it the backups are listed")
    .option("--data <dir>", "folder of the database")
    .action(async (day: string | undefined, options: { data?: string }) => {
      code = await server([
        "restore",
        ...(day !== undefined ? [day] : []),
        ...(options.data !== undefined ? ["--data", options.data] : []),
      ]);
    });

  program
    .command("classify")
    .description(
      "judge readings: t_ms,label,margin,seen; or a camera's frames: frame,target,x,y,width,height,area,error,seen",
    )
    .argument("<project>", "project file")
    .argument("[readings...]", "CSV or JSON lines, - is standard input; of a camera PNG or JPEG files, one a frame")
    .option("--sensor <name>", "whose readings they are")
    .option("--format <format>", "csv or jsonl")
    .action((project: string, files: string[], options) =>
      finish({ text: classifyCommand(project, files, options), code: 0 }),
    );

  program
    .command("score")
    .description("how good the rules are: truth from marks, or from a column label")
    .argument("<project>", "project file")
    .argument("[readings]", "CSV or JSON lines with a column label; - is standard input")
    .option("--sensor <name>", "whose readings they are")
    .option("--format <format>", "csv or jsonl")
    .option("--json", "as JSON")
    .action((project: string, readings: string | undefined, options) =>
      finish({ text: scoreCommand(project, readings, options), code: 0 }),
    );

  program
    .command("suggest")
    .description("suggest rules from the marks, and say why")
    .argument("<project>", "project file")
    .option("--write <file>", "write the project with these rules; - is standard output")
    .action((project: string, options) => finish({ text: suggestCommand(project, options), code: 0 }));

  program
    .command("findings")
    .description("say what will go wrong; exit code 1 if something is an error")
    .argument("<project>", "project file")
    .option("--json", "as JSON")
    .action((project: string, options) => finish(findingsCommand(project, options)));

  program
    .command("run")
    .description("simulate one run; exit code 1 if a check does not hold")
    .argument("<project>", "project file")
    .requiredOption("--course <name>", "where")
    .option("--start <name>", "from where")
    .option("--light <name>", "in which light")
    .option("--seed <number>", "seed of all that is random", "1")
    .option("--trace <file>", "write every tick: CSV for a name in .csv, else JSON lines")
    .option("--json", "as JSON")
    .action((project: string, options: RunOptions) => finish(runCommand(project, options)));

  program
    .command("sweep")
    .description("many runs over a grid of conditions; exit code 1 if a check fails in any")
    .argument("<project>", "project file")
    .requiredOption("--course <name>", "where")
    .option("--start <names>", "from where, separated by commas; all of them unless said")
    .option("--light <names>", "in which lights; all of them unless said")
    .option("--speed <factors>", "times the motors' top speed", "1")
    .option("--height <mm>", "how much higher the sensors hang", "0")
    .option("--noise <factors>", "times the sensors' noise", "1")
    .option("--seeds <number>", "so many seeds, from 1", "20")
    .option("--highest-speed", "find the highest speed at which every check holds")
    .option("--many", "make a sweep of very many runs")
    .option("--json", "as JSON")
    .action((project: string, options: SweepOptions) => finish(sweepCommand(project, options)));

  program
    .command("live")
    .description("let the behaviour answer a robot: its readings come in as JSON lines, commands go out")
    .argument("<project>", "project file")
    .option(
      "--link <link>",
      "- is standard input and output, where no time passes but the readings' own; tcp://host:port",
      "-",
    )
    .option("--watch", "watch only: nothing is commanded")
    .option("--tape <file>", "keep all that the robot says")
    .option("--trace <file>", "keep what was commanded and what happened, as JSON lines")
    .action(async (project: string, options: LiveOptions) => {
      code = await liveCommand(project, options);
    });

  program
    .command("robot")
    .description("a simulated robot on a course, that is driven as a real one is")
    .argument("<project>", "project file")
    .requiredOption("--course <name>", "course, by id or name")
    .option("--start <name>", "where it starts; the first where none is named")
    .option("--light <name>", "light; the first where none is named")
    .option("--seed <number>", "seed of noise and friction", "1")
    .option("--link <link>", "-, tcp://:port, pty or mqtt://host/topic", "tcp://:4190")
    .option("--speed <factor>", "of its time; 0 is as fast as it is answered", "1")
    .option("--trace <file>", "keep where it was, what it read and what it was told, as JSON lines")
    .action(async (project: string, options: RobotOptions) => {
      code = await robotCommand(project, options);
    });

  program
    .command("export")
    .description("write code for the robot")
    .argument("<project>", "project file")
    .requiredOption("--to <language>", "python, micropython, c or javascript")
    .option("--out <file>", "file to write; - is standard output", "-")
    .option("--rules-only", "rules and steadying, without the behaviour")
    .option("--sensor <name>", "only the rules of this sensor; may be said several times", several, [])
    .action((project: string, options) => finish({ text: exportCommand(project, options), code: 0 }));

  try {
    await program.parseAsync(words, { from: "user" });
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    if (!(error instanceof InputError)) throw error;
    process.stderr.write(`perceptum: ${error.message}\n`);
    return 2;
  }
  return code;
}
