import { spawnSync } from "node:child_process";
import { writeFileSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { demos } from "../../trials/demos";
import {
  codedSensors,
  commandLine,
  type DrawnCase,
  drawnCase,
  type Moment,
  momentsOf,
  scriptOf,
} from "../../trials/drawnBehaviour";
import { ACTORS, type Acting } from "../../trials/runBehaviour";
import { done, STRICT, within } from "../../trials/runCode";
import { arbitraryCases, smallerCases, tellCase, toldByCore } from "../../trials/smallerCases";
import { hexToRgb } from "../colour";
import { LiveRobot, linesOf } from "../live";
import type { ProjectDocument } from "../project";
import { type CameraSensor, isCamera } from "../readings";
import { type Blob, Watch } from "../vision";
import { programOf, run } from "../world";
import { LANGUAGES, type Language, writeBehaviour, writeEngine } from ".";

/** The first moment in which written code told something else than the core, with both; undefined where it told the same. */
function firstOther(told: readonly string[], wanted: readonly Moment[]) {
  const got = momentsOf(told);
  const moment = wanted.findIndex((one, i) => JSON.stringify(one) !== JSON.stringify(got[i]));
  if (moment < 0 && got.length === wanted.length) return undefined;
  return { moment, told: got[moment], wanted: wanted[moment] };
}

const expectMoments = (who: string, told: readonly string[], wanted: readonly Moment[]) =>
  expect(firstOther(told, wanted), who).toBeUndefined();

/** The drawn projects, each with what the core tells of it: made once for all languages. */
let made: DrawnCase[] | undefined;
const drawnCases = () => {
  made ??= Array.from({ length: 150 }, (_, i) => drawnCase(5000 + i));
  return made;
};

/** Runs some cases in a language's code; gives what each tells. */
const toldBy = (language: Language, cases: readonly DrawnCase[]) =>
  ACTORS[language.key](
    cases.map(
      ({ project, script }): Acting => ({
        source: writeEngine(language, project),
        sensors: codedSensors(project),
        script,
      }),
    ),
  );

describe("a behaviour as code", { timeout: 300_000 }, () => {
  // MicroPython takes longest, and what it runs is written as Python is, but for a few words.
  it.each(LANGUAGES.map((language) => [language.name, language.key === "micropython" ? 60 : 150, language] as const))(
    "tells in %s what the core tells, for %i drawn projects, whatever is read and pressed",
    async (_, count, language) => {
      const cases = drawnCases().slice(0, count);
      const told = await toldBy(language, cases);
      const failed = cases.find(({ wanted }, i) => firstOther(told[i], wanted) !== undefined);
      if (failed === undefined) return;
      // One that fails is made smaller as long as it does.
      const holds = fc.asyncProperty(arbitraryCases, async (one) => {
        const [own] = await toldBy(language, [one]);
        const other = firstOther(own, one.wanted);
        if (other !== undefined) throw new Error(`${tellCase(one)}\n${JSON.stringify(other)}`);
      });
      await fc.assert(holds, { examples: [[failed]], numRuns: 1 });
      throw new Error(`a drawn project differs among others only:\n${tellCase(failed)}`);
    },
  );

  it("tells by the core from a script what it told when that was drawn", () => {
    for (const { project, script, wanted } of drawnCases().slice(0, 30))
      expect(toldByCore(project, script)).toEqual(wanted);
  });

  it("is held by projects that are made small where they fail: to the one step and moment that matter", () => {
    const stops = ({ wanted }: DrawnCase) =>
      wanted.some(({ commands }) => commands.some((line) => line.startsWith("robot_stop")));
    const holds = fc.property(arbitraryCases, (one) => !stops(one));
    const { counterexample } = fc.check(holds, { examples: [[drawnCases().find(stops) as DrawnCase]], numRuns: 1 });
    const [smallest] = counterexample as [DrawnCase];
    const { modes } = smallest.project.behaviour;
    const steps = modes.flatMap(({ entering, responses }) => [...entering, ...responses.flatMap((r) => r.steps)]);
    expect(steps.length).toBeLessThanOrEqual(2);
    expect([...smallerCases(smallest)].some(stops)).toBe(false);
    expect(tellCase(smallest)).toContain("mode ");
  });

  it("is held by projects in which everything happens", () => {
    const cases = drawnCases();
    const kinds = new Map<string, number>();
    for (const { wanted } of cases)
      for (const { commands, notes } of wanted)
        for (const line of [...commands, ...notes]) {
          const [fn, kind, what] = line.split("\u001f");
          const key = fn !== "robot_note" ? fn : kind === "step" ? `step ${what.split(" ")[0]}` : `note ${kind}`;
          kinds.set(key, (kinds.get(key) ?? 0) + 1);
        }
    const steps = ["drive", "wheels", "turn", "follow", "stop", "wait", "lamp", "lamps", "tone", "tune", "say", "show"];
    const more = ["servo", "gate", "send", "count", "jot", "replay", "do", "log", "go", "finish", "meanwhile"];
    const notes = [
      "arrives",
      "departs",
      "fires",
      "dropped",
      "ended",
      "mode",
      "counter",
      "list",
      "log",
      "gate",
      "finish",
    ];
    const wanted = [
      ...[...steps, ...more].map((step) => `step ${step}`),
      ...[...notes, "trouble"].map((note) => `note ${note}`),
      ...["wheels", "stop", "lamp", "tone", "tune", "say", "show", "picture", "servo", "gate"].map((c) => `robot_${c}`),
    ];
    expect(wanted.filter((kind) => (kinds.get(kind) ?? 0) < 5)).toEqual([]);
  });

  it("does on every course of the demos what was done there", async () => {
    const runs = demos.flatMap((project) =>
      project.courses.map((course) => {
        const { script, wanted } = scriptOf(project, { course: course.id, seed: 2, limitMs: 40_000 });
        return { name: `${project.name}, ${course.name}`, project, script, wanted };
      }),
    );
    expect(runs.flatMap(({ wanted }) => wanted.flatMap(({ commands }) => commands)).length).toBeGreaterThan(100);
    for (const key of ["python", "javascript", "c"]) {
      const language = LANGUAGES.find((l) => l.key === key) as (typeof LANGUAGES)[number];
      const sources = new Map(demos.map((project) => [project, writeEngine(language, project)]));
      const all = runs.map(
        ({ project, script }): Acting => ({
          source: sources.get(project) as string,
          sensors: codedSensors(project),
          script,
        }),
      );
      const told = await ACTORS[key](all);
      runs.forEach(({ name, wanted }, i) => expectMoments(`${language.name}, ${name}`, told[i], wanted));
    }
  });

  it("goes by what a person changes and adds in its list", async () => {
    const project = demos[0];
    const { script } = scriptOf(project, { course: project.courses[0].id, seed: 2, limitMs: 20_000 });
    for (const key of ["python", "c", "javascript"]) {
      const language = LANGUAGES.find((l) => l.key === key) as (typeof LANGUAGES)[number];
      // Behind each stop another step, and the first speed is another one.
      const source = writeEngine(language, project)
        .replace(/^( +)(stop\(\),.*)$/gm, "$1$2\n$1tone(440),")
        .replace(/^( +)(ROW\(STEP_STOP, 0\),.*)$/gm, "$1$2\n$1ROW(STEP_TONE, 440, 0),")
        .replace(/drive\(0.35\)|SHARE\(0.35\)/, (text) => text.replace("0.35", "0.25"));
      const [told] = await ACTORS[key]([{ source, sensors: codedSensors(project), script }]);
      const commands = momentsOf(told).flatMap((moment) => moment.commands);
      expect(commands[0], language.name).toBe(commandLine({ kind: "wheels", left: 0.25, right: 0.25 }));
      const tones = commands.flatMap((line, i) =>
        line === commandLine({ kind: "tone", hertz: 440, ms: 0 }) ? [i] : [],
      );
      expect(tones.length, language.name).toBeGreaterThan(0);
      for (const i of tones) expect(commands[i - 1], language.name).toMatch(/^robot_stop/);
    }
  });

  it("goes by the order in which a person puts its responses", async () => {
    const project = demos[0];
    const moved = structuredClone(project);
    const [patrol] = moved.behaviour.modes;
    const last = patrol.responses.findIndex(({ when }) => "nothingKnownFor" in when);
    patrol.responses.unshift(...patrol.responses.splice(last, 1));
    const course = { course: project.courses[0].id, seed: 2, limitMs: 20_000 };
    const { script, wanted } = scriptOf(moved, course);
    const commandsOf = (moments: typeof wanted) => moments.map(({ commands }) => commands);
    for (const [key, block] of [
      ["python", /^ +when\(nothing_known_for\(EYE_BELLY, 400\).*\n(?:.*\n)*?^ +\]\),\n/m],
      ["javascript", /^ +when\(nothingKnownFor\(EYE_BELLY, 400\).*\n(?:.*\n)*?^ +\]\),\n/m],
      ["c", /^ +ROW\(WHEN, .*nothing known for 0\.4 s.*\n(?:.*\n)*?^ +END, 2,\n/m],
    ] as const) {
      const language = LANGUAGES.find((l) => l.key === key) as (typeof LANGUAGES)[number];
      const written = writeEngine(language, project);
      const [text] = block.exec(written) ?? [""];
      const first = written.search(/^ +(ROW\(WHEN, |when\()/m);
      const source = `${written.slice(0, first)}${text}${written.slice(first).replace(text, "")}`;
      const [told] = await ACTORS[key]([{ source, sensors: codedSensors(project), script }]);
      expect(commandsOf(momentsOf(told)), language.name).toEqual(commandsOf(wanted));
    }
  });

  it("says at the start that a person added a response, for which there is no room", async () => {
    const project = demos[0];
    const { script } = scriptOf(project, { course: project.courses[0].id, seed: 2, limitMs: 1_000 });
    for (const [key, block] of [
      ["python", /^ +when\((?:.*\n)*?^ +\]\),\n/m],
      ["javascript", /^ +when\((?:.*\n)*?^ +\]\),\n/m],
      ["c", /^ +ROW\(WHEN, (?:.*\n)*?^ +END, 2,\n/m],
    ] as const) {
      const language = LANGUAGES.find((l) => l.key === key) as (typeof LANGUAGES)[number];
      const source = writeEngine(language, project).replace(block, (text) => text + text);
      const [told] = await ACTORS[key]([{ source, sensors: codedSensors(project), script }]);
      const [first, ...others] = momentsOf(told);
      expect(first.notes.join(), language.name).toContain("the list has more modes, responses or routines");
      expect(first.commands, language.name).toEqual([commandLine({ kind: "stop", how: "brake" })]);
      expect(others.flatMap(({ commands }) => commands)).toEqual([]);
    }
  });

  it("says a number in its list that cannot be, with its line, before anything is done", () => {
    const [project] = demos;
    for (const [key, program] of [
      ["python", ["python3", "robot.py"]],
      ["javascript", ["node", "robot.mjs"]],
      ["c", ["cc", "-std=c99", "-c", "-x", "c", "robot.h"]],
    ] as const) {
      const language = LANGUAGES.find((l) => l.key === key) as (typeof LANGUAGES)[number];
      const source = writeBehaviour(language, project).replace(/drive\(0.25\)|SHARE\(0.25\)/, (text) =>
        text.replace("0.25", "25"),
      );
      const line = source.split("\n").findIndex((text) => /drive\(25\)|SHARE\(25\)/.test(text)) + 1;
      expect(line, language.name).toBeGreaterThan(0);
      const { status, stdout, stderr } = within((folder) => {
        writeFileSync(join(folder, `robot.${language.ending}`), source);
        return spawnSync(program[0], program.slice(1), { cwd: folder, input: "", encoding: "utf8" });
      });
      expect(status, language.name).not.toBe(0);
      expect(stdout, language.name).toBe("");
      expect(stderr, language.name).toMatch(new RegExp(`robot.${language.ending}\\D{1,9}${line}\\b`));
      if (key !== "c") expect(stderr, language.name).toContain("speed is 25: it must be from -1 to 1");
    }
  });

  it("says a sensor in its list that is none, before anything is done", () => {
    for (const [key, program] of [
      ["python", ["python3", "robot.py"]],
      ["javascript", ["node", "robot.mjs"]],
    ] as const) {
      const language = LANGUAGES.find((l) => l.key === key) as (typeof LANGUAGES)[number];
      const source = writeBehaviour(language, demos[0]);
      const wrong = source.replace(/(nothing_known_for|nothingKnownFor)\(EYE_BELLY/, "$1(7");
      expect(wrong).not.toBe(source);
      const { stdout, stderr } = within((folder) => {
        writeFileSync(join(folder, `robot.${language.ending}`), wrong);
        return spawnSync(program[0], program.slice(1), { cwd: folder, input: "", encoding: "utf8" });
      });
      expect(stdout, language.name).toBe("");
      expect(stderr, language.name).toContain("eye is 7: it must be from -2 to 3");
    }
  });

  it("tells what a project names apart from the engine's own names", async () => {
    const [bare] = demos;
    const text = JSON.stringify(bare).replaceAll(/"tally"/g, '"names"');
    const project = JSON.parse(text) as ProjectDocument;
    expect(project.behaviour.counters).toEqual(["names"]);
    const { script, wanted } = scriptOf(project, { course: project.courses[0].id, seed: 2, limitMs: 20_000 });
    for (const key of ["python", "c", "javascript"]) {
      const language = LANGUAGES.find((l) => l.key === key) as (typeof LANGUAGES)[number];
      const source = writeEngine(language, project);
      expect(source, language.name).toContain("COUNTER_NAMES_");
      const [told] = await ACTORS[key]([{ source, sensors: codedSensors(project), script }]);
      expectMoments(language.name, told, wanted);
    }
  });

  it("has no word in its list that is the name of something else in the file", () => {
    for (const project of [
      ...demos,
      ...drawnCases()
        .slice(0, 40)
        .map((one) => one.project),
    ])
      for (const key of ["python", "javascript"]) {
        const language = LANGUAGES.find((l) => l.key === key) as (typeof LANGUAGES)[number];
        const made = [
          ...writeBehaviour(language, project).matchAll(
            /^(?:export )?(?:(?:def|function|class|const|let) )?(\w+)(?:\(| = )/gm,
          ),
        ].map(([, own]) => own);
        const twice = made.filter((own, i) => made.indexOf(own) !== i && own !== "NAN" && own !== "INFINITY");
        expect(twice, `${language.name}, ${project.name}`).toEqual([]);
      }
  });

  it("finds in a camera's frames the blobs that the core finds, whatever its form, strip and cleaning", async () => {
    const watch = demos[4];
    const camera = watch.sensors.find(isCamera) as CameraSensor;
    const { strip: _strip, setPoint: _setPoint, ...bare } = camera;
    const size = { width: 24, height: 18 };
    const forms = [
      { rows: "top first", order: "rgb", clean: { erode: 0, dilate: 0 }, minArea: 1 },
      { rows: "bottom first", order: "bgr", clean: { erode: 1, dilate: 2 }, minArea: 6 },
      {
        rows: "top first",
        order: "grb",
        clean: { erode: 0, dilate: 3 },
        minArea: 3,
        strip: { top: 3, bottom: 15, left: 2, right: 21 },
      },
      {
        rows: "bottom first",
        order: "rgb",
        clean: { erode: 1, dilate: 0 },
        minArea: 1,
        strip: { top: 0, bottom: 17 },
        setPoint: 7,
      },
    ] as const;
    const cases = forms.map(({ rows, ...form }, k) => {
      const own = { ...bare, ...form, frame: { ...size, rows } } as CameraSensor;
      const project = { ...watch, sensors: watch.sensors.map((s) => (s === camera ? own : s)) };
      const program = programOf(project);
      const eye = program.eyes.findIndex(({ sensor }) => sensor.id === camera.id);
      const look = new Watch(own, program.eyes[eye].ruleSet, project.targets);
      const script: string[] = [];
      const wanted: (Blob | undefined)[][] = [];
      for (let n = 0; n < 12; n++) {
        // Areas of the targets' own colours, from noise to calm.
        let state = 77 * (k + 1) + n;
        const draw = () => {
          state = Math.imul(state, 1664525) + 1013904223;
          return (state >>> 8) / 2 ** 24;
        };
        let colour = [0, 0, 0];
        const data = new Uint8Array(3 * size.width * size.height);
        for (let i = 0; i < data.length; i += 3) {
          if (draw() < 0.12)
            colour = [
              ...hexToRgb(
                draw() < 0.3 ? "#101010" : project.targets[Math.floor(draw() * project.targets.length)].paint,
              ),
            ].map((x) => Math.round(255 * x));
          const above = i >= 3 * size.width && draw() < 0.85;
          for (let c = 0; c < 3; c++)
            data[i + c] = above ? data[i + c - 3 * size.width] : colour["rgb".indexOf(form.order[c])];
        }
        script.push(`6 ${eye} ${data.join(" ")}`);
        const found = look.look({ ...size, channels: 3, data });
        wanted.push(program.targets.map((target) => found.get(target)));
      }
      expect(wanted.flat().filter((blob) => blob !== undefined).length).toBeGreaterThan(4);
      return { project, script, wanted, eyes: program.eyes.length };
    });
    for (const language of LANGUAGES.filter(({ looks }) => looks)) {
      const all = cases.map(
        ({ project, script }): Acting => ({
          source: writeEngine(language, project),
          sensors: codedSensors(project),
          // In C a frame ends with a number that is no byte.
          script: language.key === "c" ? script.map((line) => `${line} -1`) : script,
        }),
      );
      const told = await ACTORS[language.key](all);
      cases.forEach(({ wanted }, k) => {
        const fields = (blob: Blob | undefined) =>
          blob === undefined ? [0] : [blob.area, blob.width, blob.height, blob.x, blob.y, blob.error, blob.halfFrame];
        const got = told[k].map((line) => {
          const numbers = line.slice(2).split(" ").map(ofHex);
          return wanted[0].map((_, i) => {
            // What is steadied begins with the sensors themselves.
            const at = 7 * (cases[k].eyes + i);
            return numbers[at] === 0 ? [0] : numbers.slice(at, at + 7);
          });
        });
        expect({ language: language.name, form: k, got }).toEqual({
          language: language.name,
          form: k,
          got: wanted.map((blobs) => blobs.map(fields)),
        });
      });
    }
  });

  it("says the robot's lines what the program itself says, as a file that is started", () => {
    for (const project of demos.slice(0, 4)) {
      const lines = linesOfRun(project);
      const commands: string[] = [];
      const robot = new LiveRobot(
        project,
        (moment) => commands.push(...linesOf(moment)),
        () => expect.unreachable("every line can be read"),
      );
      for (const line of lines) robot.feed(`${line}\n`);
      robot.end();
      expect(commands.length, project.name).toBeGreaterThan(0);
      for (const [key, program] of [
        ["python", "python3"],
        ["javascript", "node"],
      ] as const) {
        const language = LANGUAGES.find((l) => l.key === key) as (typeof LANGUAGES)[number];
        const told = within((folder) => {
          const file = join(folder, `behaviour.${language.ending}`);
          writeFileSync(file, writeBehaviour(language, project));
          return done("sh", ["-c", `${program} ${file} 2>log`], `${lines.join("\n")}\n`, folder);
        });
        const said = told
          .trim()
          .split("\n")
          .map((line) => JSON.parse(line) as object)
          .filter((line) => !("alive" in line));
        expect(said, `${language.name}, ${project.name}`).toEqual(commands.map((line) => JSON.parse(line)));
      }
    }
  });

  it.each([
    [64, []],
    [32, ["-DPERCEPTUM_FLOAT"]],
  ])("prints in C what is to be done, and runs at once, where a double has %i bits", (_, more) => {
    const c = LANGUAGES.find((l) => l.key === "c") as (typeof LANGUAGES)[number];
    const [project] = demos;
    const compiled = (folder: string, own: ProjectDocument) => {
      writeFileSync(join(folder, "robot.h"), writeBehaviour(c, own));
      writeFileSync(join(folder, "main.c"), '#define PERCEPTUM_MAIN\n#include "robot.h"\n');
      done("cc", [...STRICT, ...more, "-o", "robot", "main.c", "-lm"], "", folder);
    };
    for (const other of demos.slice(1)) within((folder) => compiled(folder, other));
    const said = within((folder) => {
      compiled(folder, project);
      const coral = [0, 20, 40, 60, 80].map((t) => `${t} 0 0 0 700 150 100`);
      return done("sh", ["-c", "./robot 2>log"], `${coral.join("\n")}\n`, folder);
    });
    expect(
      said
        .trim()
        .split("\n")
        .map((line) => JSON.parse(line)),
    ).toEqual([
      { wheels: [expect.closeTo(0.35, 6), expect.closeTo(0.35, 6)] },
      { stop: "brake" },
      { lamp: "main", rgb: "#e4573d", blink: 2 },
    ]);
  });

  it("answers lines that cannot be read, and goes on", () => {
    const python = LANGUAGES[0];
    const lines = [
      '{"hello":"perceptum","version":7}',
      '{"e":[0,0],"t":0}',
      '{"hello":"perceptum","version":1}',
      "no line",
      '{"s":"nose","t":0,"v":[1,2,3]}',
      '{"s":"belly","t":0,"v":[1]}',
      '{"s":"belly","t":0,"v":[1,2,3]}',
      '{"x":1}',
    ];
    for (const [language, program] of [
      [python, "python3"],
      [LANGUAGES.find((l) => l.key === "javascript") as typeof python, "node"],
    ] as const) {
      const told = within((folder) => {
        writeFileSync(join(folder, `robot.${language.ending}`), writeBehaviour(language, demos[0]));
        return done("sh", ["-c", `${program} robot.${language.ending} 2>log`], lines.join("\n"), folder);
      });
      const said = told
        .trim()
        .split("\n")
        .map((line) => JSON.parse(line));
      expect(said.flatMap((line) => ("error" in line ? [line.line] : []))).toEqual([1, 2, 4, 5, 6, 8]);
      expect(said).toContainEqual({ wheels: [0.35, 0.35] });
    }
  });
});

/** A number of 16 hexadecimal digits. */
function ofHex(digits: string): number {
  const view = new DataView(new ArrayBuffer(8));
  view.setBigUint64(0, BigInt(`0x${digits}`));
  return view.getFloat64(0);
}

/** What a simulated robot says in the beginning of a run. */
function linesOfRun(project: ProjectDocument): string[] {
  const lines = ['{"hello":"perceptum","version":1}'];
  let held: readonly string[] = [];
  const choice = { course: project.courses[0].id, seed: 3, limitMs: 15_000 };
  run(project, choice, (program, { t }, _, pressed, { readings, travel }) => {
    for (const button of pressed) if (!held.includes(button)) lines.push(JSON.stringify({ button, down: true, t }));
    for (const button of held) if (!pressed.includes(button)) lines.push(JSON.stringify({ button, down: false, t }));
    held = [...pressed];
    for (const { eye, raw } of readings) lines.push(JSON.stringify({ s: program.eyes[eye].id, t, v: [...raw] }));
    lines.push(JSON.stringify({ e: [travel.left, travel.right], t }));
  });
  return lines;
}
