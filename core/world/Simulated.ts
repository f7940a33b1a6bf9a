import type { Behaviour } from "../behaviour";
import type { Light, Sensor } from "../readings";
import type { RuleSet, Target } from "../rules";
import type { Course } from "./courses";
import type { Robot } from "./robots";

/** What of a project a simulation needs. */
export interface Simulated {
  sensors: Sensor[];
  lights: Light[];
  targets: Target[];
  ruleSets: RuleSet[];
  behaviour: Behaviour;
  robot: Robot;
  courses: Course[];
}
