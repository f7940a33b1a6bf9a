import {
  advance,
  answeredBy,
  type EngineInput,
  type EngineState,
  eyeOf,
  isQuiet,
  type NameOf,
  type Note,
  obey,
  type Program,
  STEP_MS,
  startState,
} from "../behaviour";
import type { LightId, TargetId } from "../names";
import { isCamera, type Raw } from "../readings";
import { belongings } from "./belt/pieceReport";
import type { Body } from "./body";
import { CameraRecorder } from "./camera/CameraRecorder";
import { chance } from "./chance";
import { type Check, judgeCheck, type Verdict } from "./checks";
import { courseKindOf } from "./courses";
import type { DrawnCourse } from "./courses/DrawnCourse";
import { drawn, type Live } from "./drawn";
import { EyeRecorder, type SensedWorld } from "./EyeRecorder";
import { Floor } from "./floor";
import { SensorOptics } from "./optics";
import { programOf } from "./programOf";
import type { Recorder } from "./Recorder";
import { RunError } from "./RunError";
import { looksAhead, robotKindOf } from "./robots";
import type { Simulated } from "./Simulated";
import { Signs } from "./sight";
import type { Answer, Ending, Trace } from "./trace";

/** The simulation's fixed step. */
export const TICK_MS = STEP_MS;

/** The circumstances of one run; what is missing is the first the project has, and seed 1. */
export interface RunChoice {
  course: string;
  start?: string;
  light?: string;
  seed?: number;
  limitMs?: number;
  /** Another step of the simulation, to see whether it matters. */
  tickMs?: number;
  /** What was held and pressed while an earlier run of the same choice played. */
  live?: Live;
}

/** A run that does more than this is ended: steps follow each other without time passing. */
const MOST_NOTES = 200_000;

const NO_CAMERAS: readonly CameraRecorder[] = [];
const NO_READINGS: { eye: number; raw: Raw }[] = [];

const named = (things: readonly { id?: string; name: string }[]) => things.map((x) => x.name).join(", ");

/** Finds course, start and light by id or name. @throws RunError naming what there is. */
function chosen(project: Simulated, choice: RunChoice) {
  const course = project.courses.find((c) => c.id === choice.course || c.name === choice.course);
  if (!course)
    throw new RunError(`there is no course “${choice.course}”; there is ${named(project.courses) || "none"}`);
  const start = choice.start === undefined ? course.starts[0] : course.starts.find((s) => s.name === choice.start);
  if (!start) throw new RunError(`the course has no start “${choice.start}”; there is ${named(course.starts)}`);
  const light =
    choice.light === undefined
      ? project.lights[0]
      : project.lights.find((l) => l.id === choice.light || l.name === choice.light);
  if (!light)
    throw new RunError(`there is no light “${choice.light ?? ""}”; there is ${named(project.lights) || "none"}`);
  return { course, start, light };
}

/** Everything that a run takes place with. */
export interface Stage {
  course: DrawnCourse;
  start: { name: string };
  light: { id: string };
  seed: number;
  tickMs: number;
  /** How many ticks there are at most. */
  ticks: number;
  program: Program;
  body: Body;
  place: ReturnType<typeof courseKindOf>;
  /** The sensors that read one spot, the cameras, and all of them in the robot's order. */
  spots: readonly EyeRecorder[];
  cameras: readonly CameraRecorder[];
  eyes: readonly Recorder[];
}

/** Sets a run up. @throws RunError where it cannot start */
export function stageOf(project: Simulated, choice: RunChoice): Stage {
  const { course: asBuilt, start, light } = chosen(project, choice);
  const seed = choice.seed ?? 1;
  const tickMs = choice.tickMs ?? TICK_MS;
  const course = drawn(asBuilt, seed, choice.live);
  const ticks = Math.floor((choice.limitMs ?? courseKindOf(course).limitMs(course)) / tickMs) + 1;
  const program = programOf(project);
  const { robot, targets } = project;
  const widest = Math.max(0, ...program.eyes.map(({ sensor }) => sensor.optics.spotMm));
  const floor = new Floor(course, targets, widest);
  const sensed: SensedWorld = { course, floor, signs: new Signs(course, targets), targets, seed, tickMs, ticks };
  const body = robotKindOf(robot).body(
    robot,
    courseKindOf(asBuilt).begins(asBuilt, start),
    chance(seed, "motors"),
    tickMs,
    { course, floor },
  );
  const spots: EyeRecorder[] = [];
  const cameras: CameraRecorder[] = [];
  const eyes = program.eyes.map(({ id, sensor }, i): Recorder => {
    const own = robot.mounts[i];
    if (isCamera(sensor)) {
      const camera = new CameraRecorder(own, program, i, sensor, light, sensed);
      cameras.push(camera);
      return camera;
    }
    const optics = new SensorOptics(sensor, light, targets);
    const eye = new EyeRecorder(own, program, i, optics, sensed, chance(seed, `noise of ${id}`));
    spots.push(eye);
    return eye;
  });
  return {
    course,
    start,
    light,
    seed,
    tickMs,
    ticks,
    program,
    body,
    place: courseKindOf(course),
    spots,
    cameras,
    eyes,
  };
}

/** Looks at every moment of a run: the state after it, what happened in it, which buttons were held, and what it brought. */
export type Observer = (
  program: Program,
  state: EngineState,
  notes: readonly Note[],
  pressed: readonly string[],
  input: EngineInput,
) => void;

/**
 * One simulation of behaviour and robot on a course. The same project, choice and seed give the same trace everywhere.
 * @throws RunError where it cannot start
 */
export function run(project: Simulated, choice: RunChoice, observe?: Observer): Trace {
  const { course, start, light, seed, tickMs, ticks, program, body, place, spots, cameras, eyes } = stageOf(
    project,
    choice,
  );
  const { robot, targets } = project;
  const pose = new Poses(Math.min(ticks, FIRST_TICKS));
  const [mount] = robot.mounts;
  const spot = { x: mount.x + looksAhead(mount), y: mount.y };
  const notes: Note[] = [];
  const outputs: Trace["outputs"] = [];
  const answers: Answer[] = [];
  const state = startState(program);
  let ending: Ending = "time is over";
  let tick = 0;
  let unasked = 0;
  const presses = course.presses.length > 0;
  for (; tick < ticks; tick++) {
    if (tick === pose.room) pose.grow(Math.min(ticks, 2 * tick));
    const t = tick * tickMs;
    pose.note(tick, body, spot);

    let readings = NO_READINGS;
    for (let i = 0; i < spots.length; i++) {
      if (t <= spots[i].looksAfter) continue;
      const raw = spots[i].look(t, body);
      if (raw === undefined) continue;
      if (readings === NO_READINGS) readings = [];
      readings.push({ eye: spots[i].index, raw });
    }
    const due = cameras.length === 0 ? NO_CAMERAS : cameras.filter((camera) => t > camera.looksAfter);
    // Where nothing comes in and no time has come, the engine need not be asked; it is told how long that was.
    const quiet =
      readings === NO_READINGS &&
      due.length === 0 &&
      observe === undefined &&
      !presses &&
      isQuiet(state, t, body.travel);
    if (quiet) unasked += tickMs;
    else {
      const input: EngineInput = { readings, travel: body.travel };
      if (presses) input.pressed = pressedAt(course, t);
      if (due.length > 0) input.blobs = due.map((camera) => ({ eye: camera.index, blobs: camera.look(t, body) }));
      const moment = advance(state, input, tick === 0 ? 0 : unasked + tickMs);
      unasked = 0;
      for (let i = 0; i < readings.length; i++) eyes[readings[i].eye].learn(state);
      for (const camera of due) camera.learn(state);
      for (const note of moment.notes) {
        if (note.kind === "arrives") eyes.find((eye) => eye.sensor === note.sensor)?.visitBegins(note.target);
        if (note.kind === "fires" && note.target !== undefined && isAnswer(program, note))
          answers.push(eyes[eyeOf(program.eyes, note.sensor)].answer(note.t, note.response, note.target));
        notes.push(note);
      }
      observe?.(program, state, moment.notes, input.pressed ?? [], input);
      for (const command of moment.commands) {
        outputs.push({ t, command });
        obey(body, command);
      }
    }
    if (notes.length > MOST_NOTES) {
      notes.push({ t, kind: "trouble", text: `more than ${MOST_NOTES} things happened; the run was ended` });
      break;
    }
    const ended = state.finished ? "finished" : place.ends(course, body);
    if (ended !== undefined) {
      ending = ended;
      break;
    }
    body.step();
    if (body.landed !== undefined && body.landed.length > 0) {
      for (const { piece, ...where } of body.landed)
        notes.push({ t: t + tickMs, kind: "piece", piece, target: course.patches[piece].target, ...where });
      body.landed = [];
    }
  }
  const made = Math.min(tick + 1, ticks);
  return {
    course,
    start: start.name,
    light: light.id as LightId,
    seed,
    tickMs,
    targets: program.targets,
    ...(program.belt !== undefined && { belt: { ...program.belt, belongs: belongings(program.belt, targets) } }),
    ...pose.first(made),
    eyes: eyes.map((eye) => eye.finished()),
    notes,
    outputs,
    passages: eyes.flatMap((eye) => eye.passages).sort((a, b) => a.entered - b.entered),
    listeners: listenersOf(program),
    answers,
    ending,
    endMs: (made - 1) * tickMs,
    underAtEnd: spots[0]?.underAt((made - 1) * tickMs, body) ?? [],
  };
}

/** A run that ends soon shall not pay for the longest there can be: room is doubled when it is used up. */
const FIRST_TICKS = 4096;
/** x, y, heading, its sine and cosine, x and y of the first sensor, speed. */
const NOTED = 8;

/** Where a body was at every tick. All that belongs to a tick lies together, so that noting it touches one place. */
class Poses {
  private noted: Float64Array;
  private slipping: Uint8Array;

  /** @param room for so many ticks */
  constructor(public room: number) {
    this.noted = new Float64Array(NOTED * room);
    this.slipping = new Uint8Array(room);
  }

  grow(room: number): void {
    const { noted, slipping } = this;
    this.room = room;
    this.noted = new Float64Array(NOTED * room);
    this.noted.set(noted);
    this.slipping = new Uint8Array(room);
    this.slipping.set(slipping);
  }

  note(tick: number, body: Body, spot: { x: number; y: number }): void {
    const { noted } = this;
    const { x, y, sin, cos } = body;
    const at = NOTED * tick;
    noted[at] = x;
    noted[at + 1] = y;
    noted[at + 2] = body.heading;
    noted[at + 3] = sin;
    noted[at + 4] = cos;
    noted[at + 5] = x + spot.x * cos - spot.y * sin;
    noted[at + 6] = y + spot.x * sin + spot.y * cos;
    noted[at + 7] = body.speed;
    if (body.slipping) this.slipping[tick] = 1;
  }

  /** Those of the first ticks, each figure in an array of its own. */
  first(ticks: number): Pick<Trace, "x" | "y" | "heading" | "sin" | "cos" | "eyeX" | "eyeY" | "speed" | "slipping"> {
    const [x, y, heading, sin, cos, eyeX, eyeY, speed] = Array.from({ length: NOTED }, (_, k) => {
      const column = new Float64Array(ticks);
      for (let i = 0; i < ticks; i++) column[i] = this.noted[NOTED * i + k];
      return column;
    });
    return { x, y, heading, sin, cos, eyeX, eyeY, speed, slipping: this.slipping.slice(0, ticks) };
  }
}

export const pressedAt = ({ presses }: DrawnCourse, t: number): readonly string[] =>
  presses.filter((press) => t >= press.atMs && t < press.atMs + press.forMs).map((press) => press.button);

/** Which sensors the responses to each target listen to. */
function listenersOf(program: Program): Trace["listeners"] {
  const listeners = new Map<TargetId, Set<number>>();
  for (const { responses } of program.modes)
    for (const { when } of responses) {
      for (const { target, sensor } of answeredBy(when)) {
        const eye = eyeOf(program.eyes, sensor);
        if (eye >= 0) listeners.set(target, (listeners.get(target) ?? new Set<number>()).add(eye));
      }
    }
  return listeners;
}

/** Whether a response that fired answers something that came or is there: who departs is not answered. */
function isAnswer(program: Program, note: Extract<Note, { kind: "fires" }>): boolean {
  const mode = program.modes.find(({ mode }) => mode.id === note.mode);
  const when = mode?.responses.find(({ id }) => id === note.response)?.when;
  return when !== undefined && answeredBy(when).length > 0;
}

/** Every check of the run's course with its verdict; reasons name things as `name` does. */
export function verdicts(trace: Trace, name?: NameOf): { check: Check; verdict: Verdict }[] {
  return (trace.course.checks as readonly Check[]).map((check) => ({ check, verdict: judgeCheck(check, trace, name) }));
}
