import { findAll } from "@perceptum/core/findings";
import { markedTapes } from "@perceptum/core/teaching";
import { openDocument } from "./input";

/** What will go wrong, the gravest first. Exit code 1 if one is an error. */
export function findingsCommand(projectFile: string, { json = false } = {}): { text: string; code: number } {
  const { document, readings } = openDocument(projectFile);
  const findings = findAll({ project: document, tapes: markedTapes(document, readings) });
  const code = findings.some((f) => f.level === "error") ? 1 : 0;
  if (json) return { text: `${JSON.stringify(findings, null, 2)}\n`, code };
  if (findings.length === 0) return { text: "No findings.\n", code };
  return { text: findings.map((f) => `${f.level}  ${f.code}: ${f.title}. ${f.sentence}\n`).join(""), code };
}
