import { writePython } from "@perceptum/core/code";
import { splitProject } from "@perceptum/core/project";
import { chooseSensor, InputError, openProject } from "./input";
import { writeTo } from "./run";

/** Code for the robot; to standard output, or a file. */
export function exportCommand(projectFile: string, options: { to: string; out?: string; sensor?: string }): string {
  if (options.to !== "python") throw new InputError(`“${options.to}” cannot be written; there is python`);
  const project = openProject(projectFile);
  const text = writePython(splitProject(project).document, chooseSensor(project, options.sensor));
  if (options.out === undefined || options.out === "-") return text;
  writeTo(options.out, text);
  return "";
}
