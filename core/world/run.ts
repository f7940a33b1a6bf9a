import { advance, type EngineState, type Note, type Program, prepareProgram, startState } from "../behaviour";
import type { LightId, TargetId } from "../project/ids";
import type { ProjectDocument } from "../project/schema";
import { cutReadings, type Raw, REPORT_KINDS } from "../readings";
import { Cart } from "./cart";
import { type Chance, chance } from "./chance";
import { type Check, judgeCheck, type Verdict } from "./checks";
import { Floor, GROUND, type Piece } from "./floor";
import { SensorOptics } from "./optics";
import type { Mount } from "./schema";
import type { Answer, Ending, EyeTrace, Passage, Trace } from "./trace";

/** The simulation's fixed step. */
export const TICK_MS = 5;
/** A run that never finishes is ended after this long, and kept. */
export const RUN_LIMIT_MS = 120_000;

/** The circumstances of one run; what is missing is the first the project has, and seed 1. */
export interface RunChoice {
  course: string;
  start?: string;
  light?: string;
  seed?: number;
  limitMs?: number;
}

/** A run cannot start: what is missing, in a sentence. */
export class RunError extends Error {}

const NO_READINGS: readonly { eye: number; raw: Raw }[] = [];

const named = (things: readonly { id?: string; name: string }[]) => things.map((x) => x.name).join(", ");

/** Finds course, start and light by id or name. @throws RunError naming what there is. */
function chosen(project: ProjectDocument, choice: RunChoice) {
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

/** One simulation of behaviour and robot on a course. The same project, choice and seed give the same trace everywhere. */
export function run(project: ProjectDocument, choice: RunChoice): Trace {
  const { course, start, light } = chosen(project, choice);
  const seed = choice.seed ?? 1;
  const ticks = Math.floor((choice.limitMs ?? RUN_LIMIT_MS) / TICK_MS) + 1;
  const program = prepareProgram(project);
  const floor = new Floor(course, project.targets);
  const cart = new Cart(project.robot, start, chance(seed, "motors"), TICK_MS);
  const eyes = program.eyes.map(
    (eye, i) =>
      new EyeRecorder(
        project.robot.mounts[i],
        program,
        i,
        new SensorOptics(eye.sensor, light, project.targets),
        floor,
        chance(seed, `noise of ${eye.id}`),
        ticks,
      ),
  );
  const pose = {
    x: new Float64Array(ticks),
    y: new Float64Array(ticks),
    heading: new Float64Array(ticks),
    speed: new Float64Array(ticks),
  };
  const slipping = new Uint8Array(ticks);
  const notes: Note[] = [];
  const outputs: Trace["outputs"] = [];
  const answers: Answer[] = [];
  let state = startState(program);
  let ending: Ending = "time is over";
  let tick = 0;
  for (; tick < ticks; tick++) {
    const t = tick * TICK_MS;
    pose.x[tick] = cart.x;
    pose.y[tick] = cart.y;
    pose.heading[tick] = cart.heading;
    pose.speed[tick] = cart.speed;
    slipping[tick] = cart.slipping ? 1 : 0;

    let readings = NO_READINGS;
    for (let i = 0; i < eyes.length; i++) {
      const raw = eyes[i].look(t, cart.x, cart.y, cart.sin, cart.cos);
      if (raw !== undefined) readings = [...readings, { eye: i, raw }];
    }
    const moment = advance(
      program,
      state,
      { readings, travel: { left: cart.left.travel, right: cart.right.travel } },
      tick === 0 ? 0 : TICK_MS,
    );
    state = moment.state;
    for (const { eye } of readings) eyes[eye].learn(state);
    for (const note of moment.notes) {
      if (note.kind === "arrives") eyes.find((eye) => eye.trace.sensor === note.sensor)?.visitBegins(note.target);
      if (note.kind === "fires" && note.target !== undefined)
        answers.push(eyes[firingEye(program, note)].answer(note.t, note.response, note.target));
      notes.push(note);
    }
    for (const command of moment.commands) {
      outputs.push({ t, command });
      if (command.kind === "wheels") cart.command(command.left, command.right);
      else if (command.kind === "stop")
        cart.command(command.how === "coast" ? null : 0, command.how === "coast" ? null : 0);
    }
    if (state.finished) ending = "finished";
    else if (cart.x < 0 || cart.y < 0 || cart.x > course.size[0] || cart.y > course.size[1]) ending = "left the course";
    if (ending !== "time is over") break;
    cart.step();
  }
  const made = Math.min(tick + 1, ticks);
  return {
    course,
    start: start.name,
    light: light.id as LightId,
    seed,
    tickMs: TICK_MS,
    targets: program.targets,
    x: pose.x.slice(0, made),
    y: pose.y.slice(0, made),
    heading: pose.heading.slice(0, made),
    speed: pose.speed.slice(0, made),
    slipping: slipping.slice(0, made),
    eyes: eyes.map((eye) => eye.finished()),
    notes,
    outputs,
    passages: eyes[0].passages,
    answers,
    ending,
    endMs: (made - 1) * TICK_MS,
    truthAtEnd: eyes[0].targetNow,
  };
}

/** The mount whose sensor a response's trigger listens to. */
function firingEye(program: Program, note: Extract<Note, { kind: "fires" }>): number {
  const when = program.modes.get(note.mode)?.responses.find((r) => r.response.id === note.response)?.response.when;
  const sensor = when !== undefined && "sensor" in when ? when.sensor : undefined;
  return sensor === undefined ? 0 : program.eyes.findIndex((eye) => eye.id === sensor);
}

/** One sensor in a run: looks at the floor at its own period, and keeps what it read and what was in truth there. */
class EyeRecorder {
  readonly trace: EyeTrace;
  readonly passages: Passage[] = [];
  private readonly pieces: Piece[] = [];
  private readonly sum = new Float64Array(3);
  private readonly reflectance = new Float64Array(3);
  private readonly signal = new Float64Array(3);
  private samples = 0;
  private whole: Piece | undefined;
  private n = 0;
  private visitPiece: Piece = GROUND;
  private readonly periodMs: number;
  private readonly integrationMs: number;
  private readonly spotMm: number;
  private readonly of: number;
  private readonly columns: Float64Array[];

  constructor(
    private readonly mount: Mount,
    private readonly program: Program,
    private readonly index: number,
    private readonly optics: SensorOptics,
    private readonly floor: Floor,
    private readonly noise: Chance,
    ticks: number,
  ) {
    const { sensor, ruleSet } = program.eyes[index];
    // Readings come on ticks: a period that is no multiple of the tick is taken as the next one that is.
    this.periodMs = Math.max(TICK_MS, Math.ceil(sensor.periodMs / TICK_MS) * TICK_MS);
    this.integrationMs = sensor.optics.integrationMs;
    this.spotMm = sensor.optics.spotMm;
    this.of = ruleSet.steady.of;
    const most = Math.floor((ticks * TICK_MS) / this.periodMs) + 1;
    const names = REPORT_KINDS[sensor.reports].channels;
    this.columns = names.map(() => new Float64Array(most));
    this.trace = {
      sensor: sensor.id,
      height: mount.z,
      readings: {
        t: new Float64Array(most),
        channels: Object.fromEntries(names.map((name, i) => [name, this.columns[i]])),
      },
      labels: new Uint8Array(most),
      seen: new Uint8Array(most),
      truth: new Uint8Array(most),
    };
  }

  /** Gathers light at time t; a reading at the end of every period. */
  look(t: number, axleX: number, axleY: number, sin: number, cos: number): Raw | undefined {
    const toReading = (this.periodMs - (t % this.periodMs)) % this.periodMs;
    if (toReading >= this.integrationMs) return undefined;
    const x = axleX + this.mount.x * cos - this.mount.y * sin;
    const y = axleY + this.mount.x * sin + this.mount.y * cos;
    const whole = this.floor.spotAt(x, y, this.spotMm, this.reflectance);
    this.optics.signal(this.reflectance, this.mount.z, this.signal);
    this.whole = this.samples === 0 || this.whole === whole ? whole : undefined;
    for (let c = 0; c < 3; c++) this.sum[c] += this.signal[c];
    this.samples++;
    if (toReading > 0) return undefined;

    for (let c = 0; c < 3; c++) this.signal[c] = this.sum[c] / this.samples;
    const raw = this.optics.measure(this.signal, this.noise);
    const { readings, truth } = this.trace;
    readings.t[this.n] = t;
    for (let c = 0; c < this.columns.length; c++) this.columns[c][this.n] = raw[c];
    truth[this.n] = this.whole === undefined ? 0 : this.program.targets.indexOf(this.targetOf(this.whole)) + 1;
    this.follow(t, this.floor.pieceAt(x, y));
    this.sum.fill(0);
    this.samples = 0;
    this.n++;
    return raw;
  }

  /** Keeps passages: from the first reading whose centre is on a patch to the first that is off it. */
  private follow(t: number, piece: Piece): void {
    const last = this.passages.at(-1);
    const on = last !== undefined && last.left === undefined ? last.patch : undefined;
    this.pieces.push(piece);
    if (on === piece) return;
    if (last !== undefined && on !== undefined) last.left = t;
    if (piece >= 0) this.passages.push({ patch: piece, target: this.targetOf(piece), entered: t });
  }

  /** Takes over what the engine made of the reading just taken. */
  learn(state: EngineState): void {
    const eye = state.eyes[this.index];
    this.trace.labels[this.n - 1] = eye.label;
    this.trace.seen[this.n - 1] = eye.steadied.seen;
  }

  /** A visit begins: what lay under most of the readings that made it arrive is what is visited. */
  visitBegins(target: TargetId): void {
    const label = this.program.targets.indexOf(target) + 1;
    const votes = new Map<Piece, number>();
    for (let k = Math.max(0, this.n - this.of); k < this.n; k++) {
      if (this.trace.labels[k] === label) votes.set(this.pieces[k], (votes.get(this.pieces[k]) ?? 0) + 1);
    }
    let most = 0;
    for (const [piece, count] of votes) {
      if (count >= most) {
        most = count;
        this.visitPiece = piece;
      }
    }
  }

  answer(t: number, response: Answer["response"], target: TargetId): Answer {
    const piece = this.visitPiece;
    return { t, response, target, truth: this.targetOf(piece), ...(piece >= 0 && { patch: piece }) };
  }

  get targetNow(): TargetId | undefined {
    const piece = this.pieces.at(-1);
    return piece === undefined ? undefined : this.targetOf(piece);
  }

  private targetOf(piece: Piece): TargetId {
    const { course } = this.floor;
    return piece === GROUND
      ? course.ground
      : piece >= 0
        ? course.patches[piece].target
        : course.lines[-1 - piece].target;
  }

  finished(): EyeTrace {
    const { readings, labels, seen, truth } = this.trace;
    return {
      ...this.trace,
      readings: cutReadings(readings, 0, this.n),
      labels: labels.slice(0, this.n),
      seen: seen.slice(0, this.n),
      truth: truth.slice(0, this.n),
    };
  }
}

/** Every check of the run's course with its verdict. */
export function verdicts(trace: Trace): { check: Check; verdict: Verdict }[] {
  return trace.course.checks.map((check) => ({ check, verdict: judgeCheck(check, trace) }));
}
