import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { LANGUAGES, writeBehaviour } from "@perceptum/core/code";
import { glasshouseRound, routeCards } from "@perceptum/core/demo";
import { LineSplitter, readToRobotLine, SimulatedRobot } from "@perceptum/core/live";
import { type ProjectDocument, writeProject } from "@perceptum/core/project";
import { type RunChoice, run, traceJsonLines } from "@perceptum/core/world";
import { afterAll, afterEach, describe, expect, it, vi } from "vitest";
import { freePort } from "../../e2e/freePort";
import { demos } from "../../trials/demos";

const MAIN = fileURLToPath(new URL("../dist/main.js", import.meta.url));
const folder = mkdtempSync(join(tmpdir(), "perceptum-robot-"));
const started: ChildProcess[] = [];
afterEach(() => {
  for (const child of started.splice(0)) child.kill("SIGKILL");
});
afterAll(() => rmSync(folder, { recursive: true }));

const file = (name: string, text: string) => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};
function start(program: string, args: readonly string[]): ChildProcess & { said: string } {
  const child = Object.assign(spawn(program, args, { stdio: ["pipe", "pipe", "pipe"] }), { said: "" });
  child.stdin.on("error", () => undefined);
  child.stderr.on("data", (text) => {
    child.said += String(text);
  });
  started.push(child);
  return child;
}
const perceptum = (...args: string[]) => start(process.execPath, [MAIN, ...args]);
/** Waits until a program has said something, on standard error. */
const said = (child: ChildProcess & { said: string }, words: RegExp): Promise<RegExpExecArray> =>
  new Promise((done, fail) => {
    const look = () => {
      const found = words.exec(child.said);
      if (found !== null) done(found);
    };
    child.stderr?.on("data", look);
    child.on("close", (code) => fail(new Error(`it ended with ${code} and said: ${child.said}`)));
    look();
  });
const ended = (child: ChildProcess): Promise<number | null> =>
  new Promise((done) => (child.exitCode !== null ? done(child.exitCode) : child.on("close", done)));

const has = (program: string) => spawnSync("sh", ["-c", `command -v ${program}`]).status === 0;

/** A trace without what only the engine knows, and without what only a robot hears. */
const bare = (trace: string): object[] =>
  trace
    .trim()
    .split("\n")
    .map((line) => {
      const { notes: _, commands: __, ...rest } = JSON.parse(line);
      const plain = ({ label: _l, seen: _s, truth: _t, ...reading }: Record<string, unknown>) => reading;
      return rest.readings === undefined ? rest : { ...rest, readings: rest.readings.map(plain) };
    });

/** A brain that is a program of its own, driving a robot tick by tick. */
async function driven(project: ProjectDocument, choice: RunChoice, brain: ChildProcess): Promise<string> {
  const robot = new SimulatedRobot(project, choice);
  let answered: (finished: boolean) => void = () => undefined;
  let asked = 0;
  const lines = new LineSplitter((text) => {
    const line = readToRobotLine(text ?? "");
    if ("error" in line) throw new Error(line.error);
    robot.hear(line);
    if ("done" in line && line.done === asked) answered(line.finished === true);
  });
  brain.stdout?.on("data", (text) => lines.feed(String(text)));
  brain.stdin?.write(`${JSON.stringify(robot.hello())}\n`);
  for (;;) {
    const said = robot.look();
    const answer = new Promise<boolean>((done) => {
      answered = done;
    });
    asked++;
    brain.stdin?.write([...said, { ask: asked, t: robot.t }].map((line) => `${JSON.stringify(line)}\n`).join(""));
    if (robot.step(await answer) !== null) return robot.trace();
  }
}

describe("a written behaviour drives the simulated robot", { timeout: 240_000 }, () => {
  // The engine tells the same in all languages (core/code): the beginning of a course tries the robot's own side.
  // Route cards ends within it.
  it.each([
    ["Python", "python3", -1],
    ["JavaScript", process.execPath, 0],
  ])(
    "in %s (%s), to the trace of a run with the same seed, at the beginning of a course of each demo",
    async (name, program, which) => {
      const language = LANGUAGES.find((l) => l.name === name) as (typeof LANGUAGES)[number];
      for (const project of demos) {
        const brain = file(`${name}.${language.ending}`, writeBehaviour(language, project));
        for (const course of project.courses.slice(which).slice(0, 1)) {
          const choice = { course: course.id, seed: 7, limitMs: 15_000 };
          const trace = await driven(project, choice, start(program, [brain]));
          const wanted = bare(traceJsonLines(run(project, choice)));
          const got = bare(trace);
          const other = wanted.findIndex(
            (line, i) =>
              !("readings" in line && JSON.stringify(line).includes('"blobs"')) &&
              JSON.stringify(line) !== JSON.stringify(got[i]),
          );
          if (other >= 0)
            expect({ title: project.name, course: course.name, line: got[other] }).toEqual({
              title: project.name,
              course: course.name,
              line: wanted[other],
            });
          expect(got.length).toBe(wanted.length);
        }
      }
    },
  );
});

describe("perceptum robot", { timeout: 60_000 }, () => {
  const [round, byCards] = demos;
  const project = file("round.perceptum.json", writeProject(glasshouseRound()));
  const cards = file("cards.perceptum.json", writeProject(routeCards()));

  it("is driven over TCP by perceptum live to the trace of a run, and ends with the course", async () => {
    const trace = join(folder, "robot.jsonl");
    const robot = perceptum(
      "robot",
      project,
      "--course",
      "aisle",
      "--seed",
      "4",
      "--link",
      "tcp://:0",
      "--speed",
      "0",
      "--trace",
      trace,
    );
    const [, address] = await said(robot, /listens at (\S+)/);
    const live = perceptum("live", project, "--link", address);
    expect(await ended(robot)).toBe(0);
    expect(robot.said).toContain("Finished, after");
    expect(await ended(live), live.said).toBe(0);
    expect(bare(readFileSync(trace, "utf8"))).toEqual(bare(traceJsonLines(run(round, { course: "aisle", seed: 4 }))));
  });

  it.skipIf(!has("socat"))("is driven over a serial line to the same trace", async () => {
    const trace = join(folder, "serial.jsonl");
    const choice = ["--course", "shed", "--seed", "5", "--speed", "0", "--trace", trace];
    const robot = perceptum("robot", cards, ...choice, "--link", "pty");
    const [, path] = await said(robot, /line is (\S+)/);
    const live = perceptum("live", cards, "--link", `serial:${path}`);
    expect(await ended(robot)).toBe(0);
    expect(await ended(live), live.said).toBe(0);
    expect(bare(readFileSync(trace, "utf8"))).toEqual(bare(traceJsonLines(run(byCards, { course: "shed", seed: 5 }))));
  });

  it.skipIf(!has("mosquitto"))("is driven over MQTT to the same trace", async () => {
    const port = await freePort();
    const config = file("broker.conf", `listener ${port} 127.0.0.1\nallow_anonymous true\nset_tcp_nodelay true\n`);
    const broker = start("mosquitto", ["-c", config]);
    await said(broker, /running/);
    const trace = join(folder, "mqtt.jsonl");
    const link = `mqtt://127.0.0.1:${port}/cart`;
    const choice = ["--course", "shed", "--seed", "6", "--speed", "0", "--trace", trace];
    const robot = perceptum("robot", cards, ...choice, "--link", link);
    await said(robot, /says its lines under/);
    const live = perceptum("live", cards, "--link", link);
    expect(await ended(robot)).toBe(0);
    expect(await ended(live), live.said).toBe(0);
    expect(bare(readFileSync(trace, "utf8"))).toEqual(bare(traceJsonLines(run(byCards, { course: "shed", seed: 6 }))));
  });

  it("stops by itself within 1.5 s when who drives it is killed", async () => {
    const trace = join(folder, "lost.jsonl");
    const robot = perceptum(
      "robot",
      project,
      "--course",
      "aisle",
      "--link",
      "tcp://:0",
      "--speed",
      "1",
      "--trace",
      trace,
    );
    const [, address] = await said(robot, /listens at (\S+)/);
    const live = perceptum("live", project, "--link", address, "--trace", join(folder, "said.jsonl"));
    // A command on the trace may not have reached the robot yet; the robot has driven to a tag that it sees.
    const arrives = () => expect(readFileSync(join(folder, "said.jsonl"), "utf8")).toContain('"arrives"');
    await vi.waitFor(arrives, { timeout: 20_000 });
    live.kill("SIGKILL");
    await said(robot, /nothing was heard for 1.5 s: the robot stopped/);
    robot.kill("SIGINT");
    expect(await ended(robot)).toBe(0);
    const ticks = bare(readFileSync(trace, "utf8")) as { speed_mm_s?: number; t_ms?: number }[];
    expect(Math.max(...ticks.map(({ speed_mm_s = 0 }) => speed_mm_s))).toBeGreaterThan(50);
  });

  it("says what is wrong with what it is asked for", async () => {
    const holder = perceptum("robot", project, "--course", "aisle", "--link", "tcp://:0");
    const [, port] = await said(holder, /:(\d+)$/m);
    for (const [words, ...args] of [
      ["there is no course", "--course", "moon"],
      [
        "is no line that a simulated robot has; there is -, tcp://:port",
        "--course",
        "aisle",
        "--link",
        "serial:/dev/null",
      ],
      ["is no speed", "--course", "aisle", "--speed", "fast"],
      ["cannot be opened: the port is taken", "--course", "aisle", "--link", "tcp://:PORT"],
    ]) {
      const robot = perceptum("robot", project, ...args.map((arg) => arg.replace("PORT", port)));
      expect(await ended(robot)).toBe(2);
      expect(robot.said).toContain(words);
    }
  });
});
