import { type Program, prepareProgram } from "../behaviour";
import { machineOf } from "./robots";
import type { Simulated } from "./Simulated";

/** The behaviour of a project made ready for its robot. */
export const programOf = (project: Omit<Simulated, "lights" | "courses">): Program =>
  prepareProgram(project, machineOf(project.robot));
