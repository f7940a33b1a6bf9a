import type { int, num } from "../../arithmetic";
import type { Features } from "../../readings";
import type { Steadying } from "../../rules";

/*
 * A behaviour as rows of numbers: what each step, trigger and condition is, and with which numbers. A row is its kind,
 * how many cells it has, and its arguments; behind them may stand numbers, conditions or a step of its own.
 */

/** The cell of a row at which its arguments begin. */
export const ARGS = 2;

/** Kinds of rows that are no steps: the end of steps in a row, and the beginning of each part. */
export const END = 0;
export const MODE = -1;
export const ROUTINE = -2;
/** `[WHEN, cells, once a visit, lets finish, rest in ms, then]`; its trigger follows, perhaps a guard, then its steps. */
export const WHEN = -3;
export const ONLY_IF = -4;
export const DONE = -5;

/** Ways on from a response: to no other mode, to the end, or to a mode by its number. */
export const STAYS = -1;
export const FINISHES = -2;

/** Everything that a behaviour goes by and that stays as it is while it runs. */
export class Rows {
  readonly modeAt: Int32Array;
  /** The number of each mode's first response, and at the end how many there are. */
  readonly firstResponse: Int32Array;
  /** Places of each response's own row, its trigger, its guard's conditions (0 for none) and its steps. */
  readonly responseAt: Int32Array;
  readonly triggerAt: Int32Array;
  readonly guardAt: Int32Array;
  readonly stepsAt: Int32Array;
  readonly routineAt: Int32Array;
  /** The kind of each response's trigger. */
  readonly triggerKind: Int32Array;

  constructor(
    readonly rows: Float64Array,
    readonly modes: int,
    readonly responses: int,
    readonly routines: int,
    readonly triggers: TriggerRows,
    readonly machine: MachineRows,
    readonly names: NameRows,
    /** The steadying of each place before anything came. */
    readonly steadying: Steadying,
    /** Gives how clearly features are of a target, by a sensor's rules. */
    readonly clarity: (eye: int, features: Features, label: int) => num,
  ) {
    this.modeAt = new Int32Array(modes);
    this.firstResponse = new Int32Array(modes + 1);
    this.responseAt = new Int32Array(responses);
    this.triggerAt = new Int32Array(responses);
    this.triggerKind = new Int32Array(responses);
    this.guardAt = new Int32Array(responses);
    this.stepsAt = new Int32Array(responses);
    this.routineAt = new Int32Array(routines);
  }
}

/** The ways of each kind of trigger, 1 where it is so: by the kind's number. */
export interface TriggerRows {
  /** It holds only at the moment of an arrival or a departure. */
  readonly byEvents: Int32Array;
  /** It fires only at the moment at which it begins to hold. */
  readonly onEdge: Int32Array;
  /** It has a new occasion each time it has ceased to hold. */
  readonly renews: Int32Array;
  /** It is a time that has come, which waits while another response runs. */
  readonly staysDue: Int32Array;
  /** It answers arrivals: behind its sensor and their number stand its targets. */
  readonly answersArrivals: Int32Array;
}

/** The machine in numbers. */
export interface MachineRows {
  readonly start: int;
  readonly eyes: int;
  /** The most things that may come or go within one moment. */
  readonly events: int;
  readonly targets: int;
  /** The first of the places at which each camera's targets are steadied; −1 for a sensor that is no camera. */
  readonly sightsAt: Int32Array;
  /** True where steps run beside others, put others before those that follow, and replay lists. */
  readonly hasBesides: boolean;
  readonly hasPushes: boolean;
  readonly hasReplays: boolean;
  /** Steps of routines within routines, and of replays within replays, are nested no deeper than this. */
  readonly mostNested: int;
  /** The most steps that run beside each other. */
  readonly besides: int;
  /** The number of its lamps, and of those that are named; servos come behind them among the outputs. */
  readonly ownLamps: int;
  readonly lamps: int;
  readonly servoAt: Float64Array;
  readonly servoFrom: Float64Array;
  readonly servoTo: Float64Array;
  readonly buttons: int;
  readonly counters: int;
  readonly lists: int;
  readonly trackMm: num;
  readonly wheelMm: num;
  readonly topSpeed: num;
  readonly countsTurns: boolean;
  readonly hasBelt: boolean;
  readonly gates: int;
  readonly gateCrate: Int32Array;
  readonly gateAt: Float64Array;
  readonly gateReach: Float64Array;
  readonly gateTravelMs: Float64Array;
  readonly looksAt: Float64Array;
  readonly spotMm: Float64Array;
  readonly periodMs: Float64Array;
}

/** The words that steps say. */
export interface NameRows {
  readonly texts: readonly string[];
  /** The names of unknown and of each target. */
  readonly words: readonly string[];
  /** The names of counters and features as they stand before a figure, and a feature of which none is known. */
  readonly counterNames: readonly string[];
  readonly featureNames: readonly string[];
  readonly unknownNames: readonly string[];
  /** The sign behind each feature's figure: none, ` %` or `°`; 1 for a share, and for one that goes round. */
  readonly units: readonly string[];
  readonly inPercent: Int32Array;
  readonly goesRound: Int32Array;
}
