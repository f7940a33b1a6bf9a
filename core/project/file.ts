import type * as z from "zod";
import { jsonErrorAt } from "./jsonErrorAt";
import { Project } from "./schema";

/** The largest project file that is read, in bytes. */
export const MAX_PROJECT_BYTES = 50 * 1024 * 1024;

/** What is wrong with a file: one sentence, and the place. */
export interface FileProblem {
  message: string;
  /** Where: a line and column, or a path like `ruleSets[0].rules[2].target`. */
  place: string;
}

/**
 * Reads a project file. Nothing of a file with a problem is used.
 */
export function readProject(text: string): { project: Project } | { problem: FileProblem } {
  if (text.length > MAX_PROJECT_BYTES) {
    return {
      problem: {
        message: `the file has ${Math.round(text.length / 1_048_576)} MB; at most 50 MB are read`,
        place: "the whole file",
      },
    };
  }
  if (text.trim() === "") return { problem: { message: "the file is empty", place: "line 1" } };
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return { problem: jsonProblem(text) };
  }
  const head = value as { format?: unknown; version?: unknown } | null;
  if (typeof head !== "object" || head === null || head.format !== "perceptum-project") {
    return {
      problem: { message: "this is not a project file: it has no format “perceptum-project”", place: "format" },
    };
  }
  if (typeof head.version === "number" && head.version > 1) {
    return {
      problem: { message: `the file is of version ${head.version}; this program reads version 1`, place: "version" },
    };
  }
  const parsed = Project.safeParse(value);
  return parsed.success ? { project: parsed.data } : { problem: zodProblem(parsed.error) };
}

/** A project as the text of a project file: the document readable, each column of readings on a line of its own. */
export function writeProject(project: Project): string {
  const columns: string[] = [];
  const text = JSON.stringify(
    project,
    (_, value) => {
      if (!Array.isArray(value) || value.length < 4 || typeof value[0] !== "number") return value;
      columns.push(JSON.stringify(value));
      return `column ${columns.length - 1} of numbers`;
    },
    2,
  );
  return `${text.replace(/"column (\d+) of numbers"/g, (_, i) => columns[Number(i)])}\n`;
}

function jsonProblem(text: string): FileProblem {
  const at = jsonErrorAt(text);
  const before = text.slice(0, at).split("\n");
  const place = `line ${before.length}, column ${before[before.length - 1].length + 1}`;
  if (at >= text.trimEnd().length || /^"[^"]*$/.test(text.slice(at)))
    return { message: "the file ends in the middle of something: it was probably cut off", place };
  return { message: `the file is not JSON: ${JSON.stringify(text.slice(at, at + 12))} is not expected here`, place };
}

/** The first thing wrong with a parsed value, as a sentence with its path. */
export function zodProblem(error: z.ZodError): FileProblem {
  const { message, path } = deepest(error.issues[0]);
  return { message, place: pathText(path) || "the whole file" };
}

type Issue = z.core.$ZodIssue;

/** Inside a union, the issue of the branch that came farthest is the one that helps. */
function deepest(issue: Issue): { message: string; path: PropertyKey[] } {
  if (issue.code === "invalid_union" && issue.errors.length > 0) {
    const branches = issue.errors
      .filter((branch) => branch.length > 0)
      .map((branch) => ({
        first: deepest(branch[0]),
        length: branch.length,
        wrongKind: branch.some((i) => i.code === "invalid_value" && i.path.length === 1),
      }));
    branches.sort(
      (a, b) =>
        Number(a.wrongKind) - Number(b.wrongKind) || b.first.path.length - a.first.path.length || a.length - b.length,
    );
    if (branches.length > 0)
      return { message: branches[0].first.message, path: [...issue.path, ...branches[0].first.path] };
  }
  return { message: issue.message, path: [...issue.path] };
}

/** `["rules", 2, "target"]` as `rules[2].target`. */
export function pathText(path: readonly PropertyKey[]): string {
  return path.map((key, i) => (typeof key === "number" ? `[${key}]` : `${i === 0 ? "" : "."}${String(key)}`)).join("");
}
