import type * as z from "zod";
import { MAX_PROJECT_BYTES } from "../names";
import { jsonErrorAt } from "./jsonErrorAt";
import { Project } from "./schema";

/** What is wrong with a file: one sentence, and the place. */
export interface FileProblem {
  message: string;
  /** Where: a line and column, or a path like `ruleSets[0].rules[2].target`. */
  place: string;
}

/** Parses JSON; what is wrong with it comes back with its line and column. */
export function parseJson(text: string): { value: unknown } | { problem: FileProblem } {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return { problem: jsonProblem(text) };
  }
  const deep = tooDeep(value);
  return deep === undefined
    ? { value }
    : { problem: { message: `this is nested more than ${MAX_DEPTH} levels deep`, place: pathText(deep) } };
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
  const json = parseJson(text);
  if ("problem" in json) return json;
  const { value } = json;
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

/** Arrays and objects within one another are read to this depth: more than any project has. */
const MAX_DEPTH = 100;

/** The path to the first thing that lies too deep, its beginning; undefined where nothing does. */
function tooDeep(value: unknown): PropertyKey[] | undefined {
  const path: PropertyKey[] = [];
  const visit = (inner: unknown): boolean => {
    if (inner === null || typeof inner !== "object") return false;
    if (path.length >= MAX_DEPTH) return true;
    if (Array.isArray(inner)) {
      // Columns of numbers hold nothing that could lie deeper.
      if (typeof inner[0] === "number") return false;
      return inner.some((item, i) => within(i, item));
    }
    return Object.entries(inner).some(([key, item]) => within(key, item));
  };
  const within = (key: PropertyKey, inner: unknown): boolean => {
    path.push(key);
    const found = visit(inner);
    if (!found) path.pop();
    return found;
  };
  return visit(value) ? path.slice(0, 6) : undefined;
}

/** A project as the text of a project file: the document readable, each column of readings on a line of its own. */
export function writeProject(project: Project): string {
  return `${written(project, "")}\n`;
}

/** JSON with an indent of two; lists of four numbers and more stand on one line. */
function written(value: unknown, indent: string): string {
  if (value === null || typeof value !== "object") return JSON.stringify(value);
  const within = `${indent}  `;
  if (Array.isArray(value)) {
    if (value.length === 0 || (value.length > 3 && typeof value[0] === "number")) return JSON.stringify(value);
    return `[\n${value.map((item) => within + written(item ?? null, within)).join(",\n")}\n${indent}]`;
  }
  const entries = Object.entries(value).filter(([, item]) => item !== undefined);
  if (entries.length === 0) return "{}";
  const lines = entries.map(([key, item]) => `${within}${JSON.stringify(key)}: ${written(item, within)}`);
  return `{\n${lines.join(",\n")}\n${indent}}`;
}

function jsonProblem(text: string): FileProblem {
  const at = jsonErrorAt(text);
  let line = 1;
  let start = 0;
  for (let end = text.indexOf("\n"); end >= 0 && end < at; end = text.indexOf("\n", start)) {
    line++;
    start = end + 1;
  }
  const place = `line ${line}, column ${at - start + 1}`;
  const rest = text.slice(at, at + 12);
  if (rest.trim() === "" || (rest.startsWith('"') && text.indexOf('"', at + 1) < 0))
    return { message: "the file ends in the middle of something: it was probably cut off", place };
  return { message: `the file is not JSON: ${JSON.stringify(rest)} is not expected here`, place };
}

/** The first thing wrong with a parsed value, as a sentence with its path. */
export function zodProblem(error: z.ZodError): FileProblem {
  const { message, path } = deepest(error.issues[0]);
  return { message, place: pathText(path) || "the whole file" };
}

type Issue = z.core.$ZodIssue;

/** The branches of a union, those of unions within it among them. */
const branchesOf = (union: z.core.$ZodIssueInvalidUnion): Issue[][] =>
  union.errors.flatMap((branch) => {
    const [only] = branch;
    return branch.length === 1 && only.code === "invalid_union" && only.path.length === 0 && only.errors.length > 0
      ? branchesOf(only)
      : [branch];
  });

/** Inside a union, the issue of the branch that came farthest is the one that helps; where none fits, what there is. */
function deepest(issue: Issue): { message: string; path: PropertyKey[] } {
  if (issue.code === "invalid_union" && issue.errors.length > 0) {
    const branches = branchesOf(issue).filter((branch) => branch.length > 0);
    const found = noneFits(branches) ?? farthest(branches);
    if (found !== undefined) return { message: found.message, path: [...issue.path, ...found.path] };
  }
  return { message: worded(issue), path: [...issue.path] };
}

/** What is wrong in our own words; a schema that has words of its own keeps them. */
function worded(issue: Issue): string {
  if (!/^(Too (small|big)|Invalid|Unrecognized)/.test(issue.message)) return issue.message;
  switch (issue.code) {
    case "invalid_type":
      return /received undefined$/.test(issue.message)
        ? `is missing; it must be ${A_KIND[issue.expected] ?? `of type ${issue.expected}`}`
        : `must be ${A_KIND[issue.expected] ?? `of type ${issue.expected}`}`;
    case "too_small":
    case "too_big": {
      const [limit, inclusive] =
        issue.code === "too_small" ? [issue.minimum, issue.inclusive] : [issue.maximum, issue.inclusive];
      const bound = issue.code === "too_small" ? (inclusive ? "at least" : "above") : inclusive ? "at most" : "below";
      const what = { array: " entries", string: " characters" }[issue.origin as string];
      return what === undefined ? `must be ${bound} ${limit}` : `must have ${bound} ${limit}${what}`;
    }
    case "invalid_union":
      return `is none of ${[...issue.message.matchAll(/'([^']+)'/g)].map(([, word]) => word).join(", ") || "what is known here"}`;
    case "invalid_value":
      return `is none of ${issue.values.join(", ")}`;
    case "unrecognized_keys":
      return `has ${issue.keys.map((key) => `“${key}”`).join(", ")}, which is not known here`;
    default:
      return issue.message;
  }
}

const A_KIND: Record<string, string> = {
  number: "a number",
  int: "a whole number",
  string: "a text",
  boolean: "true or false",
  array: "a list",
  tuple: "a list",
  object: "an object",
  record: "an object",
};

/** What is known, where what is there is of no kind: by the word that names the kind, or by the keys. */
function noneFits(branches: readonly Issue[][]): { message: string; path: PropertyKey[] } | undefined {
  const words = branches.map((b) => b.find((i) => i.code === "invalid_value" && i.path.length === 1));
  if (words.length > 1 && words.every((w) => w !== undefined && w.path[0] === words[0]?.path[0])) {
    const known = new Set(words.flatMap((w) => (w?.code === "invalid_value" ? w.values.map(String) : [])));
    return { message: `is none of ${[...known].join(", ")}`, path: [...(words[0]?.path ?? [])] };
  }
  const strange = branches.map((b) => b.flatMap((i) => (i.code === "unrecognized_keys" ? i.keys : [])));
  const toAll = (strange[0] ?? []).filter((key) => strange.every((keys) => keys.includes(key)));
  if (branches.length < 2 || toAll.length === 0) return undefined;
  const wanted = new Set(branches.flatMap((b) => b.find((i) => i.path.length === 1)?.path.map(String) ?? []));
  return { message: `has ${toAll.join(", ")}, where one of ${[...wanted].join(", ")} is expected`, path: [] };
}

function farthest(branches: readonly Issue[][]): { message: string; path: PropertyKey[] } | undefined {
  return branches
    .map((branch) => ({
      first: deepest(branch[0]),
      length: branch.length,
      wrongKind: branch.some((i) => i.code === "invalid_value" && i.path.length === 1),
    }))
    .sort(
      (a, b) =>
        Number(a.wrongKind) - Number(b.wrongKind) || b.first.path.length - a.first.path.length || a.length - b.length,
    )[0]?.first;
}

/** `["rules", 2, "target"]` as `rules[2].target`. */
export function pathText(path: readonly PropertyKey[]): string {
  return path.map((key, i) => (typeof key === "number" ? `[${key}]` : `${i === 0 ? "" : "."}${String(key)}`)).join("");
}
