import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { packFrame } from "../../demo/packFrame";
import type { Command, Note } from "../behaviour";
import { bedWatch, glasshouseRound, routeCards } from "../demo";
import { splitProject } from "../project";
import { run } from "../world";
import {
  Gathered,
  LineSplitter,
  type LiveMoment,
  LiveRobot,
  lineOf,
  linesOf,
  MOST_LINE_BYTES,
  protocolJsonSchema,
  RobotText,
  readAddress,
  readRobotLine,
  ToRobotLine,
} from ".";

const { document } = splitProject(glasshouseRound());

/** What a simulated robot would have said in a run, a line each. */
function saidIn(project: typeof document, course: string, limitMs: number) {
  const lines: string[] = [];
  let held: readonly string[] = [];
  const trace = run(project, { course, seed: 3, limitMs }, (program, { t }, _, pressed, { readings, travel }) => {
    for (const button of pressed) if (!held.includes(button)) lines.push(JSON.stringify({ button, down: true, t }));
    for (const button of held) if (!pressed.includes(button)) lines.push(JSON.stringify({ button, down: false, t }));
    held = [...pressed];
    for (const { eye, raw } of readings) lines.push(JSON.stringify({ s: program.eyes[eye].id, t, v: [...raw] }));
    lines.push(JSON.stringify({ e: [travel.left, travel.right], t }));
  });
  return { lines, trace };
}

/** A robot of the project, with all that came of it. */
function listening(project: typeof document = document) {
  const outputs: { t: number; command: Command }[] = [];
  const notes: Note[] = [];
  const moments: LiveMoment[] = [];
  const errors: { error: string; line: number }[] = [];
  const robot = new LiveRobot(
    project,
    (moment) => {
      moments.push(moment);
      for (const command of moment.commands) outputs.push({ t: moment.t, command });
      notes.push(...moment.notes);
    },
    (line) => errors.push(line as { error: string; line: number }),
  );
  return { robot, outputs, notes, moments, errors };
}

describe("a robot behind its lines", () => {
  it.each([
    ["glasshouse round", document],
    ["route cards", splitProject(routeCards()).document],
  ])("is told in %s what the run tells it, at the same times, however the lines are cut", (_, project) => {
    const { lines, trace } = saidIn(project, project.courses[0].id, 20_000);
    expect(trace.outputs.length).toBeGreaterThan(3);
    const text = `{"hello":"perceptum","version":1}\n${lines.join("\n")}`;
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5000 }), (part) => {
        const { robot, outputs, notes, errors } = listening(project);
        for (let at = 0; at < text.length; at += part) robot.feed(text.slice(at, at + part));
        robot.end();
        expect(errors).toEqual([]);
        expect(outputs).toEqual(trace.outputs);
        expect(notes).toEqual(trace.notes.filter(({ kind }) => kind !== "piece"));
      }),
      { numRuns: 3 },
    );
  });

  it("answers lines that cannot be taken with their number, and goes on", () => {
    const { robot, errors } = listening();
    robot.feed('what\n[1]\n{"x":1}\n{"s":"belly","v":["a"]}\n{"s":"nose","v":[1,2,3]}\n{"s":"belly","v":[1,2]}\n');
    robot.feed(
      `{"hello":"perceptum","version":2}\n{"e":[0,0]}\n{"hello":"perceptum","version":1}\n${"x".repeat(MOST_LINE_BYTES + 9)}\n\n{"s":"belly","t":0,"v":[1,2,3],"more":true}\n`,
    );
    robot.end();
    expect(errors.map(({ line }) => line)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 10]);
    expect(errors.map(({ error }) => error)).toEqual([
      "the line is no JSON",
      "the line is no JSON object",
      "the line says nothing that is known: hello, s, e, button or ask",
      expect.stringMatching(/^v\[0\]: /),
      expect.stringContaining("has no sensor nose; it has belly"),
      "belly reports red, green, blue: 3 values, not 2",
      "the robot speaks version 2; this program speaks version 1: nothing of it is taken",
      "the robot speaks version 2; this program speaks version 1: nothing of it is taken",
      "the line has more than 65536 bytes",
    ]);
    expect(robot.counts).toMatchObject({ readings: 1, refused: 9 });
  });

  it("answers who asks once all up to then is done, and takes blobs that a camera found", () => {
    const watch = splitProject(bedWatch(packFrame)).document;
    const { robot, errors, outputs, notes } = listening(watch);
    const [{ sensor }] = watch.robot.mounts;
    robot.feed(`${JSON.stringify({ s: sensor, t: 0, blobs: { nobody: [0, 0, 1, 1, 1] } })}\n`);
    for (const t of [0, 100, 200, 300])
      robot.feed(
        `${JSON.stringify({ s: sensor, t, blobs: { teal: [10, 10, 20, 20, 300] } })}\n{"ask":${t},"t":${t}}\n`,
      );
    expect(errors).toEqual([
      { error: "the project has no target nobody", line: 1 },
      { done: 0 },
      { done: 100 },
      { done: 200 },
      { done: 300 },
    ]);
    expect(notes).toContainEqual(expect.objectContaining({ kind: "arrives", target: "teal" }));
    expect(outputs.length).toBeGreaterThan(0);
  });

  it("means by the robot's own names the sensors that the project says", () => {
    const named = structuredClone(document);
    named.links = [
      {
        id: "link-0123456789ab",
        name: "Cart",
        over: { kind: "http" },
        sensors: { nose: "belly", ear: "gone" },
      } as never,
    ];
    const { robot, errors } = listening(named);
    robot.feed('{"s":"nose","t":0,"v":[700,150,100]}\n{"s":"ear","t":0,"v":[1,2,3]}\n');
    robot.end();
    expect(robot.counts.readings).toBe(1);
    expect(errors).toEqual([{ error: expect.stringContaining("has no sensor ear"), line: 2 }]);
  });

  it("takes any bytes for lines without falling over", () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(fc.string(), fc.json(), fc.constant("\n"))), (parts) => {
        const { robot, errors } = listening();
        for (const part of parts) robot.feed(part);
        robot.end();
        expect(errors).toHaveLength(robot.counts.refused);
      }),
    );
  });

  it("does not live through a clock that goes back, or leaps on", () => {
    const { robot, notes } = listening();
    const say = (t: number) => robot.feed(`${JSON.stringify({ e: [0, 0], t })}\n`);
    for (const t of [1000, 1500, 700, 800, 4_000_000, 4_000_100]) say(t);
    robot.end();
    expect(robot.counts.jumps).toBe(2);
    // 0, 500, the same again, 100 on, the same again, 100 on.
    expect(Math.max(0, ...notes.map(({ t }) => t))).toBeLessThanOrEqual(700);
    robot.passTime(300);
    robot.passTime(99_000_000);
  });

  it("without times goes by the time of arrival, or else by the sensor's period", () => {
    const coral = { s: "belly", v: [620, 150, 110] };
    const line = `${JSON.stringify(coral)}\n`;
    const own = listening();
    for (let i = 0; i < 20; i++) own.robot.feed(line);
    own.robot.end();
    const arriving = listening();
    for (let i = 0; i < 20; i++) arriving.robot.feed(line, 5000 + i * document.sensors[0].periodMs);
    arriving.robot.end();
    expect(own.notes.some(({ kind }) => kind === "arrives")).toBe(true);
    expect(arriving.notes).toEqual(own.notes);
    expect(arriving.outputs).toEqual(own.outputs);
  });

  it("is carried on by time alone where nothing comes", () => {
    const timed = structuredClone(document);
    timed.behaviour.modes[0].entering = [
      { id: "step-1" as never, step: "wait", ms: 200 },
      { id: "step-2" as never, step: "say", text: "now" },
    ];
    const { robot, outputs } = listening(timed);
    robot.feed('{"e":[0,0],"t":0}\n');
    robot.passTime(240);
    expect(outputs.map(({ command }) => command.kind)).not.toContain("say");
    robot.passTime(260);
    expect(outputs.find(({ command }) => command.kind === "say")?.t).toBe(200);
  });

  it("is not carried on while a robot that asks waits for its answers, however slow the line is", () => {
    const timed = structuredClone(document);
    timed.behaviour.modes[0].entering = [
      { id: "step-1" as never, step: "wait", ms: 200 },
      { id: "step-2" as never, step: "say", text: "now" },
    ];
    const { robot, outputs } = listening(timed);
    const said = () => outputs.find(({ command }) => command.kind === "say")?.t;
    robot.feed('{"e":[0,0],"t":0}\n{"ask":1,"t":0}\n');
    robot.passTime(1400);
    robot.feed('{"ask":2,"t":100}\n');
    expect(said()).toBeUndefined();
    robot.feed('{"ask":3,"t":220}\n');
    expect(said()).toBe(200);
  });
});

it("the schema in the documents is the present one", () => {
  const text = readFileSync(new URL("../../docs/protocol.schema.json", import.meta.url), "utf8");
  expect(text).toBe(protocolJsonSchema());
  expect(Object.keys(JSON.parse(text).$defs)).toEqual(["fromRobot", "toRobot"]);
});

describe("a robot's text", () => {
  it("is handed on in whole lines however it is cut, and its readings are gathered once", () => {
    const said = fc.array(fc.record({ t: fc.nat(1e6), v: fc.array(fc.nat(1023), { minLength: 3, maxLength: 3 }) }));
    fc.assert(
      fc.property(said, fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1 }), (readings, cuts) => {
        const text = readings.map((reading) => `${JSON.stringify({ s: "belly", ...reading })}\n`).join("");
        const gathered = new Gathered();
        const heard = new RobotText(gathered, () => 7);
        let handed = "";
        for (let from = 0, k = 0; from < text.length; k++) {
          const end = from + cuts[k % cuts.length];
          const lines = heard.take(text.slice(from, end));
          expect(lines).toMatch(/^$|\n$/);
          handed += lines;
          from = end;
        }
        expect(handed).toBe(text);
        expect(gathered.events().flatMap(({ v }) => v)).toEqual(readings.map(({ v }) => v));
      }),
    );
  });

  it("is not kept without end where no line ends, and is read again from the next line on", () => {
    const heard = new RobotText(new Gathered(), () => 0);
    const lines: (string | null)[] = [];
    const splitter = new LineSplitter((line) => lines.push(line));
    const part = "x".repeat(MOST_LINE_BYTES);
    const handed = [part, part, part].map((own) => heard.take(own));
    expect(handed.join("").length).toBeGreaterThanOrEqual(2 * MOST_LINE_BYTES);
    for (const own of [...handed, heard.take('\n{"e":[0,0]}\n')]) splitter.feed(own);
    expect(lines).toEqual([null, '{"e":[0,0]}']);
  });
});

describe("an address that is none", () => {
  const problem = (text: string) => {
    const read = readAddress(text);
    return "problem" in read ? read.problem : undefined;
  };

  it("is told with what there is, or with what was probably meant", () => {
    expect(problem("cart")).toBe(
      "“cart” is no line to a robot; there is tcp://host:port, serial:/dev/…?baud=115200, mqtt://host/topic",
    );
    expect(problem("localhost:4391")).toBe(
      "“localhost:4391” is no line to a robot; did you mean tcp://localhost:4391?",
    );
    expect(problem("tcp://localhost:4391")).toBeUndefined();
  });
});

describe("lines", () => {
  it("come out as they went in, however they are cut", () => {
    const line = fc.string({ unit: "grapheme" }).map((text) => text.replace(/[\r\n]/g, ""));
    fc.assert(
      fc.property(fc.array(line), fc.integer({ min: 1, max: 9 }), fc.boolean(), (all, part, ended) => {
        const got: [string | null, number][] = [];
        const splitter = new LineSplitter((text, number) => got.push([text, number]));
        const text = all.join("\r\n") + (ended ? "\n" : "");
        for (let at = 0; at < text.length; at += part) splitter.feed(text.slice(at, at + part));
        splitter.end();
        expect(got).toEqual(all.flatMap((one, i) => (one.trim() === "" ? [] : [[one, i + 1]])));
      }),
    );
  });

  it("say every command so that its schema knows it", () => {
    const commands: Command[] = [
      { kind: "wheels", left: 0.35, right: -0.35 },
      { kind: "stop", how: "brake" },
      { kind: "lamp", lamp: "main", colour: "#e4573d", blinkHz: 2 },
      { kind: "lamp", lamp: "main", colour: null, blinkHz: 0 },
      { kind: "tone", hertz: 523.25, ms: 200 },
      { kind: "tune", tones: [{ hertz: 0, ms: 100 }] },
      { kind: "say", text: "thirsty" },
      { kind: "show", text: "bay 2" },
      { kind: "picture", picture: "sprout" },
      { kind: "servo", servo: "arm", degrees: 90, degreesPerSecond: 60 },
      { kind: "gate", gate: "coral-gate", open: true },
    ];
    for (const command of commands) expect(ToRobotLine.parse(lineOf(command))).toEqual(lineOf(command));
    expect(linesOf({ t: 0, notes: [], commands })).toHaveLength(commands.length);
    expect(new Set(linesOf({ t: 0, notes: [], commands })).size).toBe(commands.length);
  });

  it("of a robot are known by what they say, whatever else they hold", () => {
    expect(readRobotLine('{"s":"belly","v":[1,2,3],"volts":7}')).toEqual({ message: { s: "belly", v: [1, 2, 3] } });
    expect(readRobotLine('{"button":"go","down":1}')).toMatchObject({ error: expect.stringContaining("down") });
    expect(readRobotLine('{"e":[1]}')).toHaveProperty("error");
    expect(readRobotLine('{"s":"belly","v":[1,2,3,4,5]}')).toHaveProperty("error");
  });
});
