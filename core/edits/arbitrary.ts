import {
  type Behaviour,
  inputsAt,
  type ListedStep,
  namesOf,
  parseListedStep,
  parseTrigger,
  type Response,
  type StepsAt,
  stepsAt,
} from "../behaviour";
import { nextId } from "../names";
import type { ProjectDocument } from "../project";
import { FEATURES, isCamera, resized } from "../readings";
import { type Course, parseCheck, ROBOTS, THINGS } from "../world";
import { type ArgsOf, EDITS, type Edit, type EditName } from "./index";

/** Draws by chance, the same for the same seed. */
export class Draw {
  constructor(private seed: number) {}

  /** From 0 up to, but not including, 1. */
  share(): number {
    this.seed = (Math.imul(this.seed, 1_664_525) + 1_013_904_223) >>> 0;
    return this.seed / 2 ** 32;
  }

  /** One of some; undefined where there is none. */
  of<T>(things: readonly T[]): T {
    return things[Math.floor(this.share() * things.length)];
  }

  whole(from: number, to: number): number {
    return from + Math.floor(this.share() * (to - from + 1));
  }

  some<T>(things: readonly T[]): T[] {
    return things.filter(() => this.share() < 0.5);
  }
}

/** Makes an edit of each kind. */
const edits = Object.fromEntries(
  Object.keys(EDITS).map((edit) => [edit, (args: unknown) => ({ edit, args })]),
) as unknown as { [K in EditName]: (args: ArgsOf<K>) => Edit };

const word = (draw: Draw) =>
  draw.of(["north", "south", "third", "spare", "late", "other", "coral", "in the bay", "", "x".repeat(90)]);
const id = (draw: Draw): never => `${draw.of(["new", "spare", "coral", "floor"])}-${draw.whole(1, 4)}` as never;
const ids = (things: readonly { id: string }[]): never[] => things.map((thing) => thing.id as never);
/** An id of a list, seldom one that is not there, or none. */
const placeIn = (draw: Draw, things: readonly { id: string }[]): never =>
  (draw.share() < 0.3 ? null : draw.of(ids(things))) as never;
function ruleOf(project: ProjectDocument, draw: Draw) {
  const set = draw.of(project.ruleSets);
  const rule = draw.of(set.rules);
  const clause = rule && draw.of(rule.any);
  return { set, rule, clause, of: { ruleSet: set.id, rule: rule?.id, clause: clause?.id } };
}

function responseOf({ behaviour }: ProjectDocument, draw: Draw) {
  const mode = draw.of(behaviour.modes);
  const response = draw.of(mode.responses);
  return { mode, response, of: { mode: mode.id, response: response?.id } };
}

function stepsOf(project: ProjectDocument, draw: Draw) {
  const { mode, response } = responseOf(project, draw);
  const routine = draw.of(project.behaviour.routines);
  const at = draw.of([
    { mode: mode.id, entering: true as const },
    ...(response ? [{ mode: mode.id, response: response.id }] : []),
    ...(routine ? [{ routine: routine.id }] : []),
  ]);
  return { at, steps: stepsAt(project.behaviour, at) };
}

const INPUTS = [
  { kind: "time", value: "2 s" },
  { kind: "time", value: "300 ms" },
  { kind: "speed", value: "40 %" },
  { kind: "text", value: '"here"' },
] as const;
function inputOf({ routines }: Behaviour, draw: Draw) {
  const one = draw.of(routines.filter(({ inputs }) => inputs !== undefined));
  return { routine: one?.id ?? "", input: one && draw.of(one.inputs ?? []) };
}

const STEPS = ["stop", "wait 1 s", "drive 30 % for 20 cm", "lamps off", "finish", "log seen", 'say "here"'];
const TAKING = {
  time: "wait",
  speed: "drive",
  text: "say",
  length: "drive 30 % for",
  number: "do",
  target: "lamp main",
};
function step(project: ProjectDocument, draw: Draw, of: never, at: StepsAt): ListedStep {
  const { routines } = project.behaviour;
  const routine = draw.of(routines);
  const [input] = routine?.inputs ?? [];
  const given = input === undefined ? [] : [`do ${routine.id} with ${input.name} ${input.value}`];
  const inputs = inputsAt(project.behaviour, at);
  const taking = inputs.map(({ name, kind }) => `${TAKING[kind]} ${name}`);
  const phrases = routine === undefined ? STEPS : [...STEPS, `do ${routine.id}`, ...given, ...taking];
  const read = parseListedStep(draw.of(phrases), namesOf(project), inputs);
  if ("problem" in read) throw new Error(read.problem.message);
  return { ...read.value, id: of };
}

function response(project: ProjectDocument, draw: Draw): Response {
  const read = parseTrigger(`${draw.of(project.targets).id} arrives`, namesOf(project));
  if ("problem" in read) throw new Error(read.problem.message);
  const own = step(project, draw, "step-1" as never, { mode: project.behaviour.start, entering: true });
  return { id: id(draw), when: read.value, steps: [own], fires: "once per visit", busy: "let it finish", on: true };
}

const CHECKS = ["finishes within 30 s", "never slips", 'visits "Shed" 2 times', 'ends in "Shed"'];
function check(project: ProjectDocument, draw: Draw) {
  const read = parseCheck(draw.of(CHECKS), namesOf(project));
  if ("problem" in read) throw new Error(read.problem.message);
  return read.value;
}

type Part = keyof typeof THINGS | "plates";
function thingOf(project: ProjectDocument, draw: Draw) {
  const course = draw.of(project.courses);
  const parts = [...Object.keys(THINGS), ...("plates" in course ? ["plates"] : [])] as Part[];
  const part = draw.of(parts);
  const things = (course as unknown as Record<Part, { id: string; name?: string }[]>)[part];
  return { course, part, things, thing: draw.of(things) };
}
const kindOf = (part: Part) => (part === "plates" ? "plate" : THINGS[part]);

/** A thing like one that is there, somewhere else, perhaps beyond what may be. */
function altered(thing: object, draw: Draw): object {
  const far = draw.of([1, 10, 1e7]);
  const change = (value: unknown): unknown => {
    if (typeof value === "number") return value + far * draw.whole(-5, 5);
    if (Array.isArray(value)) return value.map(change);
    return value;
  };
  return Object.fromEntries(
    Object.entries(thing).map(([key, value]) => [
      key,
      key === "name" ? word(draw) || value : key === "id" || key === "target" ? value : change(value),
    ]),
  );
}

const railOf = (course: Course) => ("rail" in course ? course.rail : undefined);

/** For each kind of edit some arguments of it, drawn from what a project has; undefined where it has nothing for it. */
export const DRAWN: Readonly<Record<EditName, (project: ProjectDocument, draw: Draw) => Edit | undefined>> = {
  renameProject: (_, draw) => edits.renameProject({ name: word(draw) }),

  addTarget: ({ targets }, draw) =>
    edits.addTarget({ target: { ...draw.of(targets), id: id(draw), name: word(draw) } }),
  changeTarget: ({ targets }, draw) =>
    edits.changeTarget({
      target: draw.of(targets).id,
      change: { name: word(draw), paint: draw.of(["#112233", "red"]) },
    }),
  deleteTarget: ({ targets }, draw) => edits.deleteTarget({ target: draw.of(targets).id }),

  addLight: ({ lights }, draw) => edits.addLight({ light: { ...draw.of(lights), id: id(draw), name: word(draw) } }),
  changeLight: ({ lights }, draw) =>
    edits.changeLight({ light: draw.of(lights).id, change: { level: draw.whole(-2, 8) } }),
  deleteLight: ({ lights }, draw) => edits.deleteLight({ light: draw.of(lights).id }),

  addSensor: ({ sensors }, draw) => {
    const own = draw.share() < 0.5;
    const sensor = { ...draw.of(sensors), id: id(draw) };
    return edits.addSensor({
      sensor: own ? { ...sensor, ruleSet: id(draw) } : sensor,
      ...(own && { ownRules: "Own" }),
    });
  },
  replaceSensor: ({ sensors }, draw) => {
    const sensor = draw.of(sensors);
    const size = { width: draw.whole(4, 400), height: draw.whole(8, 300) };
    return edits.replaceSensor({
      sensor: isCamera(sensor) ? resized(sensor, size) : { ...sensor, periodMs: draw.whole(0, 50) },
    });
  },
  setWhiteDark: ({ sensors }, draw) =>
    edits.setWhiteDark({
      sensor: draw.of(sensors).id,
      reference: draw.of([null, { dark: [1, 1, 1], white: [9, 9, 9] }, { dark: [1, 1, 5], white: [9, 9, 3] }]),
    }),
  setStrip: ({ sensors }, draw) =>
    edits.setStrip({
      sensor: draw.of(sensors).id,
      strip: draw.of([null, { top: 1, bottom: 30, left: 0, right: 20 }, { top: 9, bottom: 3, left: 0, right: 20 }]),
    }),
  deleteSensor: ({ sensors }, draw) => edits.deleteSensor({ sensor: draw.of(sensors).id }),

  setMethod: ({ ruleSets }, draw) =>
    edits.setMethod({ ruleSet: draw.of(ruleSets).id, method: draw.of(["bands", "nearest"]) }),
  addRule: (project, draw) => {
    const { set, rule } = ruleOf(project, draw);
    return (
      rule && edits.addRule({ ruleSet: set.id, rule: { ...rule, id: id(draw) }, before: placeIn(draw, set.rules) })
    );
  },
  takeRules: ({ ruleSets }, draw) => {
    const set = draw.of(ruleSets);
    return edits.takeRules({ ruleSet: set.id, rules: draw.some(set.rules) });
  },
  setTests: (project, draw) => {
    const { set, of } = ruleOf(project, draw);
    const any = draw.of(set.rules)?.any;
    return of.rule && any && edits.setTests({ ruleSet: set.id, rule: of.rule, any });
  },
  switchRules: ({ ruleSets }, draw) => {
    const set = draw.of(ruleSets);
    return edits.switchRules({ ruleSet: set.id, on: draw.some(ids(set.rules)) });
  },
  switchRule: (project, draw) => {
    const { set, rule } = ruleOf(project, draw);
    return rule && edits.switchRule({ ruleSet: set.id, rule: rule.id, on: !rule.on });
  },
  moveRule: (project, draw) => {
    const { set, rule } = ruleOf(project, draw);
    return rule && edits.moveRule({ ruleSet: set.id, rule: rule.id, before: placeIn(draw, set.rules) });
  },
  deleteRule: (project, draw) => {
    const { set, rule } = ruleOf(project, draw);
    return rule && edits.deleteRule({ ruleSet: set.id, rule: rule.id });
  },
  addClause: (project, draw) => {
    const { set, rule, clause } = ruleOf(project, draw);
    const made = clause && { ...clause, id: draw.share() < 0.2 ? clause.id : nextId("clause", rule.any) };
    return made && edits.addClause({ ruleSet: set.id, rule: rule.id, clause: made });
  },
  deleteClause: (project, draw) => {
    const { clause, of } = ruleOf(project, draw);
    return clause && edits.deleteClause(of);
  },
  moveBound: (project, draw) => {
    const { clause, of } = ruleOf(project, draw);
    if (clause === undefined) return undefined;
    const feature = draw.of([...clause.all.map((test) => test.feature), draw.of(FEATURES)]);
    const value = draw.of([null, draw.share(), 360 * draw.share()]);
    return edits.moveBound({ ...of, feature, end: draw.of(["from", "to"]), value, goes: draw.share() < 0.5 });
  },
  moveBox: (project, draw) => {
    const { clause, of } = ruleOf(project, draw);
    const band = clause && draw.of(clause.all);
    return band && edits.moveBox({ ...of, bands: [altered(band, draw) as typeof band] });
  },
  deleteTest: (project, draw) => {
    const { clause, of } = ruleOf(project, draw);
    const test = clause && draw.of(clause.all);
    return test && edits.deleteTest({ ...of, feature: test.feature, not: test.not });
  },
  setSteady: ({ ruleSets }, draw) =>
    edits.setSteady({ ruleSet: draw.of(ruleSets).id, change: { hits: draw.whole(0, 6), of: draw.whole(1, 60) } }),
  addReference: ({ ruleSets, targets, lights }, draw) => {
    const set = draw.of(ruleSets);
    const own = nextId("reference", set.nearest.references);
    const colour = { hue: 360 * draw.share(), sat: draw.share(), val: draw.share() };
    return edits.addReference({
      ruleSet: set.id,
      reference: { id: own, target: draw.of(targets).id, light: draw.of(lights).id, ...colour },
    });
  },
  changeReference: ({ ruleSets }, draw) => {
    const set = draw.of(ruleSets);
    const one = draw.of(set.nearest.references);
    const change = draw.of([{ hue: null }, { hue: 400 * draw.share() }, { light: null }]);
    return one && edits.changeReference({ ruleSet: set.id, reference: one.id, change });
  },
  deleteReference: ({ ruleSets }, draw) => {
    const set = draw.of(ruleSets);
    const one = draw.of(set.nearest.references);
    return one && edits.deleteReference({ ruleSet: set.id, reference: one.id });
  },
  takeReferences: ({ ruleSets }, draw) => {
    const [set, other] = [draw.of(ruleSets), draw.of(ruleSets)];
    return edits.takeReferences({ ruleSet: set.id, nearest: other.nearest });
  },
  setReject: ({ ruleSets }, draw) => edits.setReject({ ruleSet: draw.of(ruleSets).id, reject: 3 * draw.share() }),

  addMode: (_, draw) => edits.addMode({ mode: id(draw), name: word(draw) }),
  renameMode: (project, draw) => edits.renameMode({ mode: responseOf(project, draw).mode.id, name: word(draw) }),
  startInMode: (project, draw) => edits.startInMode({ mode: responseOf(project, draw).mode.id }),
  deleteMode: (project, draw) => edits.deleteMode({ mode: responseOf(project, draw).mode.id }),
  addResponse: (project, draw) => {
    const { mode } = responseOf(project, draw);
    return edits.addResponse({
      mode: mode.id,
      response: response(project, draw),
      before: placeIn(draw, mode.responses),
    });
  },
  changeResponse: (project, draw) => {
    const { response: one, of } = responseOf(project, draw);
    const then = draw.of([null, "finish" as const, ...ids(project.behaviour.modes)]);
    return (
      one &&
      edits.changeResponse({ ...of, change: draw.of([{ then }, { on: !one.on }, { restMs: -1 }, { guard: null }]) })
    );
  },
  moveResponse: (project, draw) => {
    const { mode, response: one, of } = responseOf(project, draw);
    return one && edits.moveResponse({ ...of, before: placeIn(draw, mode.responses) });
  },
  moveResponseTo: (project, draw) => {
    const { response: one, of } = responseOf(project, draw);
    return one && edits.moveResponseTo({ ...of, to: draw.of(ids(project.behaviour.modes)) });
  },
  deleteResponse: (project, draw) => {
    const { response: one, of } = responseOf(project, draw);
    return one && edits.deleteResponse(of);
  },
  addStep: (project, draw) => {
    const { at, steps } = stepsOf(project, draw);
    const own = step(project, draw, nextId("step", steps) as never, at);
    return edits.addStep({ at, step: own, before: placeIn(draw, steps) });
  },
  replaceStep: (project, draw) => {
    const { at, steps } = stepsOf(project, draw);
    const one = draw.of(steps);
    return one && edits.replaceStep({ at, step: step(project, draw, one.id as never, at) });
  },
  moveStep: (project, draw) => {
    const { at, steps } = stepsOf(project, draw);
    const one = draw.of(steps);
    return one && edits.moveStep({ at, step: one.id, before: placeIn(draw, steps) });
  },
  deleteStep: (project, draw) => {
    const { at, steps } = stepsOf(project, draw);
    const one = draw.of(steps);
    return one && edits.deleteStep({ at, step: one.id });
  },
  makeRoutine: (project, draw) => {
    const { at, steps } = stepsOf(project, draw);
    const from = draw.whole(0, Math.max(0, steps.length - 1));
    const taken = draw.share() < 0.2 ? draw.some(steps) : steps.slice(from, from + draw.whole(1, 3));
    if (taken.length === 0) return undefined;
    const alike = draw.share() < 0.5 ? { alike: true as const } : {};
    return edits.makeRoutine({ at, steps: ids(taken), routine: id(draw), doing: nextId("step", steps), ...alike });
  },
  addOwnName: (_, draw) => edits.addOwnName({ kind: draw.of(["counters", "lists", "routines"]), name: id(draw) }),
  renameOwnName: (project, draw) => {
    const kind = draw.of(["counters", "lists", "routines"] as const);
    const name = ownName(project, kind, draw);
    return name === undefined ? undefined : edits.renameOwnName({ kind, name, to: id(draw) });
  },
  deleteOwnName: (project, draw) => {
    const kind = draw.of(["counters", "lists", "routines"] as const);
    const name = ownName(project, kind, draw);
    return name === undefined ? undefined : edits.deleteOwnName({ kind, name });
  },
  addInput: ({ behaviour }, draw) => {
    const routine = draw.of(behaviour.routines);
    return routine && edits.addInput({ routine: routine.id, input: { name: id(draw), ...draw.of(INPUTS) } });
  },
  changeInput: ({ behaviour }, draw) => {
    const { routine, input } = inputOf(behaviour, draw);
    return input && edits.changeInput({ routine, input: input.name, value: draw.of(INPUTS).value });
  },
  renameInput: ({ behaviour }, draw) => {
    const { routine, input } = inputOf(behaviour, draw);
    return input && edits.renameInput({ routine, input: input.name, to: id(draw) });
  },
  deleteInput: ({ behaviour }, draw) => {
    const { routine, input } = inputOf(behaviour, draw);
    return input && edits.deleteInput({ routine, input: input.name });
  },

  becomeRobot: (_, draw) => edits.becomeRobot({ kind: draw.of([...ROBOTS.entries.map(({ key }) => key), "ship"]) }),
  changeRobot: (_, draw) =>
    edits.changeRobot({
      change: draw.of([{ name: word(draw) }, { wheelMm: draw.whole(-5, 200) }, { end: "nowhere" }]),
    }),
  changeMotor: (_, draw) =>
    edits.changeMotor({ motor: draw.of(["left", "right", "motor", "belt"]), change: { deadBand: 2 * draw.share() } }),
  addMount: ({ sensors }, draw) =>
    edits.addMount({ mount: { sensor: draw.of(sensors).id, x: 20, y: draw.whole(-2000, 2000), z: 14, looks: "down" } }),
  changeMount: ({ robot }, draw) =>
    edits.changeMount({
      sensor: draw.of(robot.mounts).sensor,
      change: { x: draw.whole(-1200, 1200), tilt: draw.of([null, 10]) },
    }),
  deleteMount: ({ robot }, draw) => edits.deleteMount({ sensor: draw.of(robot.mounts).sensor }),
  addRobotName: (_, draw) => edits.addRobotName({ kind: draw.of(["lamps", "buttons"]), name: id(draw) }),
  deleteRobotName: ({ robot }, draw) => {
    const kind = draw.of(["lamps", "buttons"] as const);
    const name = draw.of(robot[kind]);
    return name === undefined ? undefined : edits.deleteRobotName({ kind, name });
  },
  addServo: (_, draw) => edits.addServo({ servo: { id: id(draw), from: -90, to: 90, at: draw.whole(-100, 100) } }),
  changeServo: ({ robot }, draw) => {
    const servo = draw.of(robot.servos);
    return (
      servo && edits.changeServo({ servo: servo.id, change: { from: draw.whole(-400, 100), to: draw.whole(-90, 300) } })
    );
  },
  deleteServo: ({ robot }, draw) => {
    const servo = draw.of(robot.servos);
    return servo && edits.deleteServo({ servo: servo.id });
  },
  addGate: ({ robot }, draw) =>
    "gates" in robot
      ? edits.addGate({
          gate: { id: id(draw), atMm: draw.whole(0, 900), crate: draw.of(robot.crates).id, travelMs: 100, reachMm: 80 },
        })
      : undefined,
  changeGate: ({ robot }, draw) => {
    const gate = "gates" in robot ? draw.of(robot.gates) : undefined;
    return (
      gate &&
      edits.changeGate({ gate: gate.id, change: { atMm: draw.whole(-100, 900), name: draw.of([null, "North"]) } })
    );
  },
  deleteGate: ({ robot }, draw) => {
    const gate = "gates" in robot ? draw.of(robot.gates) : undefined;
    return gate && edits.deleteGate({ gate: gate.id });
  },
  addCrate: ({ robot }, draw) =>
    "gates" in robot ? edits.addCrate({ crate: { id: id(draw), name: word(draw) } }) : undefined,
  renameCrate: ({ robot }, draw) =>
    "gates" in robot ? edits.renameCrate({ crate: draw.of(robot.crates).id, name: word(draw) }) : undefined,
  deleteCrate: ({ robot }, draw) =>
    "gates" in robot ? edits.deleteCrate({ crate: draw.of(robot.crates).id }) : undefined,

  addCourse: ({ targets }, draw) =>
    edits.addCourse({ course: id(draw), name: word(draw), ground: draw.of(targets).id }),
  copyCourse: ({ courses }, draw) =>
    edits.copyCourse({ course: draw.of(courses).id, copy: id(draw), name: word(draw) }),
  changeCourse: ({ courses, targets }, draw) =>
    edits.changeCourse({
      course: draw.of(courses).id,
      change: draw.of([{ name: word(draw) }, { ground: draw.of(targets).id }, { size: [draw.whole(-1, 900), 800] }]),
    }),
  deleteCourse: ({ courses }, draw) => edits.deleteCourse({ course: draw.of(courses).id }),
  setRail: ({ courses }, draw) => {
    const course = draw.of(courses);
    const rail = railOf(course);
    if (rail === undefined) return undefined;
    const way = draw.of([rail.way.slice(0, draw.whole(0, 3)), [...rail.way, { straight: draw.whole(0, 900) }]]);
    return edits.setRail({ course: course.id, rail: { ...rail, way, closed: draw.share() < 0.3 } });
  },
  setSleepers: ({ courses, targets }, draw) =>
    edits.setSleepers({
      course: draw.of(courses).id,
      sleepers: draw.of([
        null,
        { everyMm: draw.whole(0, 90), lengthMm: 130, widthMm: 20, target: draw.of(targets).id },
      ]),
    }),
  setPieces: ({ courses, targets }, draw) => {
    const course = draw.of(courses);
    if (!("pieces" in course)) return undefined;
    const order = Array.from({ length: draw.whole(0, 9) }, () => draw.of(targets).id);
    return edits.setPieces({ course: course.id, pieces: { ...course.pieces, order, every: draw.whole(0, 400) } });
  },
  paintCourse: ({ courses }, draw) => {
    const course = draw.of(courses);
    return edits.paintCourse({ course: course.id, size: course.size, patches: draw.of(courses).patches });
  },
  addThing: (project, draw) => {
    const { course, part, things, thing } = thingOf(project, draw);
    if (thing === undefined) return undefined;
    const own = { ...altered(thing, draw), id: nextId(kindOf(part), things) };
    return edits.addThing({ course: course.id, of: { part, thing: own } as never });
  },
  setThing: (project, draw) => {
    const { course, part, thing } = thingOf(project, draw);
    return thing && edits.setThing({ course: course.id, of: { part, thing: altered(thing, draw) } as never });
  },
  deleteThing: (project, draw) => {
    const { course, part, thing } = thingOf(project, draw);
    return thing && edits.deleteThing({ course: course.id, part, thing: thing.id as never });
  },
  keepHeld: ({ courses, targets, robot }, draw) => {
    const cards = Array.from({ length: draw.whole(0, 3) }, () => ({
      target: draw.of(targets).id,
      atMs: draw.whole(-100, 9000),
      forMs: 500,
    }));
    const presses = draw.some(robot.buttons).map((button) => ({ button, atMs: 100, forMs: 50 }));
    return edits.keepHeld({ course: draw.of(courses).id, cards, presses });
  },
  addCheck: (project, draw) => {
    const course = draw.of(project.courses);
    return edits.addCheck({
      course: course.id,
      check: { ...check(project, draw), id: nextId("check", course.checks) },
    });
  },
  replaceCheck: (project, draw) => {
    const course = draw.of(project.courses);
    const one = draw.of(course.checks);
    return one && edits.replaceCheck({ course: course.id, check: { ...check(project, draw), id: one.id } });
  },
  deleteCheck: ({ courses }, draw) => {
    const course = draw.of(courses);
    const one = draw.of(course.checks);
    return one && edits.deleteCheck({ course: course.id, check: one.id });
  },

  addTapes: ({ tapes }, draw) => {
    const tape = draw.of(tapes);
    const made = tape === undefined ? [] : [{ ...tape, id: id(draw) }];
    return edits.addTapes({ did: "tapes changed", tapes: made, gone: draw.some(ids(tapes)) });
  },
  renameTape: ({ tapes }, draw) => draw.of(tapes) && edits.renameTape({ tape: draw.of(tapes).id, name: word(draw) }),
  deleteTape: ({ tapes }, draw) => draw.of(tapes) && edits.deleteTape({ tape: draw.of(tapes).id }),
  setTapeLight: ({ tapes, lights }, draw) =>
    draw.of(tapes) &&
    edits.setTapeLight({
      tape: draw.of(tapes).id,
      light: draw.of([null, draw.of(lights).id]),
      ...(draw.share() < 0.5 && { within: { from: 0, to: 900 } }),
    }),
  addMark: ({ tapes, targets }, draw) => {
    const tape = draw.of(tapes);
    if (tape === undefined) return undefined;
    const from = draw.whole(0, 9000);
    const mark = { id: nextId("mark", tape.marks), from, to: from + draw.whole(-50, 500), target: draw.of(targets).id };
    return edits.addMark({ tape: tape.id, mark });
  },
  changeMark: ({ tapes, targets }, draw) => {
    const tape = draw.of(tapes);
    const mark = tape && draw.of(tape.marks);
    const change = draw.of([
      { from: draw.whole(0, 9000) },
      { to: 7 },
      { light: null },
      { target: draw.of(targets).id },
    ]);
    return mark && edits.changeMark({ tape: tape.id, mark: mark.id, change });
  },
  splitMark: ({ tapes }, draw) => {
    const tape = draw.of(tapes);
    const mark = tape && draw.of(tape.marks);
    if (mark === undefined) return undefined;
    const left = mark.from + draw.share() * (mark.to - mark.from);
    return edits.splitMark({ tape: tape.id, mark: mark.id, left, right: left, second: nextId("mark", tape.marks) });
  },
  deleteMark: ({ tapes }, draw) => {
    const tape = draw.of(tapes);
    const mark = tape && draw.of(tape.marks);
    return mark && edits.deleteMark({ tape: tape.id, mark: mark.id });
  },
  addBox: ({ tapes }, draw) => {
    const tape = draw.of(tapes);
    const box = tape?.boxes && draw.of(tape.boxes);
    if (box === undefined) return undefined;
    return edits.addBox({
      tape: tape.id,
      box: { ...(altered(box, draw) as typeof box), id: nextId("box", tape.boxes ?? []) },
    });
  },
  changeBox: ({ tapes }, draw) => {
    const tape = draw.of(tapes);
    const box = tape?.boxes && draw.of(tape.boxes);
    return (
      box &&
      edits.changeBox({ tape: tape.id, box: box.id, change: draw.of([{ left: draw.whole(-2, 200) }, { light: null }]) })
    );
  },
  deleteBox: ({ tapes }, draw) => {
    const tape = draw.of(tapes);
    const box = tape?.boxes && draw.of(tape.boxes);
    return box && edits.deleteBox({ tape: tape.id, box: box.id });
  },

  setLink: ({ links = [] }, draw) =>
    edits.setLink({
      link: {
        id: draw.of([...links.map((link) => link.id), "link-0123456789ab"]),
        name: "By a line",
        over: draw.of([
          { kind: "line", address: "tcp://10.0.0.2:4190" },
          { kind: "line", address: "nowhere" },
        ]),
      },
    }),
  nameRobotSensor: ({ links = [], sensors }, draw) => {
    const link = draw.of(links);
    return link && edits.nameRobotSensor({ link: link.id, name: "eye", sensor: draw.of(sensors).id });
  },

  mend: (project, draw) => {
    const { mode, of } = responseOf(project, draw);
    const { set, rule } = ruleOf(project, draw);
    const at = { mode: mode.id, ...(of.response && { response: of.response }) };
    const change = draw.of([
      { at, append: { step: "stop" as const } },
      { at, stopBetween: true as const },
      { slowDown: mode.id, most: draw.share() },
      ...(rule ? [{ ruleSet: set.id, remove: rule.id }] : []),
    ]);
    return edits.mend({ title: "It slips", change });
  },
  makeItSo: ({ ruleSets }, draw) =>
    edits.makeItSo({ label: "Coral tag", change: { ruleSet: draw.of(ruleSets).id, reject: 3 * draw.share() } }),
  putFindingAside: (_, draw) => edits.putFindingAside({ finding: finding(draw) }),
  takeFindingBack: (_, draw) => edits.takeFindingBack({ finding: finding(draw) }),

  together: (project, draw) => {
    const some = Object.entries(DRAWN).filter(([name]) => name !== "together");
    const made = Array.from({ length: 3 }, () => draw.of(some)[1](project, draw)).filter((edit) => edit !== undefined);
    return edits.together({ did: "several", edits: made });
  },
};

const finding = (draw: Draw) => ({
  code: draw.of(["slips", "too-fast"]),
  title: "It slips",
  sentence: `It slips ${draw.whole(0, 9)} times.`,
  place: { stage: "act" },
});

const ownName = ({ behaviour }: ProjectDocument, kind: "counters" | "lists" | "routines", draw: Draw) =>
  kind === "routines" ? draw.of(behaviour.routines)?.id : draw.of(behaviour[kind]);
