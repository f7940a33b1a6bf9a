import type * as z from "zod";
import type { SensorId, TargetId } from "../../names";
import type { PhraseReader } from "../../phrases";
import type { Condition, Moment, NameOf, Sought } from "../conditions";
import type { Judge, Row, RowMaker } from "../rowKinds";
import type { NameVisitor } from "../Visitor";

/** A look at where a behaviour stands right after a moment, for who asks why a response runs or does not. */
export interface Look extends Moment {
  readonly t: number;
  readonly modeSince: number;
  /** Tells whether a condition holds. */
  holds(condition: Condition): boolean;
  /** Gives when a sensor last saw anything known, in ms; −Infinity for never. */
  knownAt(sensor?: SensorId): number;
  /** Tells whether one of some targets departed with this moment. */
  departed(targets: readonly TargetId[], sensor?: SensorId): boolean;
}

/** Something that a trigger needs, to be looked at moment by moment: how it is said, and how it stands. */
export interface Need {
  text: string;
  holds(scene: Look): boolean;
  value?(scene: Look): string;
  short?(scene: Look): string;
}

/** A target that a trigger answers, with the sensor that sees it where one is named. */
export interface FiredBy {
  target: TargetId;
  sensor?: SensorId | undefined;
}

/** One kind of trigger, whole: how it is kept, written and judged, and what others need to know of it. */
export interface TriggerKind<T extends object = object> {
  /** The property by which its objects are known. */
  key: string;
  schema: z.ZodType<T>;
  /**
   * Gives a number that names the occasion (a visit, a silence) while it holds, and NaN while it does not: a response that
   * fires once a visit has had its turn once it knows the number. What made it hold is told in `byEye` and `byLabel`.
   */
  judge: Judge;
  /** Fires only at the moment at which it begins to hold. */
  onEdge: boolean;
  /** Has a new occasion each time it has ceased to hold. */
  renews?: true;
  /** A time that has come: it waits while another response runs, until it can be answered or no longer holds. */
  staysDue?: true;
  /** Holds only at the moment of an arrival or a departure. */
  byEvents?: true;
  /** The row that it is for a machine. */
  row(trigger: T, to: RowMaker): Row;
  /** Reads its phrase if it opens with a word of its own. */
  parse?(reader: PhraseReader): T | undefined;
  /** The words that stand behind targets, as they are read, and what comes of them. */
  afterTargets?: { words: readonly (readonly string[])[]; make(targets: TargetId[]): T };
  /** Phrases with places to fill in, for the menu of what can happen; see those of steps. */
  templates: readonly string[];
  /** The canonical phrase. */
  print(trigger: T): string;
  /** In plain words, as a sentence begins; `eye` is the sensor's name where one stands. */
  tell(trigger: T, name: NameOf, eye?: string): string;
  /** The same with every name as the visitor gives it. */
  named(trigger: T, visit: NameVisitor): T;
  /** The targets that it is about, where it is about any. */
  targets?(trigger: T): readonly TargetId[];
  /** The same about another target. */
  about?(trigger: T, target: TargetId): T;
  /** The targets that it answers when they come or are there, with the sensors that see them. */
  answers?(trigger: T): readonly Sought[];
  /** Whether it may hold without anything that comes along: by time, a count, or what is read. */
  comesByItself?: true;
  /** Whether it needs that nothing known is seen. */
  needsSilence?: true;
  /** Whether it is something to do where nothing is seen. */
  isOtherwise?: true;
  /** When it becomes due by time alone: so long after the mode began, or after anything known was seen. */
  timer?(trigger: T): { ms: number; silence: boolean };
  /** Whether its occasions are visits of the sensor that it names. */
  byVisits?: true;
  /** Whether it holds as long as one of its targets is seen. */
  whileSeen?: true;
  /** The condition that it goes by. */
  condition?(trigger: T): Condition;
  /** What it needs, for a person who asks why a response did not run. */
  needs(trigger: T): Need[];
}
