import { readdirSync, readFileSync } from "node:fs";
import {
  advance,
  type Behaviour,
  type Command,
  type EngineInput,
  type Note,
  namedBehaviour,
  namesOf,
  outputOf,
  type Program,
  parseCondition,
  parseInput,
  parseListedStep,
  parseTrigger,
  startState,
} from "@perceptum/core/behaviour";
import { type Input, type Names, NO_NAMES, parsePhrase } from "@perceptum/core/phrases";
import { emptyProject, ProjectDocument, withIds } from "@perceptum/core/project";
import { isCamera } from "@perceptum/core/readings";
import { type Blob, measured } from "@perceptum/core/vision";
import { programOf, ROBOTS, type Robot, type RobotKind } from "@perceptum/core/world";
import { must } from "../core/behaviour/arbitrary";
import { commandLine, type Moment, momentScript, noteLine, seenLine } from "./drawnBehaviour";

const FOLDER = new URL("../docs/conformance/", import.meta.url);

/** A response in phrases: its trigger and its steps, or with all that it may have. */
type SketchedResponse =
  | readonly [when: string, ...steps: string[]]
  | {
      when: string;
      do: readonly string[];
      onlyIf?: string;
      then?: string;
      again?: number;
      takesOver?: true;
      off?: true;
    };

interface SketchedMode {
  enter?: readonly string[];
  on?: readonly SketchedResponse[];
}

/** A routine's steps, and what they take: a name and the value that it starts from. */
type SketchedRoutine = readonly string[] | { takes: readonly string[]; do: readonly string[] };

/** One case as it is written: what a behaviour hears, and what it tells. See the README of the cases. */
export interface Case extends SketchedMode {
  /** The rule of `docs/behaviour.md` that it is of, and what it shows. */
  rule: string;
  says: string;
  robot?: string;
  /** Hits, of how many, release, rejoin in ms; 1, 1, 1, 0 where none are said. */
  steady?: readonly [number, number, number, number];
  modes?: Readonly<Record<string, SketchedMode>>;
  routines?: Readonly<Record<string, SketchedRoutine>>;
  hears: readonly string[];
  /** Kinds of notes that are told, too. */
  notes?: readonly Note["kind"][];
  tells: readonly string[];
}

/** Every case, in the order of the files. */
export const conformanceCases = (): Case[] =>
  readdirSync(FOLDER)
    .filter((file) => file.endsWith(".jsonl"))
    .sort()
    .flatMap((file) =>
      readFileSync(new URL(file, FOLDER), "utf8")
        .trim()
        .split("\n")
        .map((line) => JSON.parse(line) as Case),
    );

/** Raw values of what a sensor reads, by name: rules of the project tell them apart. */
const RAW: Readonly<Record<string, readonly number[]>> = {
  coral: [255, 0, 0],
  teal: [0, 255, 255],
  violet: [128, 0, 255],
  none: [0, 0, 0],
};
const PAINTS = { coral: "#e4573d", teal: "#12868a", violet: "#7a4bb5" } as const;
const HUES = { coral: [350, 10], teal: [170, 190], violet: [260, 280] } as const;

/** The project of a case. */
export function projectOf({
  robot: kind = "cart",
  steady = [1, 1, 1, 0],
  routines = {},
  ...one
}: Case): ProjectDocument {
  const base = emptyProject("Conformance");
  const inputNames: Names = { ...NO_NAMES, targets: Object.keys(HUES) };
  const [hits, of, release, rejoinMs] = steady;
  const { order: _, ...sensor } = base.sensors[0];
  const scale = { r: [0, 255], g: [0, 255], b: [0, 255] };
  const sensors = ["belly", "side", "cam", "spare"].map((id) => ({
    ...sensor,
    ...{ id, name: id, ruleSet: "floor", scale },
    ...(id === "cam"
      ? {
          reports: "frames",
          frame: { width: 40, height: 30, rows: "top first" },
          order: "rgb",
          clean: { erode: 0, dilate: 0 },
          minArea: 1,
          camera: { viewDeg: 60 },
        }
      : { order: "rgb" }),
  }));
  const fresh = ROBOTS.get(kind as RobotKind["key"]).fresh({
    ...base.robot,
    mounts: ["belly", "side", "cam"].map((id, i) => ({
      ...base.robot.mounts[0],
      sensor: id,
      x: 20 * i,
    })) as unknown as Robot["mounts"],
    lamps: ["tail"],
    buttons: ["go", "halt"],
    servos: [{ id: "arm", from: -90, to: 90, at: 0 }],
  });
  const robot =
    fresh.kind === "sorter"
      ? {
          ...fresh,
          gates: [{ id: "bay-gate", atMm: 200, crate: "bay", travelMs: 50, reachMm: 20 }],
          crates: [...fresh.crates, { id: "bay", name: "bay" }],
        }
      : fresh;
  const modes = one.modes ?? { work: { ...(one.enter && { enter: one.enter }), ...(one.on && { on: one.on }) } };
  const bare = {
    ...base,
    sensors,
    robot,
    targets: Object.entries(PAINTS).map(([id, paint]) => ({
      ...{ id, paint, name: id, kind: "tag", code: id.slice(0, 2) },
    })),
    ruleSets: [
      {
        ...base.ruleSets[0],
        rules: Object.entries(HUES).map(([id, [from, to]]) => ({
          ...{ id: `rule-${id}`, target: id, on: true },
          any: [{ all: [{ feature: "hue", from, to }] }],
        })),
        steady: { hits, of, release, rejoinMs },
      },
    ],
    behaviour: {
      start: Object.keys(modes)[0],
      counters: ["tally", "rounds"],
      lists: ["route"],
      routines: Object.entries(routines).map(([id, sketch]) => ({
        ...{ id, name: id, steps: [] as unknown[] },
        ...("takes" in sketch && { inputs: sketch.takes.map((input) => must(parseInput(input, inputNames))) }),
      })),
      modes: Object.keys(modes).map((id) => ({ id, name: id, entering: [] as unknown[], responses: [] as unknown[] })),
    },
    courses: [],
  };
  const names: Names = namesOf(bare as unknown as ProjectDocument);
  const steps = (all: readonly string[] = [], inputs: readonly Input[] = []) =>
    all.map((phrase) => must(parseListedStep(phrase, names, inputs)));
  const responseOf = (sketch: SketchedResponse, id: string): unknown => {
    const whole = "when" in sketch ? sketch : { when: sketch[0], do: sketch.slice(1) };
    const {
      when,
      do: does,
      onlyIf,
      then,
      again,
      takesOver,
      off,
    } = whole as Exclude<SketchedResponse, readonly string[]>;
    return {
      ...{ id, when: must(parseTrigger(when, names)), steps: steps(does), on: off !== true },
      ...(onlyIf !== undefined && { guard: must(parsePhrase(onlyIf, names, parseCondition)) }),
      ...(then !== undefined && { then }),
      ...(again === undefined ? { fires: "once per visit" } : { fires: "while present", restMs: again }),
      busy: takesOver ? "take over" : "let it finish",
    };
  };
  Object.values(modes).forEach(({ enter, on = [] }, m) => {
    const mode = bare.behaviour.modes[m];
    mode.entering = steps(enter);
    mode.responses = on.map((sketch, i) => responseOf(sketch, `${mode.id}-${i + 1}`));
  });
  bare.behaviour.routines.forEach((routine) => {
    const sketch = routines[routine.id];
    routine.steps = "takes" in sketch ? steps(sketch.do, routine.inputs) : steps(sketch);
  });
  return ProjectDocument.parse(withIds(bare));
}

/** What comes in a moment. */
export interface Heard {
  t: number;
  readings: { eye: number; raw: number[] }[];
  blobs: { eye: number; blobs: Map<ProjectDocument["targets"][number]["id"], Blob> }[];
  travel?: { left: number; right: number };
  presses: { button: string; down: boolean }[];
}

/** What a case hears, moment by moment. */
export function heardOf({ hears }: Case, program: Program): Heard[] {
  const moments: Heard[] = [];
  for (const line of hears) {
    const [at, what, ...rest] = line.split(" ");
    const t = Number(at);
    if (moments.at(-1)?.t !== t) moments.push({ t, readings: [], blobs: [], presses: [] });
    const moment = moments.at(-1) as Heard;
    const numbers = rest.map(Number);
    if (what === "tick") continue;
    if (what === "way") moment.travel = { left: numbers[0], right: numbers[1] };
    else if (what === "press" || what === "release") moment.presses.push({ button: rest[0], down: what === "press" });
    else if (what === "cam") {
      // A frame: each blob's target, left, top, width and height; its area is all of it.
      const eye = program.eyes.findIndex(({ id }) => id === "cam");
      const { sensor } = program.eyes[eye];
      const blobs: Heard["blobs"][number]["blobs"] = new Map();
      for (let i = 0; i + 4 < rest.length; i += 5) {
        const [left, top, width, height] = numbers.slice(i + 1, i + 5);
        if (isCamera(sensor))
          blobs.set(rest[i] as never, measured({ left, top, width, height, area: width * height }, sensor));
      }
      moment.blobs.push({ eye, blobs });
    } else {
      const [sensor, ...read] =
        what in RAW || Number.isFinite(Number(what)) ? ["belly", what, ...rest] : [what, ...rest];
      const eye = program.eyes.findIndex(({ id }) => id === sensor);
      moment.readings.push({ eye, raw: [...(RAW[read[0]] ?? read.map(Number))] });
    }
  }
  return moments;
}

/** The lines by which a robot says the same. */
export function linesOfCase(one: Case, program: Program): string[] {
  return heardOf(one, program).flatMap(({ t, readings, blobs, travel, presses }) => {
    const said: object[] = [
      ...readings.map(({ eye, raw }) => ({ s: program.eyes[eye].id, v: raw })),
      ...blobs.map(({ eye, blobs: all }) => ({
        s: program.eyes[eye].id,
        blobs: Object.fromEntries(
          [...all].map(([id, { x, y, width, height, area }]) => [
            id,
            [x - (width - 1) / 2, y - (height - 1) / 2, width, height, area],
          ]),
        ),
      })),
      ...(travel ? [{ e: [travel.left, travel.right] }] : []),
      ...presses.map(({ button, down }) => ({ button, down })),
    ];
    return (said.length === 0 ? [{ button: "nothing", down: false }] : said).map((line) =>
      JSON.stringify({ ...line, t }),
    );
  });
}

const STEP_MS = 5;

/** What the core tells of a case, the script of it for written code, and what that has to tell. */
export function coreOf(one: Case, project: ProjectDocument): { told: string[]; script: string[]; wanted: Moment[] } {
  const program = programOf(project);
  const state = startState(program);
  const told: string[] = [];
  const script: string[] = [];
  const wanted: Moment[] = [];
  let travel = { left: 0, right: 0 };
  const pressed = new Set<string>();
  let last = -1;
  const live = (t: number, readings: Heard["readings"], blobs: Heard["blobs"]) => {
    const input: EngineInput = {
      readings,
      travel,
      ...(pressed.size > 0 && { pressed: [...pressed] }),
      ...(blobs.length > 0 && { blobs }),
    };
    script.push(...momentScript(program, t, input));
    const { commands, notes } = advance(state, input, Math.max(0, t - Math.max(0, last)));
    last = t;
    wanted.push({ commands: commands.map(commandLine), notes: notes.map(noteLine), seen: seenLine(state) });
    told.push(...commands.map((command) => `${t} ${commandText(command)}`), ...notesTold(one, notes));
  };
  for (const { t, readings, blobs, travel: way, presses } of heardOf(one, program)) {
    while (last >= 0 && last + STEP_MS < t) live(last + STEP_MS, [], []);
    if (way) travel = way;
    for (const { button, down } of presses) {
      script.push(`2 ${project.robot.buttons.indexOf(button)} ${Number(down)}`);
      if (down) pressed.add(button);
      else pressed.delete(button);
    }
    live(t, readings, blobs);
  }
  return { told, script, wanted };
}

/** Several cases' behaviours in one project, each by its first mode. */
export function together(cases: readonly ProjectDocument[]): { project: ProjectDocument; starts: string[] } {
  const behaviours = cases.map(({ behaviour }, i) => {
    const own = (id: string) => `c${i}-${id}`;
    const named = namedBehaviour(
      behaviour,
      () => (kind, id) => (kind === "mode" || kind === "routine" ? own(id) : id) as never,
    );
    return {
      ...named,
      modes: named.modes.map((mode) => ({ ...mode, id: own(mode.id) })),
      routines: named.routines.map((routine) => ({ ...routine, id: own(routine.id) })),
    } as Behaviour;
  });
  const project = {
    ...cases[0],
    behaviour: {
      ...behaviours[0],
      modes: behaviours.flatMap(({ modes }) => modes),
      routines: behaviours.flatMap(({ routines }) => routines),
    },
  };
  return { project, starts: behaviours.map(({ start }) => start) };
}

const ALWAYS: readonly Note["kind"][] = ["log", "finish", "trouble"];

/** The notes that a case tells of, as it writes them. */
export const notesTold = ({ notes: asked = [] }: Case, notes: readonly Note[]): string[] =>
  notes.flatMap((note) => ([...ALWAYS, ...asked].includes(note.kind) ? [`${note.t} ${noteText(note)}`] : []));

/** A command as cases write it. */
export const commandText = (command: Command): string => outputOf(command).print(command);

function noteText(note: Note): string {
  switch (note.kind) {
    case "arrives":
    case "departs":
      return `${note.kind} ${note.sensor} ${note.target}`;
    case "fires":
      return `fires ${note.response}${note.target ? ` ${note.target}` : ""}`;
    case "dropped":
      return `drops ${note.response}`;
    case "mode":
      return `mode ${note.mode}`;
    case "ended":
      return `ended ${note.response ?? "entering"}`;
    case "step":
      return `step ${note.phrase}`;
    case "counter":
      return `counts ${note.counter} ${note.value}`;
    case "list":
      return `lists ${note.list} ${note.targets.join(" ")}`;
    case "log":
      return `log ${note.text}`;
    case "trouble":
      return `trouble ${note.text}`;
    default:
      return note.kind;
  }
}
