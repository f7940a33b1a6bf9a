import {
  advance,
  type Command,
  type EngineInput,
  type EngineState,
  idleBefore,
  LineTime,
  lived,
  MOST_GAP_MS,
  type Note,
  openMoment,
  type Program,
  reachedBy,
  startState,
  timeOfLine,
} from "../behaviour";
import type { TargetId } from "../names";
import { isCamera } from "../readings";
import { type Blob, measured } from "../vision";
import { programOf, type Simulated } from "../world";
import { LineReader, listensOf } from "./LineReader";
import type { Link, LiveCounts } from "./link";
import { LineSplitter, lineOf, PROTOCOL_VERSION, type RobotLine, type ToRobotLine } from "./protocol";

/** What came of a moment: what the robot is told, and what happened; `t` in ms since the first line with a time. */
export interface LiveMoment {
  t: number;
  commands: readonly Command[];
  notes: readonly Note[];
}

/** Time is carried on so much more behind, in ms, than lines were late: they come a little sooner or later than they were said. */
const SLACK_MS = 50;
/** Readings that come in batches come later than that: time is carried on as much behind as they need, at most this. */
const MOST_SLACK_MS = 2000;
/** What of a project a robot's lines are answered by. */
export type Driven = Omit<Simulated, "lights" | "courses"> & { links?: readonly Link[] | undefined };

type Says = Exclude<RobotLine, { hello: string }>;

/** What belongs to a moment that is not over yet. */
interface Open {
  readings: { eye: number; raw: number[] }[];
  blobs: { eye: number; blobs: ReadonlyMap<TargetId, Blob> }[];
  /** How far the wheels have gone, and the buttons: what was before counts until this moment. */
  travel?: readonly [left: number, right: number];
  presses: Extract<Says, { button: string }>[];
}

/**
 * A project's behaviour behind the lines of a robot: what is read, steadied, answered and commanded is what a run would.
 * Lines of one time belong to one moment, which is over with the first line of another time, or with `settle`.
 */
export class LiveRobot {
  readonly counts: LiveCounts = { lines: 0, readings: 0, refused: 0, beyond: 0, jumps: 0 };
  private program: Program;
  private readonly state: EngineState;
  private readonly time = new LineTime();
  private open: Open | null = null;
  /** What is wrong with the robot itself, since it said hello. */
  private stranger: string | null = null;
  /** The time of the last line. */
  private lineAt = 0;
  /** The robot waits for each answer: its time stands still meanwhile, however long that takes. */
  private asks = false;
  private readonly travel = { left: 0, right: 0 };
  private readonly pressed = new Set<string>();
  private reader: LineReader;
  private readonly lastAt: number[];
  private readonly splitter: LineSplitter;

  /**
   * @param told hears of each moment in which something is commanded or happens
   * @param answer hears what the robot is told of lines that cannot be taken
   */
  constructor(
    project: Driven,
    private readonly told: (moment: LiveMoment) => void,
    private readonly answer: (line: ToRobotLine) => void,
  ) {
    this.program = programOf(project);
    this.state = startState(this.program);
    this.reader = new LineReader(listensOf(project));
    this.lastAt = this.program.eyes.map(() => Number.NEGATIVE_INFINITY);
    this.splitter = new LineSplitter((line, number) => this.takeLine(line, number));
  }

  /** Goes by other rules from the next reading on; behaviour, robot and sensors must be the same. */
  change(project: Driven): void {
    this.program = programOf(project);
    this.state.goBy(this.program);
    this.reader = new LineReader(listensOf(project));
  }

  /** Whether the behaviour has ended. */
  get finished(): boolean {
    return this.state.finished;
  }

  /** Takes in a part of what the robot sends; `now` is the time of arrival in ms, for lines without a time of their own. */
  feed(text: string, now?: number): void {
    this.now = now;
    this.splitter.feed(text);
  }
  private now: number | undefined;

  /** Nothing more comes: what stands behind the last line's end counts, and the last moment is over. */
  end(): void {
    this.splitter.end();
    this.settle();
  }

  private refuse(error: string, line: number): void {
    this.counts.refused++;
    this.answer({ error, line });
  }

  private takeLine(line: string | null, number: number): void {
    this.counts.lines++;
    const read = this.reader.read(line);
    if ("error" in read) {
      this.refuse(this.stranger ?? read.error, number);
      return;
    }
    const { message, beyond } = read;
    if ("hello" in message) {
      const { version } = message;
      this.asks = false;
      const is = `the robot speaks version ${version}; this program speaks version ${PROTOCOL_VERSION}`;
      this.stranger = version === PROTOCOL_VERSION ? null : `${is}: nothing of it is taken`;
      if (this.stranger !== null) this.refuse(this.stranger, number);
      return;
    }
    const wrong = this.stranger ?? this.wrongReading(message);
    if (wrong === undefined) {
      if (beyond !== undefined) this.counts.beyond++;
      this.take(message);
    } else this.refuse(wrong, number);
  }

  /** Says why a reading that can be read is refused; undefined for one that is taken. */
  private wrongReading(message: Says): string | undefined {
    if (!("s" in message)) return undefined;
    if (this.eyeOf(message.s) < 0) {
      const mounted = this.program.eyes.map(({ id }) => id).join(", ");
      return `${message.s} is not on the robot of the project; it has ${mounted}`;
    }
    if (!("blobs" in message)) return undefined;
    const other = Object.keys(message.blobs).find((id) => !this.program.targets.some((target) => target === id));
    return other === undefined ? undefined : `the project has no target ${other}`;
  }

  /** Finds the robot's sensor that a name means; −1 for none. */
  private eyeOf(name: string): number {
    const id = this.reader.sensorOf(name);
    return this.program.eyes.findIndex((eye) => eye.id === id);
  }

  private take(message: Says): void {
    const t = this.timeOf(message);
    this.lineAt = t;
    if (this.time.openMs !== t) this.settle();
    let open = this.begin(t);
    if ("s" in message) {
      const eye = this.eyeOf(message.s);
      // One moment brings one reading of a sensor.
      if ([...open.readings, ...open.blobs].some((known) => known.eye === eye)) {
        this.settle();
        open = this.begin(t);
      }
      if ("blobs" in message) open.blobs.push({ eye, blobs: this.blobsOf(eye, message.blobs) });
      else open.readings.push({ eye, raw: message.v });
      this.lastAt[eye] = t;
      this.counts.readings++;
    } else if ("ask" in message) {
      this.asks = true;
      this.settle();
      this.answer({ done: message.ask, ...(this.finished && { finished: true }) });
    } else if ("e" in message) open.travel = message.e;
    else open.presses.push(message);
  }

  /** The lines of a moment begin, if they have not. */
  private begin(t: number): Open {
    this.open ??= { readings: [], blobs: [], presses: [] };
    openMoment(this.time, t);
    return this.open;
  }

  /** The largest blobs that a camera found by itself; an area of 0 is none. */
  private blobsOf(eye: number, found: Extract<RobotLine, { blobs: unknown }>["blobs"]): ReadonlyMap<TargetId, Blob> {
    const { sensor } = this.program.eyes[eye];
    return new Map(
      Object.entries(found).flatMap(([target, [left, top, width, height, area]]): [TargetId, Blob][] =>
        area > 0 && isCamera(sensor)
          ? [[target as TargetId, measured({ left, top, width, height, area }, sensor)]]
          : [],
      ),
    );
  }

  /** The time of a line in the engine's ms. A clock that goes back, or that leaps on, is taken anew from there. */
  private timeOf(message: Says): number {
    const { time } = this;
    const clock = message.t ?? this.now ?? this.guessed(message);
    const { clockZero, jumps } = time;
    const t = timeOfLine(time, clock);
    if (time.jumps === jumps) return t;
    // Its clock went on: time was carried on ahead of it. From now on what is on its way is waited for.
    const said = clock - clockZero;
    const late = t - said;
    if (late > 0 && late <= MOST_SLACK_MS && said >= this.lineAt) time.slackMs = late + SLACK_MS;
    else this.counts.jumps++;
    return t;
  }

  /** Where neither the robot nor the line says a time, a sensor's readings come one period apart. */
  private guessed(message: Says): number {
    const zero = Number.isNaN(this.time.clockZero) ? 0 : this.time.clockZero;
    if (!("s" in message)) return zero + reachedBy(this.time);
    const eye = this.eyeOf(message.s);
    const last = this.lastAt[eye];
    return zero + (Number.isFinite(last) ? last + this.program.eyes[eye].sensor.periodMs : 0);
  }

  /** The moment whose lines came is over. */
  settle(): void {
    const { open } = this;
    const t = this.time.openMs;
    if (open === null) return;
    this.open = null;
    this.carryOn(t, false);
    if (open.travel !== undefined) [this.travel.left, this.travel.right] = open.travel;
    for (const { button, down } of open.presses) {
      if (down) this.pressed.add(button);
      else this.pressed.delete(button);
    }
    this.advance(t, open.readings, open.blobs);
  }

  /** Carries time on though nothing came for so many ms: what ends by time ends. */
  passTime(ms: number): void {
    this.settle();
    const { clockZero, slackMs } = this.time;
    if (!Number.isNaN(clockZero) && !this.asks && ms <= MOST_GAP_MS) this.carryOn(this.lineAt + ms - slackMs, true);
  }

  private carryOn(to: number, isIncluded: boolean): void {
    for (;;) {
      const t = idleBefore(this.time, to, isIncluded);
      if (Number.isNaN(t)) return;
      this.advance(t, NO_READINGS);
    }
  }

  private advance(t: number, readings: EngineInput["readings"], blobs: Open["blobs"] = []): void {
    const { travel, pressed } = this;
    const input: EngineInput = {
      readings,
      travel: { left: travel.left, right: travel.right },
      ...(pressed.size > 0 && { pressed: [...pressed] }),
      ...(blobs.length > 0 && { blobs }),
    };
    const moment = advance(this.state, input, Math.max(0, t - Math.max(0, this.time.livedMs)));
    lived(this.time, t);
    if (moment.commands.length > 0 || moment.notes.length > 0)
      this.told({ t, commands: moment.commands, notes: moment.notes });
  }
}

const NO_READINGS: EngineInput["readings"] = [];

/** What the robot is told in a moment, as lines. */
export const linesOf = ({ commands }: LiveMoment): string[] =>
  commands.map((command) => JSON.stringify(lineOf(command)));
