import type * as z from "zod";
import type { SensorId, TargetId } from "../../names";
import type { PhraseReader } from "../../phrases";
import type { Ask, Row, RowMaker } from "../rowKinds";
import type { NameVisitor } from "../Visitor";
import type { Condition, Moment } from "./condition";

/** The name that people use for an id. */
export type NameOf = (id: string) => string;

/** The sensor that stands before a condition, if one does. */
export type Of = { sensor?: SensorId };

/** Targets that must be seen by a sensor. */
export interface Sought {
  targets: readonly TargetId[];
  sensor?: SensorId | undefined;
}

/** One kind of condition, whole: how it is kept, written and judged, and what others need to know of it. */
export interface ConditionKind<C extends object = object> {
  /** The property by which its objects are known. */
  key: string;
  schema: z.ZodType<C>;
  /** Reads it where it opens with a word or a name of its own; undefined where it does not. */
  parse?(reader: PhraseReader, of: Of): C | undefined;
  /** Reads what follows a target's name; undefined where that is not of this kind. */
  parseAfterTarget?(reader: PhraseReader, target: TargetId, of: Of): C | undefined;
  /** The canonical form. */
  print(condition: C): string;
  /** In plain words; `name` gives the names that people use. */
  tell(condition: C, name: NameOf): string;
  /** Functions that ask its rows, by the rows' names; most kinds have one. */
  asks: Readonly<Record<string, Ask>>;
  /** The rows that it is for a machine: those of its parts first. */
  rows(condition: C, to: RowMaker): readonly Row[];
  /** The same with every name as the visitor gives it. */
  named(condition: C, visit: NameVisitor): C;
  /** The conditions that it is made of. */
  parts?(condition: C): readonly Condition[];
  /** Whether all parts must hold for it to hold. */
  needsAll?: true;
  /** Whether its form is a chain of `or`, or of `and`: within another it stands in brackets then. */
  chain?(condition: C): "or" | "and" | undefined;
  /** Whether it goes by how the wheels turn. */
  byTravel?: true;
  /** Whether it holds just when its part does not. */
  turnsRound?: true;
  /** The targets that it holds for while a sensor sees them. */
  looksFor?(condition: C): Sought;
  /** What it goes by that only steps of the behaviour can change: a counter or a list. */
  changedBySteps?(condition: C): string;
  /** What there is now, with its unit, and by how much it is short of holding. */
  value?(condition: C, moment: Moment): string;
  short?(condition: C, moment: Moment): string;
}
