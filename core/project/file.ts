import { type FileProblem, MAX_PROJECT_BYTES, MAX_PROJECT_FILE_BYTES, pathText, zodProblem } from "../names";
import { jsonErrorAt } from "./jsonErrorAt";
import { renew } from "./renewed";
import { Project } from "./schema";

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
  const tooLarge = sizeProblem(text);
  if (tooLarge !== undefined) return { problem: { message: tooLarge, place: "the whole file" } };
  if (text.trim() === "") return { problem: { message: "the file is empty", place: "line 1" } };
  const json = parseJson(text);
  if ("problem" in json) return json;
  const { value } = json;
  const head = value as { format?: unknown; version?: unknown; behaviour?: unknown } | null;
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
  renew(head);
  const parsed = Project.safeParse(value);
  return parsed.success ? { project: parsed.data } : { problem: zodProblem(parsed.error) };
}

const mb = (bytes: number) => `${Math.round(bytes / 1_048_576)} MB`;

/** What is said of a file that is too large to be read; frames have room of their own. */
function sizeProblem(text: string): string | undefined {
  const { length } = text;
  if (length > MAX_PROJECT_FILE_BYTES)
    return `the file has ${mb(length)}; at most ${mb(MAX_PROJECT_FILE_BYTES)} are read`;
  if (length <= MAX_PROJECT_BYTES) return undefined;
  const beside = besideFrames(text);
  return beside <= MAX_PROJECT_BYTES
    ? undefined
    : `the file has ${mb(beside)} beside its frames; at most ${mb(MAX_PROJECT_BYTES)} are read`;
}

/** Strings in a project file that are longer than this are frames. */
const LONGEST_WORDS = 4000;

const BASE64 = /^[A-Za-z0-9+/]+={0,2}$/;

/** How long a file is without its frames, found without reading it. */
function besideFrames(text: string): number {
  let frames = 0;
  for (let at = text.indexOf('"'); at >= 0; ) {
    const next = text.indexOf('"', at + 1);
    if (next - at > LONGEST_WORDS && BASE64.test(text.slice(at + 1, next))) frames += next - at;
    at = next;
  }
  return text.length - frames;
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
      // Most are columns of numbers, and hold nothing that could lie deeper.
      return inner.some((item, i) => typeof item === "object" && within(i, item));
    }
    return Object.entries(inner).some(([key, item]) => typeof item === "object" && within(key, item));
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
