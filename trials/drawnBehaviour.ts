import {
  advance,
  type Command,
  type EngineInput,
  type EngineState,
  type Note,
  namesOf,
  outputOf,
  type Program,
  parseCondition,
  parseListedStep,
  parseStep,
  parseTrigger,
  STEPS,
  type Step,
  startState,
} from "@perceptum/core/behaviour";
import { notedAs } from "@perceptum/core/code";
import { type Input, type Names, parsePhrase } from "@perceptum/core/phrases";
import { emptyProject, ProjectDocument, withIds } from "@perceptum/core/project";
import { FEATURES, isCamera, REPORT_KINDS, type Report, type Sensor, WIRE_ORDERS } from "@perceptum/core/readings";
import type { Blob } from "@perceptum/core/vision";
import { chance, programOf, ROBOTS, type Robot, type RunChoice, run } from "@perceptum/core/world";
import { must } from "../core/behaviour/arbitrary";
import { Happens, PART } from "./runBehaviour";

/** Inputs of a drawn routine, and steps that take them. */
const INPUTS: readonly Input[] = [
  { name: "span", kind: "time", value: "0.2 s" },
  { name: "pace", kind: "speed", value: "30 %" },
  { name: "mark", kind: "target", value: "coral" },
  { name: "greeting", kind: "text", value: '"at the bay"' },
];
const TAKING = [
  "wait span",
  "drive pace for span",
  "wheels pace 10 %",
  "lamp brow mark",
  "say greeting",
  "tone C4 for span",
  "wait until mark or tally >= 2, at most span",
];
/** A step that gives such a routine some values. */
function given(draw: Draw): string {
  const values = [
    ["span", `${draw.whole(1, 60) * 5} ms`],
    ["pace", `${draw.whole(-10, 10) * 10} %`],
    ["mark", draw.of(["teal", "amber", "slate"])],
    ["greeting", draw.of(['"a"', '"two words"'])],
  ].filter(() => draw.chance(0.6));
  const times = draw.chance(0.3) ? ` ${draw.whole(2, 3)} times` : "";
  if (values.length === 0) return `do wave${times}`;
  return `do wave${times} with ${values.map((pair) => pair.join(" ")).join(", ")}`;
}

/** Numbers from a seed, each the next. */
export class Draw {
  private readonly next: () => number;

  constructor(seed: number) {
    const { uniform } = chance(seed, "code");
    this.next = uniform;
  }

  chance(share: number): boolean {
    return this.next() < share;
  }
  /** A whole number from `low` to `high`. */
  whole(low: number, high: number): number {
    return low + Math.floor(this.next() * (high - low + 1));
  }
  of<T>(all: readonly T[]): T {
    return all[Math.floor(this.next() * all.length)];
  }
  many<T>(low: number, high: number, one: (i: number) => T): T[] {
    return Array.from({ length: this.whole(low, high) }, (_, i) => one(i));
  }
}

const TARGETS = ["coral", "teal", "amber", "slate"] as const;
const HOSTILE = ["Coral", 'a "b" \\ c', "*/ x", "# y", "ünder line", "'''", '"""', "??/", "{}$`", "😀"];
const KINDS: readonly Report[] = ["rgb", "rgbc", "hsv", "hue", "reflected", "code"];
/** Raw values go from 0 to this: bounds are hit exactly again and again. */
const STEPS_OF_RAW = 6;

function drawnTest(draw: Draw) {
  const feature = draw.of(FEATURES);
  const max = { hue: 360, light: 100, chroma: 120, code: 6 }[feature as string] ?? 1;
  const bound = () => (draw.whole(0, 6) / 6) * max;
  const [a, b] = [bound(), bound()];
  const [from, to] = feature === "hue" || a <= b ? [a, b] : [b, a];
  return {
    feature,
    ...(draw.chance(0.8) && { from }),
    ...(draw.chance(0.7) && { to }),
    ...(draw.chance(0.15) && { not: true }),
  };
}

function drawnRuleSet(draw: Draw, id: string) {
  const reference = () => ({
    target: draw.of(TARGETS),
    ...draw.of([
      { hue: draw.whole(0, 359), sat: draw.whole(0, 6) / 6, val: draw.whole(0, 6) / 6 },
      { hue: draw.whole(0, 359) },
      { reflected: draw.whole(0, 6) / 6 },
    ]),
  });
  return {
    id,
    name: draw.of(HOSTILE),
    method: draw.of(["bands", "bands", "nearest"]),
    nearest: { references: draw.many(2, 6, reference), reject: draw.whole(2, 12) / 6 },
    rules: draw.many(1, 5, (i) => ({
      id: `rule-${i}`,
      target: draw.of(TARGETS),
      on: draw.chance(0.9),
      any: draw.many(1, 2, () => ({ all: draw.many(1, 2, () => drawnTest(draw)) })),
    })),
    steady: drawnSteady(draw),
  };
}

function drawnSteady(draw: Draw) {
  const hits = draw.whole(1, 3);
  return { hits, of: hits + draw.whole(0, 2), release: draw.whole(1, 4), rejoinMs: draw.of([0, 40, 200]) };
}

function drawnSensor(draw: Draw, id: string, ruleSet: string, camera: boolean) {
  const base = emptyProject("x").sensors[0];
  const reports = camera ? "frames" : draw.of(KINDS);
  const { channels, ordered, coded } = REPORT_KINDS.get(reports);
  const { order: _, ...rest } = base;
  const scale = camera
    ? { r: [0, 255], g: [0, 255], b: [0, 255] }
    : coded
      ? {}
      : Object.fromEntries(channels.map((c) => [c, [0, STEPS_OF_RAW]]));
  return {
    ...rest,
    id,
    name: draw.of(HOSTILE),
    ruleSet,
    reports,
    scale,
    ...(ordered && { order: draw.of(WIRE_ORDERS).id }),
    ...(reports === "code" && { codes: { 1: "coral", 3: "teal" } }),
    ...(camera && {
      frame: { width: 40, height: 30, rows: "top first" },
      clean: { erode: 0, dilate: 0 },
      minArea: 1,
      camera: { viewDeg: 60 },
    }),
  };
}

/** A phrase with its places filled in. */
function filled(draw: Draw, template: string, names: Names, depth = 0): string {
  const name = (all: readonly unknown[]) =>
    String(draw.of(all.map((n) => (typeof n === "string" ? n : (n as { id: string }).id))));
  return template.replace(/\{(\w+)(?: ([^}]*))?\}/g, (_, kind: string, given: string | undefined) => {
    switch (kind) {
      case "condition":
        return condition(draw, names, depth + 1);
      case "step":
        return draw.of([
          "tone C4 for 0.1 s",
          "drive 20 %",
          "lamp coral for 0.08 s",
          "servo arm to 40 at 200",
          "log seen",
          "follow coral left edge at 20 %",
          "follow teal right edge at 30 % for 0.1 s",
          "wheels 10 % -20 % for 1 cm",
          "count tally + 2",
          "turn left 20 at 30 %",
          "stop",
          "jot to route",
          "lamps off",
          "tune C4 1/16, rest 1/32, E4 1/16 at 300 a minute",
        ]);
      case "speed":
      case "left":
      case "right":
        return `${(given ?? "").startsWith("-") || draw.chance(0.2) ? "-" : ""}${draw.whole(2, 90)}`;
      case "way":
      case "turns":
        return String(draw.whole(1, 20) / 10);
      case "time":
        return String(draw.whole(1, 30) / 100);
      case "degrees":
        return String(draw.whole(1, 60));
      case "angle":
        return String(draw.whole(-80, 80));
      case "share":
        return String(draw.whole(0, 100));
      case "rate":
        return String(Number(given) > 20 ? draw.whole(100, 400) : draw.whole(1, 19));
      case "n":
        return String(draw.whole(1, 4));
      case "note":
        return draw.of(["C4", "F#5", "60"]);
      case "notes":
        return "C4 1/16, rest 1/32, E4 1/16";
      case "text":
        return draw.of(["at the bay", "x = 1", "größe 😀", "a\\b // */ #", "??/ %s %d"]);
      case "side":
      case "feature":
      case "picture":
        return draw.of((given ?? "").split("|"));
      default:
        return name((names as unknown as Record<string, readonly unknown[]>)[kind] ?? []);
    }
  });
}

const fills = (template: string, names: Names) =>
  [...template.matchAll(/\{(\w+)/g)].every(
    ([, kind]) => (names as unknown as Record<string, readonly unknown[]>)[kind]?.length !== 0,
  );

function condition(draw: Draw, names: Names, depth: number): string {
  const all = [
    "{targets}",
    "{targets}",
    "unknown",
    "{sensors}: {targets}",
    "{sensors}: unknown",
    "hue 20..200",
    "hue 300..60",
    "r >= 50 %",
    "val > 20 %",
    "{sensors}: sat <= 50 %",
    "{sensors}: reflected >= 50 %",
    "light 10..80",
    "{counters} >= 2",
    "{counters} = 1",
    "{counters} 1..3",
    "{lists} holds 2",
    "button {buttons}",
    "still",
    ...(names.cameras?.length
      ? ["{targets} area >= 20 px", "{targets} error -5..5 px", "{targets} left of {targets}", "{targets} x > 15 px"]
      : []),
  ].filter((one) => fills(one, names));
  const one = () => filled(draw, draw.of(all), names);
  if (depth > 2 || draw.chance(0.6)) return draw.chance(0.15) ? `not ${one()}` : one();
  const more = () => `(${condition(draw, names, depth + 1)})`;
  return draw.chance(0.25) ? `not ${more()}` : `${more()} ${draw.of(["and", "or"])} ${more()}`;
}

function trigger(draw: Draw, names: Names): string {
  const by = draw.chance(0.3) ? "{sensors}: " : "";
  return filled(
    draw,
    draw.of([
      `${by}{targets} arrives`,
      `${by}{targets} arrives`,
      `${by}{targets} or {targets} arrives`,
      `${by}{targets} departs`,
      `${by}{targets} is present`,
      `${by}{targets} or {targets} is present`,
      `${by}nothing known for {time 1} s`,
      "after {time 1} s",
      "becomes {condition}",
      "holds {condition}",
    ]),
    names,
  );
}

const ROBOT_KINDS = ["cart", "cart", "cart", "sorter", "sorter", "carrier", "hand"] as const;

/** A project of whatever kind. */
export function drawnProject(draw: Draw): ProjectDocument {
  const base = emptyProject(draw.of(HOSTILE));
  const hasCamera = draw.chance(0.3);
  // Ids that are also words of the engine.
  const mounted = ["eye-a", "label", "sights"].slice(0, draw.whole(1, 3));
  const sensors = [...mounted, "spare"].map((id, i) =>
    drawnSensor(draw, id, `set-${i}`, hasCamera && i === mounted.length - 1),
  );
  const ruleSets = sensors.map((_, i) => drawnRuleSet(draw, `set-${i}`));
  const kind = draw.of(ROBOT_KINDS);
  const fresh = ROBOTS.get(kind).fresh({
    ...base.robot,
    mounts: mounted.map((sensor, i) => ({
      ...base.robot.mounts[0],
      sensor,
      x: 20 + 10 * i,
      y: 5 * i,
    })) as Robot["mounts"],
    lamps: ["brow", "tail"],
    buttons: ["go", "down"],
    servos: [{ id: "arm", from: -60, to: 50, at: 10 }],
  });
  const robot =
    fresh.kind === "sorter"
      ? {
          ...fresh,
          gates: [
            { id: "gate-a", atMm: 120, crate: "crate-a", travelMs: 60, reachMm: 30 },
            { id: "gate-b", atMm: 200, crate: "crate-b", travelMs: 30, reachMm: 20 },
            { id: "gate-c", atMm: 90, crate: "crate-b", travelMs: 10, reachMm: 12 },
          ],
          crates: [
            ...fresh.crates,
            { id: "crate-a", name: "A" },
            { id: "crate-b", name: "B" },
            { id: "crate-c", name: "C" },
          ],
        }
      : fresh;
  const modeIds = ["ids", "bay", "home"].slice(0, draw.whole(1, 3));
  const bare = {
    ...base,
    sensors,
    ruleSets,
    robot,
    targets: TARGETS.map((id, i) => ({
      id,
      code: id.slice(0, 2),
      name: HOSTILE[(i * 3) % HOSTILE.length] + i,
      kind: "tag",
      paint: `#12345${i}`,
    })),
    behaviour: {
      start: draw.of(modeIds),
      counters: ["tally", "rounds"],
      lists: ["route"],
      routines: ["bow", "wave"].map((id) => ({
        id,
        name: draw.of(HOSTILE),
        steps: [] as Step[],
        inputs: undefined as readonly Input[] | undefined,
      })),
      modes: modeIds.map((id) => ({ id, name: draw.of(HOSTILE), entering: [] as Step[], responses: [] as unknown[] })),
    },
    courses: [],
  };
  let names: Names = namesOf(bare as unknown as ProjectDocument);
  // Every kind is drawn as often as any other, however many forms it has.
  const templates = STEPS.entries.map(({ templates, cameraTemplates = [] }) => [
    ...templates,
    ...(hasCamera ? cameraTemplates : []),
  ]);
  const step = (routines: readonly string[]): Step => {
    const known = { ...names, routines } as Names;
    const possible = templates
      .map((forms) => forms.filter((form) => fills(form, known)))
      .filter((forms) => forms.length > 0)
      // Few robots have gates: those that do use them.
      .flatMap((forms) => (/\{(gates|crates)\}/.test(forms[0]) ? [forms, forms, forms] : [forms]));
    for (;;) {
      const giving = known.takes !== undefined && routines.includes("wave") && draw.chance(0.1);
      const phrase = giving ? given(draw) : filled(draw, draw.of(draw.of(possible)), known);
      if (/^finish/.test(phrase) && draw.chance(0.2)) continue;
      const read = parseStep(phrase, known);
      // Not every kind of step takes every number.
      if ("value" in read) return read.value;
    }
  };
  const all = names.routines as readonly string[];
  bare.behaviour.routines[0].steps = draw.many(0, 3, () => step(all.slice(1)));
  bare.behaviour.routines[1].steps = draw.many(0, 3, () => step([]));
  // The second one takes values; the first one gives it some, and so does what does either.
  const [bow, wave] = bare.behaviour.routines;
  if (draw.chance(0.5)) {
    wave.inputs = INPUTS;
    const own = { ...names, routines: [], takes: {} };
    wave.steps = draw.many(1, 3, () => must(parseListedStep(draw.of(TAKING), own, INPUTS)));
    names = { ...names, takes: { wave: INPUTS } };
    bow.steps = [...bow.steps, must(parseStep(given(draw), names))];
  }
  for (const mode of bare.behaviour.modes) {
    mode.entering = draw.many(0, 3, () => step(all));
    mode.responses = draw.many(0, 5, (i) => ({
      id: `${mode.id}-${i}`,
      when: must(parseTrigger(trigger(draw, names), names)),
      ...(draw.chance(0.25) && { guard: must(parsePhrase(condition(draw, names, 1), names, parseCondition)) }),
      steps: draw.many(0, 4, () => step(all)),
      ...(draw.chance(0.3) && { then: draw.of([...modeIds, "finish"]) }),
      fires: draw.of(["once per visit", "while present"]),
      ...(draw.chance(0.3) && { restMs: draw.whole(1, 10) * 10 }),
      busy: draw.of(["let it finish", "take over"]),
      on: draw.chance(0.95),
    }));
  }
  return ProjectDocument.parse(withIds(bare));
}

const hexOf = (x: number) => {
  if (Number.isNaN(x)) return "nan";
  const view = new DataView(new ArrayBuffer(8));
  view.setFloat64(0, x + 0);
  return view.getBigUint64(0).toString(16).padStart(16, "0");
};
const line = (fn: string, ...parts: (string | number | boolean)[]) =>
  [fn, ...parts.map((p) => (typeof p === "number" ? hexOf(p) : typeof p === "boolean" ? String(Number(p)) : p))].join(
    PART,
  );

/** A command as the tests of written code tell it. */
export const commandLine = (command: Command): string =>
  line(
    `robot_${command.kind}`,
    ...Object.values(outputOf(command).line(command))
      .flat(2)
      .map((value) => value ?? ""),
  );

/** A note in the same way. */
export const noteLine = (note: Note): string => line("robot_note", ...notedAs(note));

/** What a written behaviour told, moment by moment: commands, notes, what is seen; troubles as one text. */
export function momentsOf(told: readonly string[]): Moment[] {
  const moments: Moment[] = [];
  let commands: string[] = [];
  let notes: string[] = [];
  for (const one of told) {
    const [fn, kind, what, more, also, number] = one.split(PART);
    if (one.startsWith("= ")) {
      moments.push({ commands, notes, seen: one });
      [commands, notes] = [[], []];
    } else if (fn !== "robot_note") commands.push(one);
    else notes.push(kind === "trouble" ? [fn, kind, what + more + also, "", "", number].join(PART) : one);
  }
  return moments;
}

/** What was told in a moment, and what is seen after it. */
export interface Moment {
  commands: string[];
  notes: string[];
  seen: string;
}

/** The cameras of a program, by their places among its sensors. */
export const camerasOf = (program: Program) => program.eyes.flatMap(({ sensor }, i) => (isCamera(sensor) ? [i] : []));

/** Label and seen of each sensor; a camera has neither, but what it sees of each target. */
export const seenLine = (state: EngineState) => {
  const cameras = camerasOf(state.program);
  const eyes = state.program.eyes.map((_, i) => i);
  return `= ${eyes.map((i) => state.labelOf(i)).join(" ")} / ${eyes.map((i) => (cameras.includes(i) ? 0 : state.seenBy(i))).join(" ")}`;
};

/** The largest blob of a target in a camera's frame. */
function blobLine(program: Program, eye: number, target: number, blob: Blob | undefined): string {
  const place = program.eyes.length + camerasOf(program).indexOf(eye) * program.targets.length + target;
  const { area = 0, width = 0, height = 0, x = 0, y = 0, error = 0, halfFrame = 0 } = blob ?? {};
  return [Happens.blob, place, area, width, height, x, y, error, halfFrame].join(" ");
}

/** A project's behaviour, what happens to it for written code, and what the core tells of it. */
export interface DrawnCase {
  project: ProjectDocument;
  script: string[];
  wanted: Moment[];
}

/** The number of moments for which a drawn project is followed. */
const MOMENTS = 110;

/** A drawn project, and what happens to it. */
export function drawnCase(seed: number): DrawnCase {
  const draw = new Draw(seed);
  const project = drawnProject(draw);
  const program = programOf(project);
  const script: string[] = [];
  const wanted: Moment[] = [];
  const pressed = new Set<string>();
  const travel = { left: 0, right: 0 };
  const speed = { left: 0, right: 0 };
  let raw = program.eyes.map(() => [0, 0, 0, 0]);
  const state = startState(program);
  let t = 0;
  for (let moment = 0; moment < MOMENTS; moment++) {
    const dt = moment === 0 ? draw.of([0, 12]) : draw.of([5, 5, 10, 20, 20, 40, 120]);
    t += dt;
    travel.left += speed.left * program.topSpeed * (dt / 1000);
    travel.right += speed.right * program.topSpeed * (dt / 1000);
    script.push(`${Happens.begins} ${t} ${travel.left} ${travel.right}`);
    if (draw.chance(0.04)) {
      const button = draw.of(project.robot.buttons);
      const down = !pressed.has(button);
      if (down) pressed.add(button);
      else pressed.delete(button);
      script.splice(-1, 0, `${Happens.presses} ${project.robot.buttons.indexOf(button)} ${Number(down)}`);
    }
    const readings: { eye: number; raw: number[] }[] = [];
    const blobs: { eye: number; blobs: Map<never, Blob> }[] = [];
    raw = raw.map((old) => (draw.chance(0.25) ? old.map(() => draw.whole(0, STEPS_OF_RAW)) : old));
    program.eyes.forEach(({ sensor }, eye) => {
      if (!draw.chance(0.7)) return;
      if (isCamera(sensor)) {
        const seen = new Map<never, Blob>();
        program.targets.forEach((target, i) => {
          const has = draw.chance(raw[eye][i % 4] > 3 ? 0.9 : 0.1);
          const x = draw.whole(0, 39);
          const blob = {
            area: draw.whole(1, 60),
            width: draw.whole(1, 9),
            height: draw.whole(1, 9),
            x,
            y: draw.whole(0, 29),
            error: x - 19.5,
            halfFrame: 20,
          };
          if (has) seen.set(target as never, blob);
          script.push(blobLine(program, eye, i, has ? blob : undefined));
        });
        blobs.push({ eye, blobs: seen });
      } else {
        const values = raw[eye].slice(0, REPORT_KINDS.get(sensor.reports).channels.length);
        readings.push({ eye, raw: values });
        script.push(`${Happens.reads} ${eye} ${values.join(" ")}`);
      }
    });
    // The core takes blobs in after readings.
    for (const { eye } of blobs) script.push(`${Happens.looks} ${eye}`);
    script.push(String(Happens.ends));
    const input: EngineInput = {
      readings,
      travel: { ...travel },
      ...(pressed.size > 0 && { pressed: [...pressed] }),
      ...(blobs.length > 0 && { blobs }),
    };
    const { commands, notes } = advance(state, input, dt);
    for (const command of commands) {
      if (command.kind === "wheels") Object.assign(speed, { left: command.left, right: command.right });
      else if (command.kind === "stop") Object.assign(speed, { left: 0, right: 0 });
    }
    wanted.push({
      commands: commands.map(commandLine),
      notes: notes.map(noteLine),
      seen: seenLine(state),
    });
    if (state.finished && draw.chance(0.3)) break;
  }
  return { project, script, wanted };
}

export const codedSensors = (project: ProjectDocument): { id: string; channels: number }[] =>
  programOf(project).eyes.map(({ id, sensor }: { id: string; sensor: Sensor }) => ({
    id,
    channels: isCamera(sensor) ? 0 : REPORT_KINDS.get(sensor.reports).channels.length,
  }));

/** A moment as what happens to written code; buttons are pressed before it. */
export const momentScript = (
  program: Program,
  t: number,
  { readings, travel, blobs = [] }: Pick<EngineInput, "readings" | "travel" | "blobs">,
): string[] => [
  `${Happens.begins} ${t} ${travel.left} ${travel.right}`,
  ...readings.map(({ eye, raw }) => `${Happens.reads} ${eye} ${[...raw].join(" ")}`),
  ...blobs.flatMap((frame) => [
    ...program.targets.map((target, i) => blobLine(program, frame.eye, i, frame.blobs.get(target))),
    `${Happens.looks} ${frame.eye}`,
  ]),
  String(Happens.ends),
];

/** A run as what happens to written code, and what the core told and saw in each of its moments. */
export function scriptOf(project: ProjectDocument, choice: RunChoice): { script: string[]; wanted: Moment[] } {
  const script: string[] = [];
  const wanted: Moment[] = [];
  let held: readonly string[] = [];
  const times = new Map<number, number>();
  const trace = run(project, choice, (program, state, notes, pressed, { readings, travel, blobs = [] }) => {
    const { buttons } = project.robot;
    for (const button of buttons)
      if (pressed.includes(button) !== held.includes(button))
        script.push(`${Happens.presses} ${buttons.indexOf(button)} ${Number(pressed.includes(button))}`);
    held = [...pressed];
    script.push(...momentScript(program, state.t, { readings, travel, blobs }));
    // A piece leaves the belt: the world tells that, no engine.
    const own = notes.filter((note) => note.kind !== "piece");
    wanted.push({ commands: [], notes: own.map(noteLine), seen: seenLine(state) });
    times.set(state.t, wanted.length - 1);
  });
  for (const { t, command } of trace.outputs) wanted[times.get(t) as number].commands.push(commandLine(command));
  return { script, wanted };
}
