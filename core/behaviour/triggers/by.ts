import type { SensorId } from "../../names";

/** A sensor before a trigger, as it is written. */
export const by = (sensor: SensorId | undefined): string => (sensor === undefined ? "" : `${sensor}: `);
