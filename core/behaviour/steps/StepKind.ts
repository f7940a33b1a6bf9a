import type * as z from "zod";
import type { ModeId } from "../../names";
import type { PhraseReader } from "../../phrases";
import type { Condition, NameOf } from "../conditions";
import type { Ability } from "../Machine";
import type { Acts, Row, RowMaker } from "../rowKinds";
import type { NameVisitor } from "../Visitor";

/** Track and diameter of the driven wheels in mm. */
export interface WheelSizes {
  readonly trackMm: number;
  readonly wheelMm: number;
}

/** Wheel travel in mm since the run began, as the motors' encoders count it. */
export interface WheelTravel {
  left: number;
  right: number;
}

/** The time at which a step began, and where the wheels then were, as far as others go by it. */
export interface Begun {
  t: number;
  travel: WheelTravel;
  /** How long it takes, for a step that knows when it begins. */
  ms?: number;
}

/** The way that a step goes, in mm: of both wheels’ mean, of their difference, or of the one that goes farther. */
export interface TravelGoal {
  of: "both" | "difference" | "farther";
  mm: number;
}

/** Whether the wheels have gone the whole way since they stood at `from`. */
export function hasGone({ of, mm }: TravelGoal, from: WheelTravel, to: WheelTravel): boolean {
  const left = to.left - from.left;
  const right = to.right - from.right;
  if (of === "both") return Math.abs(left + right) / 2 >= mm;
  if (of === "difference") return Math.abs(right - left) >= mm;
  return Math.max(Math.abs(left), Math.abs(right)) >= mm;
}

/** What findings, diagrams and the trying of a step ask of it. Speeds are shares of top speed. */
export interface StepFacts {
  /** The speeds that it gives the left and the right wheel. */
  wheels?: readonly [left: number, right: number];
  /** Whether the wheels turn when it is done. */
  leavesMoving?: boolean;
  /** How fast it goes straight on without an end of its own. */
  straightOn?: number;
  /** How far it goes in mm, where that is said as such. */
  wayMm?: number;
  /** How far it goes as a share of top speed times ms, where it is said by time. */
  wayShareMs?: number;
  /** Whether what it begins goes on when the next step is there. */
  goesOn?: boolean;
  /** Where it leads. */
  leadsTo?: ModeId | "finish";
  /** It says the name of any target that is seen. */
  saysSeen?: boolean;
  /** The counter or list that it changes. */
  changes?: string;
  /** The routine whose steps it does, and the mode whose answers. */
  does?: string;
  replays?: ModeId;
  /** What it waits for, where it does so without end. */
  waitsFor?: Condition;
  /** The servo that it turns, and to which angle. */
  turns?: { servo: string; to: number };
  /** The gate that it opens or closes, and the crate that it sends to. */
  moves?: { gate: string; open: boolean };
  sendsTo?: string;
  /** How long it waits in ms, where it only does that. */
  waitsMs?: number;
  /** The step that it starts beside the others. */
  beside?: { step: string };
}

/**
 * One kind of step, whole: how it is kept, written and carried out. A new kind is one more of these in the table.
 */
export interface StepKind<S extends { step: string }> {
  key: S["step"];
  schema: z.ZodType<S>;
  /** The words that a phrase of this kind starts with. */
  opening: string;
  /**
   * Phrases with places to fill in, for the menu of steps: `{speed 30}` a number, `{side left|right}` a choice,
   * `{targets}` a name of that kind, `{condition}` a condition, `{text at the bay}` and others words.
   */
  templates: readonly string[];
  /** More of them, for a robot that has a camera. */
  cameraTemplates?: readonly string[];
  /** Reads what follows the opening words. */
  parse(reader: PhraseReader): S;
  /** The canonical phrase. */
  print(step: S): string;
  /** What it does in plain words, after “then”; `name` gives the names that people use. */
  tell(step: S, name: NameOf): string;
  /** Functions of its rows, by the rows' names; most kinds have one. */
  acts: Readonly<Record<string, Acts>>;
  /** The row that it is for a machine. */
  row(step: S, to: RowMaker): Row;
  /**
   * When it ends by time alone, in ms; infinite where only what comes in can end it, or the wheels' travel, which `goal`
   * says. A kind without this may end at any moment.
   */
  endsBy?(step: S, begun: Begun): number;
  /** The way at whose end it ends, where it goes by that. */
  goal?(step: S, wheels: WheelSizes): TravelGoal | undefined;
  /** Of a kind with `endsBy`: whether what is read may end it, though the same is seen as before. */
  goesByReadings?(step: S): boolean;
  /** Whether it goes on beside the steps that follow, until something else takes its output. */
  endless?(step: S): boolean;
  /** The same with every name as the visitor gives it; a kind without this names nothing. */
  named?(step: S, visit: NameVisitor): S;
  /** What it needs of the machine; a kind without this any machine can carry out. */
  needs?: Ability;
  /** It says what comes next, so it has nothing to run beside. */
  guides?: true;
  /** What others need to know of it. */
  facts?(step: S): StepFacts;
  /** The same at another speed, if it goes straight on: `to` is given the share of top speed. */
  paced?(step: S, to: (speed: number) => number): S;
  /** The same, but a servo is turned no farther than a range. */
  turnedWithin?(step: S, low: number, high: number): S;
  /** The same, but it waits no longer than so many ms. */
  waitingAtMost?(step: S, ms: number): S;
}

/** Keeps the step's own type inside its entry. */
export function stepKind<S extends { step: string }>(kind: StepKind<S>): StepKind<S> {
  return kind;
}

export type { NameOf } from "../conditions";
