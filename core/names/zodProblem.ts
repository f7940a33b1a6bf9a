import type * as z from "zod";

/** What is wrong with a file: one sentence, and the place. */
export interface FileProblem {
  message: string;
  /** Where: a line and column, or a path like `ruleSets[0].rules[2].target`. */
  place: string;
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
      const [one, more] =
        { array: ["entry", "entries"], string: ["character", "characters"] }[issue.origin as string] ?? [];
      return one === undefined
        ? `must be ${bound} ${limit}`
        : `must have ${bound} ${limit} ${limit === 1 ? one : more}`;
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

/** What is known, where what is there is of no kind: by the word that is or names the kind, or by the keys. */
function noneFits(branches: readonly Issue[][]): { message: string; path: PropertyKey[] } | undefined {
  const words = branches.map((b) => b.find((i) => i.code === "invalid_value" && i.path.length <= 1));
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
