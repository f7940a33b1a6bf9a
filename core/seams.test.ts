import { afterAll, expect, it } from "vitest";
import * as z from "zod";
import { loweredEngine } from "../lowering/engine";
import { codedSensors, momentsOf, scriptOf } from "../trials/drawnBehaviour";
import { ACTORS } from "../trials/runBehaviour";
import { type int, type num, whole } from "./arithmetic";
import {
  CONDITIONS,
  type Command,
  type CommandLine,
  type ConditionKind,
  faceOf,
  namesOf,
  OUTPUTS,
  type OutputKind,
  parseCondition,
  parseStep,
  parseTrigger,
  printStep,
  printTrigger,
  type Response,
  STEPS,
  type Step,
  type StepKind,
  TRIGGERS,
  type Trigger,
  type TriggerKind,
} from "./behaviour";
import type { Engine } from "./behaviour/engine/Engine";
import { playTone } from "./behaviour/engine/outputs";
import { outputKind } from "./behaviour/outputs/OutputKind";
import type { NameVisitor } from "./behaviour/Visitor";
import { LANGUAGES, type Language, writeBehaviour, writeEngine } from "./code";
import { ENGINE } from "./code/engineParts";
import { glasshouseRound } from "./demo";
import { applyEdit } from "./edits";
import { findAll } from "./findings";
import { FINDINGS } from "./findings/findAll";
import type { FindingCode, FindingKind } from "./findings/finding";
import { FIXES, type FixChange, type FixKind } from "./findings/fix";
import { commandOf, lineOf, readToRobotLine } from "./live/protocol";
import {
  type ClauseId,
  type CourseId,
  numbered,
  type ResponseId,
  type RuleId,
  type TargetId,
  TargetIdSchema,
} from "./names";
import { parsePhrase } from "./phrases";
import {
  type Project,
  ProjectDocument,
  readProject,
  renamedUses,
  splitProject,
  usesOfName,
  writeProject,
} from "./project";
import { decodeReadings, encodeReadings, NO_FEATURES, REPORT_KINDS, type Report, type ReportKind } from "./readings";
import type { Clause } from "./rules";
import {
  COURSES,
  type Course,
  type CourseKind,
  courseAs,
  emptyCourse,
  ROBOTS,
  type Robot,
  type RobotKind,
  run,
  tryStep,
} from "./world";
import { bareCourse } from "./world/courses/bareCourse";
import { type FloorCourse, floor } from "./world/courses/floor";
import { onAnyCourse } from "./world/courses/parts";
import { cart } from "./world/robots/cart";
import { CartRobot } from "./world/robots/cartSchema";
import { onAnyRobot } from "./world/robots/parts";
import { sharedMachine } from "./world/robots/sharedMachine";

declare module "./behaviour/engine/Engine" {
  interface RobotSide {
    puff(ms: num): void;
  }
}

/** Blows air: an output that nobody else knows of. */
const puff = outputKind<{ kind: "puff"; ms: number }, { puff: number }>({
  key: "puff",
  schema: z.object({ puff: z.number() }),
  line: ({ ms }) => ({ puff: ms }),
  command: ({ puff }) => ({ kind: "puff", ms: puff }),
  heard: (_, ms: number) => ({ kind: "puff", ms }),
  print: ({ ms }) => `puff ${ms}`,
  tell: ({ ms }) => `a puff of ${ms} ms`,
  shows({ ms }, at, face, { t }) {
    face.sound = t - at < ms ? "puff" : "";
  },
  fn: 'fn robot_puff(ms: num)\n  "Blows air."',
  told: "fn tell_puff(ms: num)\n  robot_puff(ms)",
  on: {
    python: 'def robot_puff(ms):\n    tell({"puff": ms})',
    c: 'static inline void robot_puff(double ms) {\n  printf("{\\"puff\\": %.17g}\\n", ms);\n}',
    javascript: "function robotPuff(ms) {\n  tell({ puff: ms });\n}",
  },
});

/** Blows air for so long. */
function blow(e: Engine, ms: num): void {
  e.robot.puff(ms);
}

/** Blows for some ms: a step of that output. */
const blows: StepKind<{ step: "blows"; ms: number }> = {
  key: "blows",
  schema: z.strictObject({ step: z.literal("blows"), ms: z.number() }),
  opening: "blows",
  templates: ["blows {ms 50}"],
  parse: (reader) => ({ step: "blows", ms: reader.takeNumber("a time in ms") }),
  print: ({ ms }) => `blows ${ms}`,
  tell: ({ ms }) => `blow for ${ms} ms`,
  acts: { blows: { takes: ["ms"], begin: blow } },
  row: ({ ms }) => ({ act: "blows", args: [ms] }),
};

/** Beeps as often as a counter says. */
function beepOften(e: Engine, counter: int): void {
  const times = whole(e.counters[counter]);
  for (let i = 0; i < times; i++) playTone(e, 880, 50);
}

/** Tells whether a counter is even. */
function isEven(e: Engine, counter: int): boolean {
  const half = e.counters[counter] / 2;
  return Math.floor(half) === half;
}

/** Beeps once for each time a counter was counted: a step that nobody else knows of. */
const beeps: StepKind<{ step: "beeps"; counter: string }> = {
  key: "beeps",
  schema: z.strictObject({ step: z.literal("beeps"), counter: z.string() }),
  opening: "beeps",
  templates: ["beeps {counters}"],
  parse: (reader) => ({ step: "beeps", counter: reader.takeName("counters") }),
  print: ({ counter }) => `beeps ${counter}`,
  tell: ({ counter }) => `beep as often as ${counter} says`,
  acts: { beeps: { takes: ["counter"], begin: beepOften } },
  row: ({ counter }, to) => ({ act: "beeps", args: [to.counter(counter)] }),
  named: (step, visit: NameVisitor) => ({ ...step, counter: visit("counter", step.counter, "counter") }),
};

/** A counter is even: a condition that nobody else knows of. */
const even: ConditionKind<{ even: string }> = {
  key: "even",
  schema: z.strictObject({ even: z.string() }),
  parse: (reader) => (reader.skip("even") ? { even: reader.takeName("counters") } : undefined),
  print: ({ even }) => `even ${even}`,
  tell: ({ even }) => `${even} is even`,
  asks: { even: { takes: ["counter"], ask: isEven } },
  rows: ({ even }, to) => [{ act: "even", args: [to.counter(even)] }],
  named: ({ even }, visit) => ({ even: visit("counter", even, "even") }),
};

/** A robot that only ever goes east, at one speed, whatever it is told. */
type Drifter = Omit<Extract<Robot, { kind: "hand" }>, "kind"> & { kind: "drifter"; mmS: number };
const drifter: RobotKind<Drifter> = {
  key: "drifter",
  name: "drifter on a floor",
  origin: "its middle",
  schema: z.strictObject({
    ...onAnyRobot,
    kind: z.literal("drifter"),
    mmS: z.number(),
  }) as unknown as z.ZodType<Drifter>,
  course: "floor",
  fresh: ({ id, name, mounts, lamps, buttons, servos }) => ({
    id,
    name,
    mounts,
    lamps,
    buttons,
    servos,
    kind: "drifter",
    mmS: 200,
  }),
  machine: (robot) => ({ ...sharedMachine(robot), topSpeed: robot.mmS, can: ["drive"] }),
  body: ({ mmS }, { x, y }, _, tickMs) => ({
    x,
    y,
    heading: 0,
    sin: 0,
    cos: 1,
    speed: mmS,
    slipping: false,
    travel: { left: 0, right: 0 },
    command() {},
    step() {
      (this as { x: number }).x += (mmS * tickMs) / 1000;
    },
  }),
  faster: (robot, factor) => ({ ...robot, mmS: robot.mmS * factor }),
  widthMm: () => 50,
};

/** A report of one number for all light, which nobody else knows of. */
const clearOnly: ReportKind = {
  key: "clear" as Report,
  name: "clear light only",
  channels: ["c"],
  features: ["clear"],
  forms: [{ id: "clear-10", text: "Clear light, 10 bit", scale: [1023], bits: 10 }],
  usualMs: 40,
  referenced: true,
  bright: ["c"],
  featuresOfOne: ([clear]) => ({ ...NO_FEATURES, clear }),
  columns: ([clear]) => ({ clear }),
  formulas: [["clear", "c"]],
  measure: ({ mean }) => [mean()],
};

/** A floor that ends at a wall in the east, with posts that are laid out as patches. */
type Lane = Omit<FloorCourse, "kind"> & { kind: "lane"; posts: { x: number; target: TargetId }[] };
const lane: CourseKind<Lane> = {
  ...(floor as unknown as CourseKind<Lane>),
  key: "lane",
  schema: z.strictObject({
    ...onAnyCourse,
    kind: z.literal("lane"),
    posts: z.array(z.strictObject({ x: z.number(), target: TargetIdSchema })),
  }) as unknown as z.ZodType<Lane>,
  fresh: (id, name, ground) => ({ ...bareCourse(id, name, ground), kind: "lane", posts: [] }),
  limitMs: () => 60_000,
  lays: ({ posts }, draw) => ({
    patches: posts.map(draw("post")).map(({ x, target }) => ({
      shape: { rect: [100, 400] as [number, number] },
      target,
      at: [x, 600] as [number, number],
      angle: 0,
    })),
    lines: [],
  }),
  repainted: (course, visit) => ({
    ...course,
    posts: course.posts.map((post, i) => ({ ...post, target: visit(post.target, "posts", i, "target") })),
  }),
  own: { part: "posts", one: "post", count: ({ posts }) => posts.length },
  ends: (_, { x }) => (x > 900 ? "left the course" : undefined),
};

/** A cart that runs on such floors. */
const runner = {
  ...(cart as unknown as RobotKind<Robot>),
  key: "runner",
  schema: CartRobot.extend({ kind: z.literal("runner") }),
  course: "lane",
} as unknown as RobotKind<Robot>;

/** Tells whether the robot has gone far enough since it began. */
function whenGone(e: Engine, mm: num): num {
  return Math.abs(e.wayLeft) >= mm ? 1 : Number.NaN;
}

/** The robot has gone so far: a trigger by a fact of its own. */
const gone: TriggerKind<{ gone: number }> = {
  key: "gone",
  schema: z.strictObject({ gone: z.number() }),
  onEdge: false,
  comesByItself: true,
  judge: { takes: ["mm"], when: whenGone },
  row: ({ gone }) => ({ act: "gone", args: [gone] }),
  templates: ["gone {way 200} mm"],
  parse(reader) {
    if (!reader.skip("gone")) return undefined;
    const gone = reader.takeNumber("a way in mm");
    reader.take("mm");
    return { gone };
  },
  print: ({ gone }) => `gone ${gone} mm`,
  tell: ({ gone }) => `once it has gone ${gone} mm`,
  named: (trigger) => trigger,
  needs: () => [],
};

/** A list of the functions that a program has: a language that nobody else knows of. */
const index: Language = {
  key: "index",
  name: "Index",
  ending: "txt",
  mime: "text/plain",
  looks: false,
  file: (title, parts) => [...title, ...parts.flatMap(({ fns }) => fns.map(({ name }) => name))],
};

/** A target that is called by its colour: a finding, with a fix of a kind of its own. */
const calledByColour: FindingKind = {
  code: "called-by-colour" as FindingCode,
  find: ({ project: { targets } }) =>
    targets
      .filter(({ name }) => /^coral/i.test(name))
      .map(({ id, name }) => ({
        code: "called-by-colour" as FindingCode,
        level: "hint",
        title: `${name} is called by its colour`,
        sentence: "It may be painted anew.",
        place: { stage: "decide", target: id },
        fix: { label: "Count turns", change: { turnsRound: "turns" } as unknown as FixChange },
      })),
};
const turnsRound: FixKind<{ turnsRound: string }> = {
  key: "turnsRound",
  schema: z.strictObject({ turnsRound: z.string() }),
  apply: (project, { turnsRound }) => ({
    ...project,
    behaviour: { ...project.behaviour, counters: [...project.behaviour.counters, turnsRound] },
  }),
};

/** Puts an entry into a list; gives what takes it out again. */
function put<T>(list: readonly T[], entry: T): () => void {
  const all = list as T[];
  all.push(entry);
  return () => void all.splice(all.indexOf(entry), 1);
}

const added = [
  REPORT_KINDS.add(clearOnly),
  COURSES.add(lane as unknown as CourseKind<Course>),
  TRIGGERS.add(gone as unknown as TriggerKind),
  ROBOTS.add(runner),
  FIXES.add(turnsRound as unknown as FixKind),
  put(FINDINGS, calledByColour),
  put(LANGUAGES, index),
  OUTPUTS.add(puff as unknown as OutputKind<Command, CommandLine>),
  STEPS.add(blows as unknown as StepKind<{ step: string }>),
  STEPS.add(beeps as unknown as StepKind<{ step: string }>),
  CONDITIONS.add(even as unknown as ConditionKind),
  ROBOTS.add(drifter as unknown as RobotKind<Robot>),
];
const known = { ...ENGINE };
afterAll(() => {
  for (const remove of added) remove();
  Object.assign(ENGINE, known);
});

it("a kind of robot, condition, step and output of one entry each goes from phrase to file to run to written code", async () => {
  const { document } = splitProject(glasshouseRound());
  const names = namesOf(document);
  const must = <T>(parsed: { value: T } | { problem: { message: string } }): T => {
    if ("problem" in parsed) throw new Error(parsed.problem.message);
    return parsed.value;
  };
  const step = must(parseStep("beeps tally", names)) as Step;
  expect(printStep(step)).toBe("beeps tally");
  const when = must(parseTrigger("becomes not even tally", names)) as Trigger;
  expect(printTrigger(when)).toBe("becomes not even tally");
  expect(must(parsePhrase("even tally and tally >= 1", names, parseCondition))).toEqual({
    all: [{ even: "tally" }, { count: "tally", from: 1 }],
  });

  const count = must(parseStep("count tally + 1", names));
  const [mode] = document.behaviour.modes;
  const answer = (id: string, trigger: string | Trigger, steps: Step[]): Response => ({
    id: id as ResponseId,
    when: typeof trigger === "string" ? must(parseTrigger(trigger, names)) : trigger,
    steps: numbered("step", steps),
    fires: "once per visit",
    busy: "let it finish",
    on: true,
  });
  const project = {
    ...document,
    tapes: [],
    robot: drifter.fresh(document.robot) as unknown as Robot,
    courses: [
      {
        ...emptyCourse("lane" as CourseId, "Lane", document.courses[0].ground),
        patches: numbered(
          "patch",
          [600, 1200].map((x) => ({
            shape: { rect: [100, 400] as [number, number] },
            target: document.targets[0].id,
            at: [x, 600] as [number, number],
            angle: 0,
          })),
        ),
      },
    ],
    behaviour: {
      ...document.behaviour,
      start: mode.id,
      modes: [
        {
          ...mode,
          entering: [],
          responses: [
            answer("counts", `${document.targets[0].id} arrives`, [count]),
            answer("beeps", when, [step, must(parseStep("blows 50", names)) as Step]),
          ],
        },
      ],
    },
  };
  // What the file holds is checked and comes back, and names in it are known.
  const read = readProject(writeProject(project as unknown as Project));
  if ("problem" in read) throw new Error(`${read.problem.place}: ${read.problem.message}`);
  expect(read.project.behaviour).toEqual(project.behaviour);
  expect(usesOfName(project, "counter", "tally").map((path) => path.at(-1))).toEqual(["counter", "even", "counter"]);
  const renamed = renamedUses(project, "counter", "tally", "plates");
  expect(renamed.behaviour.modes[0].responses[1]).toMatchObject({
    when: { becomes: { not: { even: "plates" } } },
    steps: [{ counter: "plates" }, { step: "blows" }],
  });
  expect(ProjectDocument.safeParse(renamed).success).toBe(false);

  const trace = run(project, { course: "lane", light: "overcast", seed: 3 });
  expect(trace.ending).toBe("left the course");
  const counts = trace.notes.flatMap((note) => (note.kind === "counter" ? [note.value] : []));
  expect(counts).toEqual([1, 2]);
  // It became odd once, with one plate counted: one beep.
  expect(trace.outputs.map((o) => o.command)).toMatchObject([{ kind: "tone" }, { kind: "puff", ms: 50 }]);
  const { command } = trace.outputs[1];
  expect(lineOf(command)).toEqual({ puff: 50 });
  expect(commandOf(readToRobotLine(JSON.stringify(lineOf(command))))).toEqual(command);
  const faceAt = (t: number) => faceOf(project.robot, trace.outputs, { t, mostBlinkHz: 3 }).sound;
  expect([faceAt(trace.outputs[1].t + 10), faceAt(trace.outputs[1].t + 60)]).toEqual(["puff", ""]);
  expect(tryStep(project as unknown as Project, must(parseStep("blows 50", names)) as Step).outputs).toEqual([
    "a puff of 50 ms",
  ]);

  // What the entries say is read from their source, as that of all other kinds is.
  Object.assign(ENGINE, loweredEngine(["core/seams.test.ts"]));
  const { script, wanted } = scriptOf(project as never, { course: "lane", light: "overcast", seed: 3 } as never);
  for (const language of LANGUAGES.filter((one) => one !== index)) {
    const source = writeEngine(language, project as unknown as ProjectDocument);
    expect(source).toMatch(language.key === "c" ? /ROW\(STEP_BEEPS, COUNTER_TALLY\)/ : /beeps\(COUNTER_TALLY\),/);
    // A file that runs at once has what its entry delivers for the robot.
    const file = writeBehaviour(language, project as unknown as ProjectDocument);
    expect(file, language.name).toContain(puff.on[language.key] ?? puff.on.python);
    const acting = { source, sensors: codedSensors(project as unknown as ProjectDocument), script };
    const [told] = await ACTORS[language.key]([acting]);
    expect(momentsOf(told), language.name).toEqual(wanted);
  }
}, 60_000);

it("a report, a course, a trigger, a finding with its fix and a language of one entry each go all the way", async () => {
  const { document } = splitProject(glasshouseRound());
  const [coral] = document.targets;
  const { order: _, reference: __, ...bare } = document.sensors[0];
  const sensor = { ...bare, reports: "clear" as Report, scale: { c: [0, 1023] as [number, number] } };
  const names = namesOf(document);
  const must = <T>(parsed: { value: T } | { problem: { message: string } }): T => {
    if ("problem" in parsed) throw new Error(parsed.problem.message);
    return parsed.value;
  };
  const answer = (id: string, trigger: string, step: string): Response => ({
    id: id as ResponseId,
    when: must(parseTrigger(trigger, names)),
    steps: numbered("step", [must(parseStep(step, names)) as Step]),
    fires: "once per visit",
    busy: "let it finish",
    on: true,
  });
  const [mode] = document.behaviour.modes;
  const [set] = document.ruleSets;
  const isDark: Clause = { id: "clause-1" as ClauseId, all: [{ feature: "clear", to: 0.25 }] };
  const course = {
    ...lane.fresh(
      "lane" as CourseId,
      "Lane",
      document.targets.find(({ name }) => name.startsWith("Chalk"))?.id ?? coral.id,
    ),
    starts: numbered("start", [{ name: "gate", x: 100, y: 600, heading: 0 }]),
    posts: [
      { x: 400, target: document.targets.find(({ name }) => name.startsWith("Teal"))?.id ?? coral.id },
      { x: 700, target: coral.id },
    ],
  };
  const project = {
    ...document,
    tapes: [],
    sensors: [sensor],
    ruleSets: [{ ...set, rules: [{ id: "dark" as RuleId, target: coral.id, on: true, any: [isDark] }] }],
    robot: {
      ...document.robot,
      kind: "runner" as never,
      mounts: document.robot.mounts.filter((mount) => mount.sensor === sensor.id),
    },
    courses: [course as unknown as Course],
    behaviour: {
      ...document.behaviour,
      start: mode.id,
      routines: [],
      modes: [
        {
          ...mode,
          entering: numbered("step", [must(parseStep("drive 30 %", names)) as Step]),
          responses: [
            answer("sees", `${coral.id} arrives`, "count tally + 1"),
            answer("far", "gone 450 mm", "tone A4 for 0.1 s"),
          ],
        },
      ],
    },
  };
  const read = readProject(writeProject(project as unknown as Project));
  if ("problem" in read) throw new Error(`${read.problem.place}: ${read.problem.message}`);
  expect(read.project.sensors[0].reports).toBe("clear");
  expect(printTrigger(read.project.behaviour.modes[0].responses[1].when)).toBe("gone 450 mm");
  expect(courseAs(course as unknown as Course, "floor").lost).toContainEqual({ part: "posts", one: "post", count: 2 });

  // The simulated sensor measures it, rules judge it, and it is kept as bytes.
  const choice = { course: "lane", light: "overcast", seed: 1 } as never;
  const trace = run(project, choice);
  const [{ readings }] = trace.eyes;
  expect(Object.keys(readings.channels)).toEqual(["c"]);
  expect(decodeReadings(encodeReadings(readings)).channels.c).toEqual(readings.channels.c);
  expect(trace.ending).toBe("left the course");
  expect(trace.x.at(-1)).toBeGreaterThan(900);
  const arrivals = trace.notes.filter((note) => note.kind === "arrives");
  expect(arrivals.length).toBeGreaterThan(0);
  const tones = trace.outputs.filter(({ command }) => command.kind === "tone");
  expect(tones).toHaveLength(1);
  expect(Math.abs(trace.x[Math.round(tones[0].t / trace.tickMs)] - 550)).toBeLessThan(15);

  // Written code does the same.
  Object.assign(ENGINE, loweredEngine(["core/seams.test.ts"]));
  const { script, wanted } = scriptOf(project as never, choice);
  for (const language of LANGUAGES) {
    const source = writeEngine(language, project as unknown as ProjectDocument);
    if (language === index) expect(source.split("\n")).toContain("classify_belly");
    else {
      const acting = { source, sensors: codedSensors(project as unknown as ProjectDocument), script };
      const [told] = await ACTORS[language.key]([acting]);
      expect(momentsOf(told), language.name).toEqual(wanted);
    }
  }

  const found = findAll({ project: project as unknown as ProjectDocument, tapes: [] });
  const own = found.find(({ code }) => code === calledByColour.code);
  expect(own?.title).toBe("Coral tag is called by its colour");
  const { title = "", fix } = own ?? {};
  const mended = applyEdit(project as unknown as ProjectDocument, {
    edit: "mend",
    args: { title, change: fix?.change as FixChange },
  });
  expect(mended).toMatchObject({ project: { behaviour: { counters: [...project.behaviour.counters, "turns"] } } });
}, 60_000);
