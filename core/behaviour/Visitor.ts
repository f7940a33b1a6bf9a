/** What of a project something may name. */
export type NameKind =
  | "target"
  | "sensor"
  | "mode"
  | "lamp"
  | "counter"
  | "list"
  | "routine"
  | "button"
  | "servo"
  | "gate"
  | "crate"
  | "zone"
  | "light"
  | "rule set";

/**
 * Is shown every name that a condition, trigger, step or check holds, with the key that it stands under, and gives what
 * shall stand there: the same to look at names, another to rename.
 */
export type NameVisitor = <T extends string>(kind: NameKind, id: T, key: string) => T;

/** A sensor's name where one stands. */
export const visitedSensor = <S extends string>(sensor: S | undefined, visit: NameVisitor): { sensor?: S } =>
  sensor === undefined ? {} : { sensor: visit("sensor", sensor, "sensor") };
