import {
  advance,
  type Command,
  type EngineInput,
  type EngineState,
  type Note,
  type Program,
  startState,
  wheelSpeeds,
} from "@perceptum/core/behaviour";
import { heard, type NoteFields, notedAs, takeName } from "@perceptum/core/code";
import { lineOf } from "@perceptum/core/live";
import type { ProjectDocument } from "@perceptum/core/project";
import { isCamera, type RawReadings, REPORT_KINDS } from "@perceptum/core/readings";
import { BLOB_MEASURES, type Blob } from "@perceptum/core/vision";
import { programOf, type RunChoice, run } from "@perceptum/core/world";
import type { Other } from "./proofOf";

/** What came of running a behaviour's file beside the core, over the tapes of its robot and over a run. */
export interface BehaviourProof {
  tapes: number;
  readings: number;
  /** The course of the run; null where there is none to run on. */
  course: string | null;
  commands: number;
  notes: number;
  other: Other | null;
}

/** The module that a file in JavaScript is, as far as it is run here. */
interface Acts {
  startMoment(t: number, left: number, right: number): void;
  endMoment(): void;
  press(button: number, isDown: boolean): void;
  listen(told: (line: object) => void, noted: (...noted: NoteFields) => void): void;
  labelOf: number[];
  seen: number[];
  blobs: number[];
  takes: ((...raw: number[]) => void)[];
}

/** A camera's blob as the file keeps it: an area of 0 is none. */
const fieldsOf = (blob: Blob | undefined): number[] =>
  (["area", ...BLOB_MEASURES.filter((m) => m !== "area"), "halfFrame"] as const).map((field) => blob?.[field] ?? 0);

/** A file run beside the core: the same comes in, and what it tells, notes and sees is compared. */
class Beside {
  private readonly acts: Acts;
  private told: string[] = [];
  private noted: NoteFields[] = [];
  private held: readonly string[] = [];
  private readonly cameras: readonly number[];
  other: Omit<Other, "where"> | null = null;

  /** @throws whatever the file throws */
  constructor(
    source: string,
    private readonly project: ProjectDocument,
    private readonly program: Program,
  ) {
    const takes = program.eyes.map(({ sensor }) => takeName(sensor)).join(", ");
    const blobs = program.eyes.some(({ sensor }) => isCamera(sensor)) ? "blobs" : "blobs: []";
    const body = `${source.replace(/^export /gm, "").replaceAll("import.meta.url", '""')}
return { startMoment, endMoment, press, listen, labelOf, seen, ${blobs}, takes: [${takes}] };`;
    this.acts = new Function("process", body)(undefined) as Acts;
    this.acts.listen(
      (line) => this.told.push(JSON.stringify(line)),
      (...noted) => this.noted.push(heard(noted)),
    );
    this.cameras = program.eyes.flatMap(({ sensor }, i) => (isCamera(sensor) ? [i] : []));
  }

  /** Lets the file live through a moment. What it tells is given back. */
  moment(t: number, { readings, travel, pressed = [], blobs = [] }: EngineInput): string[] {
    const { acts, project, program } = this;
    this.told = [];
    this.noted = [];
    project.robot.buttons.forEach((button, i) => {
      if (pressed.includes(button) !== this.held.includes(button)) acts.press(i, pressed.includes(button));
    });
    this.held = [...pressed];
    acts.startMoment(t, travel.left, travel.right);
    for (const { eye, raw } of readings) acts.takes[eye](...raw);
    for (const frame of blobs) {
      const first = program.eyes.length + this.cameras.indexOf(frame.eye) * program.targets.length;
      program.targets.forEach((target, k) => {
        fieldsOf(frame.blobs.get(target)).forEach((value, i, all) => {
          acts.blobs[(first + k) * all.length + i] = value;
        });
      });
      acts.takes[frame.eye]();
    }
    acts.endMoment();
    return this.told;
  }

  /** Compares what is noted and seen after a moment. */
  compare(state: EngineState, notes: readonly Note[]): void {
    if (this.other !== null) return;
    const { acts, cameras, program } = this;
    // A piece leaves the belt: the world tells that, no engine.
    const own = notes.flatMap((note) => (note.kind === "piece" ? [] : [notedAs(note)]));
    this.hold("notes", JSON.stringify(this.noted), JSON.stringify(own));
    const seen = (i: number) => (cameras.includes(i) ? 0 : state.seenBy(i));
    this.hold(
      "labels and seen",
      JSON.stringify(program.eyes.map((_, i) => [acts.labelOf[i], acts.seen[i]])),
      JSON.stringify(program.eyes.map((_, i) => [state.labelOf(i), seen(i)])),
    );
  }

  hold(what: string, file: string, core: string): void {
    if (file !== core) this.other ??= { file: `${what} ${file}`, core };
  }
}

const toldBy = (commands: readonly Command[]) => commands.map((command) => JSON.stringify(lineOf(command)));

/**
 * Runs a behaviour's file in JavaScript over every tape of the robot's sensors, as if the wheels went as they are told, and
 * through a run, and compares labels, what is seen, commands and notes with the core's.
 */
export function behaviourProof(
  source: string,
  project: ProjectDocument,
  readings: ReadonlyMap<string, RawReadings>,
  choice: RunChoice | null,
): BehaviourProof {
  const program = programOf(project);
  const proof: BehaviourProof = { tapes: 0, readings: 0, course: null, commands: 0, notes: 0, other: null };
  for (const tape of project.tapes) {
    const raw = readings.get(tape.id);
    const eye = program.eyes.findIndex(({ id }) => id === tape.sensor);
    if (raw === undefined || eye < 0 || isCamera(program.eyes[eye].sensor)) continue;
    const beside = new Beside(source, project, program);
    const columns = REPORT_KINDS.get(program.eyes[eye].sensor.reports).channels.map((name) => raw.channels[name]);
    const travel = { left: 0, right: 0 };
    const speed = { left: 0, right: 0 };
    const state = startState(program);
    for (let i = 0; i < raw.t.length; i++) {
      const dt = i === 0 ? raw.t[0] : raw.t[i] - raw.t[i - 1];
      travel.left += i === 0 ? 0 : (speed.left * program.topSpeed * dt) / 1000;
      travel.right += i === 0 ? 0 : (speed.right * program.topSpeed * dt) / 1000;
      const input = { readings: [{ eye, raw: columns.map((column) => column?.[i] ?? Number.NaN) }], travel };
      const moment = advance(state, input, dt);
      const told = beside.moment(state.t, input);
      beside.hold("commands", JSON.stringify(told), JSON.stringify(toldBy(moment.commands)));
      beside.compare(state, moment.notes);
      proof.commands += moment.commands.length;
      proof.notes += moment.notes.length;
      if (beside.other !== null) {
        proof.other ??= { where: `at reading ${i + 1} of ${tape.name}`, ...beside.other };
        break;
      }
      for (const command of moment.commands) Object.assign(speed, wheelSpeeds(command));
    }
    proof.tapes++;
    proof.readings += raw.t.length;
  }
  if (choice !== null) proveRun(source, project, program, choice, proof);
  return proof;
}

function proveRun(
  source: string,
  project: ProjectDocument,
  program: Program,
  choice: RunChoice,
  proof: BehaviourProof,
): void {
  const beside = new Beside(source, project, program);
  const told: { t: number; line: string }[] = [];
  let differsAt = 0;
  const trace = run(project, choice, (_, state, notes, pressed, input) => {
    if (beside.other !== null) return;
    for (const line of beside.moment(state.t, { ...input, pressed })) told.push({ t: state.t, line });
    beside.compare(state, notes);
    differsAt = state.t;
    proof.notes += notes.length;
  });
  if (beside.other === null) {
    const wanted = trace.outputs.map(({ t, command }) => ({ t, line: JSON.stringify(lineOf(command)) }));
    const other = wanted.findIndex(({ t, line }, i) => told[i]?.t !== t || told[i]?.line !== line);
    if (other >= 0 || told.length > wanted.length) {
      const at = other >= 0 ? other : wanted.length;
      differsAt = wanted[at]?.t ?? told[at].t;
      beside.hold("commands", told[at]?.line ?? "nothing", wanted[at]?.line ?? "nothing");
    }
  }
  proof.course = trace.course.name;
  proof.commands += trace.outputs.length;
  if (beside.other !== null)
    proof.other ??= { where: `at ${differsAt} ms of the run on ${trace.course.name}`, ...beside.other };
}
