import { LANGUAGES, writeBehaviour, writeRules } from "@perceptum/core/code";
import { splitProject } from "@perceptum/core/project";
import { chooseSensor, InputError, openProject } from "./input";
import { writeTo } from "./run";

/** Code for the robot: rules and behaviour, or only the rules, of all sensors or of those that are named; to standard output, or a file. */
export function exportCommand(
  projectFile: string,
  options: { to: string; out?: string; sensor: string[]; rulesOnly?: boolean },
): string {
  const language = LANGUAGES.find((l) => l.key === options.to);
  if (language === undefined)
    throw new InputError(`“${options.to}” cannot be written; there is ${LANGUAGES.map((l) => l.key).join(", ")}`);
  const { document } = splitProject(openProject(projectFile));
  const chosen = options.sensor.map((name) => chooseSensor(document, name));
  const text =
    options.rulesOnly || chosen.length > 0
      ? writeRules(language, document, chosen.length > 0 ? chosen : document.sensors)
      : writeBehaviour(language, document);
  if (options.out === undefined || options.out === "-") return text;
  writeTo(options.out, text);
  return "";
}
