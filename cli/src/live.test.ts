import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createServer, type Socket } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { glasshouseRound } from "@perceptum/core/demo";
import { lineOf } from "@perceptum/core/live";
import { splitProject, writeProject } from "@perceptum/core/project";
import { run } from "@perceptum/core/world";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ROOT } from "../../e2e/server";

const demo = glasshouseRound();
const { document } = splitProject(demo);
let folder: string;
let project: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "perceptum-live-"));
  project = join(folder, "demo.perceptum.json");
  writeFileSync(project, writeProject(demo));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const CLI = ["cli/dist/main.js", "live"];
const live = (args: string[], input = "") =>
  spawnSync(process.execPath, [...CLI, ...args], { cwd: ROOT, input, encoding: "utf8", maxBuffer: 1e8 });

/** A program that runs beside the test, with what it says on each stream. */
function running(program: string, args: readonly string[]) {
  const child: ChildProcess = spawn(program, args, { cwd: ROOT });
  const said = { out: "", errors: "" };
  child.stdout?.setEncoding("utf8").on("data", (text: string) => {
    said.out += text;
  });
  child.stderr?.setEncoding("utf8").on("data", (text: string) => {
    said.errors += text;
  });
  const ended = new Promise<number | null>((done) => child.on("exit", done));
  return { child, said, ended };
}

/** Waits until something holds, as often as the streams bring something. */
async function until(what: string, child: ChildProcess, holds: () => boolean): Promise<void> {
  while (!holds()) {
    const more = await Promise.race([
      new Promise((go) => child.stdout?.once("data", () => go(true))),
      new Promise((go) => child.stderr?.once("data", () => go(true))),
      new Promise((go) => child.once("exit", () => go(false))),
    ]);
    if (!more && !holds()) throw new Error(`it ended before ${what}`);
  }
}

/** Listens as a robot does; gives the port, and the line once somebody calls. */
async function listening() {
  const server = createServer();
  const called = new Promise<Socket>((done) => server.once("connection", done));
  await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
  const { port } = server.address() as { port: number };
  return { server, port, called };
}

describe("perceptum live", () => {
  it("is a filter: readings in, commands out, those of the run that they are of", () => {
    const lines: string[] = [];
    const trace = run(
      document,
      { course: document.courses[0].id, seed: 5, limitMs: 15_000 },
      (program, { t }, _, __, input) => {
        for (const { eye, raw } of input.readings)
          lines.push(JSON.stringify({ s: program.eyes[eye].id, t, v: [...raw] }));
        lines.push(JSON.stringify({ e: [input.travel.left, input.travel.right], t }));
      },
    );
    const [tape, story] = [join(folder, "tape.jsonl"), join(folder, "trace.jsonl")];
    const input = `${lines.join("\n")}\nwhat\n`;
    const { stdout, stderr, status } = live([project, "--tape", tape, "--trace", story], input);
    const said = stdout.trim().split("\n");
    expect(said.pop()).toBe(JSON.stringify({ error: "the line is no JSON", line: lines.length + 1 }));
    expect(said.map((line) => JSON.parse(line))).toEqual(trace.outputs.map(({ command }) => lineOf(command)));
    expect(said.length).toBeGreaterThan(3);
    expect([status, stderr]).toEqual([
      0,
      expect.stringMatching(/^perceptum: the lines ended: \d+ readings in \d+ lines, 1 refused\n$/),
    ]);
    expect(readFileSync(tape, "utf8")).toBe(input);
    const told = readFileSync(story, "utf8")
      .trim()
      .split("\n")
      .flatMap((line) => (JSON.parse(line) as { notes: unknown[] }).notes);
    expect(told).toEqual(trace.notes);
    // Who only watches hears what happens, and commands nothing.
    const watched = live([project, "--watch"], input)
      .stdout.trim()
      .split("\n")
      .map((line) => JSON.parse(line));
    expect(watched.slice(0, -1)).toEqual(trace.notes);
  });

  it("says twice a second that it is there to a robot on standard input, so that this does not stop by itself", async () => {
    const driver = running(process.execPath, [...CLI, project]);
    const says = setInterval(() => driver.child.stdin?.write('{"s":"belly","v":[500,500,500]}\n'), 20);
    await until("two signs of life", driver.child, () => driver.said.out.includes('{"alive":2}'));
    clearInterval(says);
    driver.child.stdin?.end();
    expect(await driver.ended).toBe(0);
  });

  it("only watches a robot that falls silent, over a line: it says so, and commands nothing", async () => {
    const { server, port, called } = await listening();
    const args = [...CLI, project, "--watch", "--link", `tcp://127.0.0.1:${port}`];
    const watcher = running(process.execPath, args);
    const line = await called;
    let heard = "";
    line.setEncoding("utf8").on("data", (text) => {
      heard += text;
    });
    const short = (t: number) => line.write(`{"s":"belly","t":${t},"v":[700,150,100]}\n`);
    for (let t = 0; t < 400; t += 20) short(t);
    await until("that it is silent", watcher.child, () => watcher.said.errors.includes("nothing has been heard"));
    short(3000);
    await until("that it is there again", watcher.child, () => watcher.said.errors.includes("there again"));
    watcher.child.kill("SIGINT");
    expect(await watcher.ended).toBe(0);
    expect(watcher.said.errors).toMatch(/stopped: 21 readings in 21 lines, 0 refused/);
    expect(heard.trim()).toBe('{"alive":0}');
    line.destroy();
    server.close();
  }, 30_000);

  it("ends with code 2 for what is no link, and 1 where nobody listens", async () => {
    expect(live([project, "--link", "pigeon://x"])).toMatchObject({
      status: 2,
      stderr: expect.stringContaining("there is tcp://host:port"),
    });
    expect(live([project, "--link", "tcp://127.0.0.1:0"]).status).toBe(2);
    const { server, port } = await listening();
    await new Promise((done) => server.close(done));
    expect(live([project, "--link", `tcp://127.0.0.1:${port}`])).toMatchObject({
      status: 1,
      stderr: expect.stringContaining("nothing listens there"),
    });
  });

  it("drives the example robot, which stops when it is stopped, and when nobody is there any more", async () => {
    const { server, port } = await listening();
    await new Promise((done) => server.close(done));
    const robot = running("python3", ["docs/robots/robot.py", String(port)]);
    const drives = () => /wheels 0\.[0-9]/.test(robot.said.out);
    const stopped = () => /wheels 0 0\s*$/.test(robot.said.out);
    // It takes a moment to listen: who calls too soon calls again.
    let lost = true;
    let driver = running(process.execPath, [...CLI, project, "--link", `tcp://127.0.0.1:${port}`]);
    while (lost) {
      lost = (await Promise.race([until("it drives", robot.child, drives).then(() => 0), driver.ended])) === 1;
      if (lost) driver = running(process.execPath, [...CLI, project, "--link", `tcp://127.0.0.1:${port}`]);
    }
    driver.child.kill("SIGINT");
    expect(await driver.ended).toBe(0);
    expect(driver.said.errors).toMatch(/^perceptum: stopped: \d+ readings/);
    await robot.ended;
    expect(stopped()).toBe(true);
  }, 60_000);

  it("keeps a robot awake while it acts, and says when the line is lost", async () => {
    const { server, port, called } = await listening();
    const tape = join(folder, "lost.jsonl");
    const driver = running(process.execPath, [...CLI, project, "--link", `tcp://127.0.0.1:${port}`, "--tape", tape]);
    const line = await called;
    let heard = "";
    const alive = new Promise<void>((done) =>
      line.setEncoding("utf8").on("data", (text) => {
        heard += text;
        if (heard.includes('{"alive":2}')) done();
      }),
    );
    line.write(
      '{"hello":"perceptum","version":1}\n{"s":"belly","t":0,"v":[500,500,500]}\n{"s":"nose","v":[1]}\n{"s":"bel',
    );
    await alive;
    expect(heard).toContain('{"error":"the project has no sensor nose');
    expect(heard).toContain('"wheels"');
    line.destroy();
    server.close();
    expect(await driver.ended).toBe(1);
    expect(driver.said.errors).toMatch(/was lost: 1 readings in 4 lines, 2 refused/);
    expect(readFileSync(tape, "utf8")).toContain('{"s":"bel');
  }, 60_000);

  it("has an example for a microcontroller that a C compiler takes without a warning", () => {
    const strict = ["-std=c99", "-Wall", "-Wextra", "-pedantic", "-Werror", "-c", "-o", join(folder, "robot.o")];
    expect(spawnSync("cc", [...strict, "docs/robots/robot.c"], { cwd: ROOT, encoding: "utf8" })).toMatchObject({
      status: 0,
      stderr: "",
    });
  });
});
