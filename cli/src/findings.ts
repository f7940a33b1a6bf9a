import { type Finding, findProven } from "@perceptum/core/findings";
import { factsOf, openTaught } from "./frames";

/** What will go wrong, the gravest first, and what was put aside. Exit code 1 if one that was not is an error. */
export function findingsCommand(projectFile: string, { json = false } = {}): { text: string; code: number } {
  const opened = openTaught(projectFile);
  const findings = findProven(opened.taught.project, opened.taught.readings, factsOf(opened));
  const code = findings.some((f) => f.level === "error" && !f.aside) ? 1 : 0;
  if (json) return { text: `${JSON.stringify(findings, null, 2)}\n`, code };
  if (findings.length === 0) return { text: "No findings.\n", code };
  const line = ({ aside, level, code, title, sentence, fix }: Finding) =>
    `${aside ? "aside" : level}  ${code}: ${title}. ${sentence}${fix === undefined ? "" : ` [${fix.label}]`}\n`;
  return { text: findings.map(line).join(""), code };
}
