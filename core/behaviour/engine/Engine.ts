import type { int, num } from "../../arithmetic";
import type { Features } from "../../readings";
import type { Steadying } from "../../rules";
import type { Rows } from "./rows";

/** A list holds no more than this. */
export const MOST_JOTTED = 1000;
/** Pieces under way to their gates. */
export const MOST_SENT = 100;
/** More steps than this in one moment can only be a circle. */
export const MOST_STEPS = 10_000;
/** Cells of a target's largest blob: area, width, height, x, y, error, half the frame's width; an area of 0 is none. */
export const BLOB_CELLS = 7;
/** The places of some of them. */
export const BLOB_X = 3;
export const BLOB_ERROR = 5;
export const BLOB_HALF_FRAME = 6;
/** Wheels are at rest once their encoders have counted nothing for so long, in ms. */
export const STILL_MS = 100;
/** Encoders count whole degrees of a wheel. */
export const ENCODER_STEPS = 360;
/** A belt whose speed nobody regulates may run faster than it was told: a gate begins so much sooner. */
export const GATE_RESERVE = 1.1;

/** The robot as the engine knows it: here it notes what happens; each output adds the method that tells the robot (`outputs/`). */
export interface RobotSide {
  log(words: string): void;
  /** Something happened; see `NOTE_…`. */
  note(kind: int, a: int, b: int, c: int, x: num): void;
}

/** Numbers of what is noted, each with the meaning of a, b and c. */
export const NOTE_ARRIVES = 1; // sensor, label
export const NOTE_DEPARTS = 2; // sensor, label
export const NOTE_FIRES = 3; // response, sensor, label; a label of 0: nothing seen made it fire
export const NOTE_DROPPED = 4; // response
export const NOTE_STEP = 5; // place of its row
export const NOTE_ENDED = 6; // response; −1 for the mode's own steps
export const NOTE_MODE = 7; // mode
export const NOTE_COUNTER = 8; // counter; x is its value
export const NOTE_LIST = 9; // list, label, how many it holds
export const NOTE_GATE = 10; // gate, whether it opens, response; x is when that fired
export const NOTE_FINISH = 11;
export const NOTE_TROUBLE = 12; // which, and what it is about

/** Numbers of what goes wrong while a behaviour runs, each with the meaning of b and c. */
export const TROUBLE_CIRCLE = 0;
export const TROUBLE_NESTED = 1;
export const TROUBLE_CANNOT = 2;
export const TROUBLE_BESIDES = 3;
export const TROUBLE_NOTHING_FIRED = 4; // list
export const TROUBLE_FULL = 5; // list
export const TROUBLE_NO_ANSWER = 6; // mode and list; x is the label
export const TROUBLE_NO_PIECE = 7; // crate
export const TROUBLE_NO_GATE = 8; // crate
export const TROUBLE_SENT = 9;
export const TROUBLE_PARTS = 10;

/** Functions of a kind of step; each is given the place of a row. */
export interface StepActs {
  begin: ((e: Engine, at: int) => void) | null;
  during: ((e: Engine, at: int) => void) | null;
  /** Missing where it ends at once. */
  ended: ((e: Engine, at: int) => boolean) | null;
  end: ((e: Engine, at: int) => void) | null;
  /** True where it goes on beside the steps that follow, until something else takes its output. */
  isEndless: boolean;
}

/** Gives the number of a trigger's occasion, or NaN where it does not hold. */
export type TriggerAct = (e: Engine, at: int) => num;
/** Tells whether a condition holds; what is made of others asks the stack. */
export type ConditionAct = (e: Engine, at: int) => boolean;

/** The functions of each kind of row, by its number. */
export interface KindRows {
  readonly steps: readonly StepActs[];
  readonly triggers: readonly TriggerAct[];
  readonly conditions: readonly ConditionAct[];
}

/** The state of a behaviour: one for a run. Every moment changes it in place. */
export class Engine {
  // A number that has a fraction at first is kept as one by every engine.
  now: num = 0.5;
  isAsleep = false;
  hasStarted = false;
  hasFinished = false;
  modeNow: int = 0;
  modeSince: num = 0.5;
  /** The way of each wheel, in mm. */
  wayLeft: num = 0.5;
  wayRight: num = 0.5;
  /** True where the moment brings something new. */
  brings = false;
  /** The features of each sensor's newest reading. */
  readonly features: (Features | null)[];
  readonly labelOf: Int32Array;
  readonly knownAt: Float64Array;
  /** The last visit of each place whose departure was told. */
  readonly departureTold: Int32Array;
  steadying: Steadying;
  readonly frameCame: Int32Array;
  readonly blobs: Float64Array;
  readonly pressed: Int32Array;
  arrivals: int = 0;
  readonly arrivalEye: Int32Array;
  readonly arrivalLabel: Int32Array;
  departures: int = 0;
  readonly departureEye: Int32Array;
  readonly departureLabel: Int32Array;
  readonly departureVisit: Int32Array;
  /** The sensor and the target that made a trigger hold; a label of 0 is nothing seen. */
  byEye: int = 0;
  byLabel: int = 0;
  readonly armKnown: Int32Array;
  readonly armHeld: Int32Array;
  readonly armSpent: Float64Array;
  readonly armReady: Float64Array;
  /** True while steps are in progress, with the response that they are of; −1 for those of the mode. */
  isActive = false;
  response: int = -1;
  hasBegun = false;
  begunAt: num = 0.5;
  begunLeft: num = 0.5;
  begunRight: num = 0.5;
  begunMs: num = 0.5;
  /** The same of the step that acts now, which may be one beside the others. */
  sinceAt: num = 0.5;
  sinceLeft: num = 0.5;
  sinceRight: num = 0.5;
  sinceMs: num = 0.5;
  nextMode: int = -1;
  /** Steps in progress: those of a routine stand above the ones that did it. */
  depth: int = 0;
  readonly frameAt: Int32Array;
  readonly frameFirst: Int32Array;
  readonly frameAgain: Int32Array;
  readonly frameTarget: Int32Array;
  /** A replay's list, from which of its targets to which it goes, and the mode that answers; −1 for none. */
  readonly frameList: Int32Array;
  readonly frameNext: Int32Array;
  readonly frameEnd: Int32Array;
  readonly frameMode: Int32Array;
  /** The piece that fired: by which sensor (−1 for none), how far the belt had gone with its first reading, and when it fired. */
  readonly frameEye: Int32Array;
  readonly frameWay: Float64Array;
  readonly frameFired: Float64Array;
  /** The steps that the step that just began puts before those that follow: 0 none, 1 a routine, 2 a replay. */
  pushes: int = 0;
  pushedAt: int = 0;
  pushedAgain: int = 0;
  pushedList: int = 0;
  pushedMode: int = 0;
  /** Steps that run beside the others; `actor` is the one that acts now, −1 for the activity's own. */
  besides: int = 0;
  actor: int = -1;
  readonly besideAt: Int32Array;
  readonly besideOutput: Int32Array;
  readonly besideSince: Float64Array;
  readonly besideLeft: Float64Array;
  readonly besideRight: Float64Array;
  readonly besideMs: Float64Array;
  readonly counters: Float64Array;
  readonly listLength: Int32Array;
  readonly lists: Int32Array;
  /** The speeds that the wheels were last told. */
  wheelsTold = false;
  wheelsLeft: num = 0.5;
  wheelsRight: num = 0.5;
  readonly servoAt: Float64Array;
  /** The wheels' counts when they last turned, and when that was. */
  turnedLeft: num = 0.5;
  turnedRight: num = 0.5;
  turnedAt: num = 0.5;
  /** The belt's way at each reading that steadying remembers, at the first of the visit that arrived last, and at the first of the one before. */
  readonly ways: Float64Array;
  readonly visitWay: Float64Array;
  readonly lastWay: Float64Array;
  readonly gateOpen: Int32Array;
  sent: int = 0;
  readonly sentGate = new Int32Array(MOST_SENT);
  readonly sentOpenAt = new Float64Array(MOST_SENT);
  readonly sentCloseAt = new Float64Array(MOST_SENT);
  readonly sentOpened = new Int32Array(MOST_SENT);
  readonly sentBy = new Int32Array(MOST_SENT);
  readonly sentFired = new Float64Array(MOST_SENT);
  /** Truths that wait while a condition is asked. */
  waiting: int = 0;
  readonly truths: int[] = [];

  constructor(
    public p: Rows,
    readonly kinds: KindRows,
    readonly robot: RobotSide,
  ) {
    const { machine } = p;
    const { eyes } = machine;
    const places = p.steadying.seen.length;
    this.now = this.modeSince = this.wayLeft = this.wayRight = 0;
    this.begunAt = this.begunLeft = this.begunRight = this.begunMs = 0;
    this.sinceAt = this.sinceLeft = this.sinceRight = this.sinceMs = 0;
    this.wheelsLeft = this.wheelsRight = this.turnedLeft = this.turnedRight = 0;
    this.turnedAt = -Infinity;
    this.features = new Array<Features | null>(eyes).fill(null);
    this.labelOf = new Int32Array(eyes);
    this.knownAt = new Float64Array(eyes).fill(-Infinity);
    this.departureTold = new Int32Array(places);
    this.steadying = copyOf(p.steadying);
    this.frameCame = new Int32Array(eyes);
    this.blobs = new Float64Array(places * BLOB_CELLS);
    this.pressed = new Int32Array(machine.buttons);
    this.arrivalEye = new Int32Array(machine.events);
    this.arrivalLabel = new Int32Array(machine.events);
    this.departureEye = new Int32Array(machine.events);
    this.departureLabel = new Int32Array(machine.events);
    this.departureVisit = new Int32Array(machine.events);
    this.armKnown = new Int32Array(p.responses);
    this.armHeld = new Int32Array(p.responses);
    this.armSpent = new Float64Array(p.responses).fill(Number.NaN);
    this.armReady = new Float64Array(p.responses).fill(-Infinity);
    this.frameAt = new Int32Array(machine.mostNested);
    this.frameFirst = new Int32Array(machine.mostNested);
    this.frameAgain = new Int32Array(machine.mostNested);
    this.frameTarget = new Int32Array(machine.mostNested);
    this.frameList = new Int32Array(machine.mostNested);
    this.frameNext = new Int32Array(machine.mostNested);
    this.frameEnd = new Int32Array(machine.mostNested);
    this.frameMode = new Int32Array(machine.mostNested);
    this.frameEye = new Int32Array(machine.mostNested);
    this.frameWay = new Float64Array(machine.mostNested);
    this.frameFired = new Float64Array(machine.mostNested);
    const { besides } = machine;
    this.besideAt = new Int32Array(besides);
    this.besideOutput = new Int32Array(besides);
    this.besideSince = new Float64Array(besides);
    this.besideLeft = new Float64Array(besides);
    this.besideRight = new Float64Array(besides);
    this.besideMs = new Float64Array(besides);
    this.counters = new Float64Array(machine.counters);
    this.listLength = new Int32Array(machine.lists);
    this.lists = new Int32Array(machine.lists * MOST_JOTTED);
    this.servoAt = machine.servoAt.slice();
    this.ways = new Float64Array(places * p.steadying.kept);
    this.visitWay = new Float64Array(eyes);
    this.lastWay = new Float64Array(eyes);
    this.gateOpen = new Int32Array(machine.gates);
  }

  /** Goes by other rules from here on; behaviour, machine and targets must be the same. */
  goBy(p: Rows, kinds: KindRows): void {
    const { kept, recent, recentCount } = this.steadying;
    const now = copyOf({ ...this.steadying, ...settingsOf(p.steadying) });
    const moved = new Int32Array(now.kept * now.seen.length);
    const ways = new Float64Array(moved.length);
    for (let place = 0; place < now.seen.length; place++) {
      const count = Math.min(recentCount[place], Math.max(now.of[place], now.release[place]));
      now.recentCount[place] = count;
      for (let i = 0; i < count; i++) {
        moved[place * now.kept + i] = recent[place * kept + i];
        ways[place * now.kept + i] = this.ways[place * kept + i];
      }
    }
    this.steadying = { ...now, recent: moved };
    Object.assign(this, { p, kinds, ways });
  }
}

const settingsOf = ({ hits, of, release, rejoinMs, kept }: Steadying) => ({ hits, of, release, rejoinMs, kept });

/** The same settings, and a copy of how it stands. */
const copyOf = (s: Steadying): Steadying => ({
  ...s,
  recent: s.recent.slice(),
  recentCount: s.recentCount.slice(),
  seen: s.seen.slice(),
  comes: s.comes.slice(),
  goes: s.goes.slice(),
  visit: s.visit.slice(),
  visited: s.visited.slice(),
  departedAt: s.departedAt.slice(),
});
