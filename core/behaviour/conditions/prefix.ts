import type { SensorId } from "../../names";
import type { NameOf } from "./ConditionKind";

/** A sensor before a condition, as it is written. */
export const prefix = (sensor: SensorId | undefined): string => (sensor === undefined ? "" : `${sensor}: `);

/** A sensor behind a condition, in plain words. */
export const toldBy = (sensor: SensorId | undefined, name: NameOf): string =>
  sensor === undefined ? "" : ` by ${name(sensor)}`;
