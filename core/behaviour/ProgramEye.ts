import type { SensorId } from "../names";
import type { Features, Raw, Sensor } from "../readings";
import type { RuleSet } from "../rules";

/** A sensor of the robot with the rules by which it sees. */
export interface ProgramEye {
  id: SensorId;
  sensor: Sensor;
  ruleSet: RuleSet;
  /** One raw reading to its features. */
  read(raw: Raw): Features;
  /** The label of a reading: its target's place among the program's targets from 1, 0 for unknown. */
  labelOf(features: Features): number;
}
