import { afterEach, expect, it } from "vitest";
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
  type Trigger,
} from "./behaviour";
import type { Engine } from "./behaviour/engine/Engine";
import { playTone } from "./behaviour/engine/outputs";
import { outputKind } from "./behaviour/outputs/OutputKind";
import type { NameVisitor } from "./behaviour/Visitor";
import { LANGUAGES, writeBehaviour, writeEngine } from "./code";
import { ENGINE } from "./code/engineParts";
import { glasshouseRound } from "./demo";
import { commandOf, lineOf, readToRobotLine } from "./live/protocol";
import { type CourseId, numbered, type ResponseId } from "./names";
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
import { emptyCourse, ROBOTS, type Robot, type RobotKind, run, tryStep } from "./world";
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

const added = [
  OUTPUTS.add(puff as unknown as OutputKind<Command, CommandLine>),
  STEPS.add(blows as unknown as StepKind<{ step: string }>),
  STEPS.add(beeps as unknown as StepKind<{ step: string }>),
  CONDITIONS.add(even as unknown as ConditionKind),
  ROBOTS.add(drifter as unknown as RobotKind<Robot>),
];
const known = { ...ENGINE };
afterEach(() => {
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
  expect(tryStep(project as unknown as Project, must(parseStep("blows 50", names)) as Step).outputs).toEqual([
    "a puff of 50 ms",
  ]);

  // What the entries say is read from their source, as that of all other kinds is.
  Object.assign(ENGINE, loweredEngine(["core/seams.test.ts"]));
  const { script, wanted } = scriptOf(project as never, { course: "lane", light: "overcast", seed: 3 } as never);
  for (const language of LANGUAGES) {
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
