import type { LightId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import {
  type Axis,
  cellsOf,
  checkSentence,
  fastestInWords,
  fastestThatHolds,
  MANY_RUNS,
  nameIn,
  type PassShare,
  RunError,
  type SweepGrid,
  type SweptCell,
  summarise,
  sweepCell,
} from "@perceptum/core/world";
import { InputError, openDocument, wholeNumber } from "./input";

export interface SweepOptions {
  course: string;
  start?: string;
  light?: string;
  speed: string;
  height: string;
  noise: string;
  seeds: string;
  highestSpeed?: boolean;
  many?: boolean;
  json?: boolean;
}

/** Many runs over a grid of conditions. Exit code 1 if any check fails in any of them. */
export function sweepCommand(projectFile: string, options: SweepOptions): { text: string; code: number } {
  const { document } = openDocument(projectFile);
  const course = document.courses.find((c) => c.id === options.course || c.name === options.course);
  if (course === undefined)
    throw new InputError(
      `there is no course “${options.course}”; there is ${document.courses.map((c) => c.name).join(", ") || "none"}`,
    );
  const grid: SweepGrid = {
    course: course.id,
    start: named(
      "start",
      options.start,
      course.starts.map(({ name }) => ({ name })),
      (s) => s.name,
    ),
    light: named("light", options.light, document.lights, (l) => l.id) as LightId[],
    speed: numbers("speed", options.speed, 0.01, 100),
    height: numbers("height", options.height, -500, 500),
    noise: numbers("noise", options.noise, 0, 1000),
    seeds: wholeNumber("number of seeds", options.seeds, 1, 1_000_000),
  };
  try {
    return made(document, grid, options);
  } catch (error) {
    if (error instanceof RunError) throw new InputError(error.message);
    throw error;
  }
}

function made(document: ProjectDocument, grid: SweepGrid, options: SweepOptions): { text: string; code: number } {
  const points = cellsOf(grid);
  const total = points.length * grid.seeds;
  if (total > MANY_RUNS && !options.many) throw new InputError(`${total} runs take long; say --many if you mean it`);
  const seeds = Array.from({ length: grid.seeds }, (_, i) => i + 1);
  const cells = points.map((conditions): SweptCell => ({ conditions, runs: [] }));
  let done = 0;
  for (const cell of cells)
    for (const result of sweepCell(document, grid.course, cell.conditions, seeds)) {
      cell.runs.push(result);
      done++;
      if (process.stderr.isTTY && done % 20 === 0) process.stderr.write(`\r${done} of ${total} runs`);
    }
  if (process.stderr.isTTY) process.stderr.write("\r\x1b[K");
  const checks = document.courses.find((c) => c.id === grid.course)?.checks ?? [];
  const summary = summarise(cells, checks.length);
  const fastest = options.highestSpeed
    ? fastestThatHolds(document, grid.course, cellsOf({ ...grid, speed: [1] }), seeds)
    : undefined;
  const code = summary.all.passed === summary.all.runs ? 0 : 1;
  const name = nameIn(document);
  const sentences = checks.map((check) => checkSentence(check, name));
  if (options.json) {
    const axes = summary.axes.map(({ axis, values, cost }) => ({ axis, cost, values }));
    const worst = summary.cells.map(({ cell, ...share }) => ({ ...cell.conditions, ...share }));
    const failed = sentences.map((check, i) => ({ check, failed: summary.checks[i] }));
    const all = { all: summary.all, axes, cells: worst, checks: failed };
    const whole = options.highestSpeed
      ? {
          ...all,
          highestSpeed: fastest?.speed ?? null,
          speedRanges: fastest?.ranges ?? [],
          type: fastest?.typed ?? [],
          ...(fastest?.piecesAMinute !== undefined && { piecesAMinute: fastest.piecesAMinute }),
        }
      : all;
    return { text: `${JSON.stringify(whole, null, 2)}\n`, code };
  }
  const lines = [
    checks.length === 0
      ? `the course has no checks, so nothing could fail in ${total} ${total === 1 ? "run" : "runs"}`
      : `${shareText(summary.all)} hold every check`,
  ];
  for (const { axis, values, cost } of summary.axes)
    if (values.length > 1)
      lines.push(
        `${axis}: ${values.map((v) => `${v.value} ${v.passed}/${v.runs}`).join(", ")}  (costs ${(cost * 100).toFixed(0)} %)`,
      );
  for (const { cell, failing, ...share } of summary.cells.slice(0, WORST)) {
    if (failing.length === 0) break;
    const at = Object.entries(cell.conditions).map(([axis, value]) => `${axis} ${value}`);
    lines.push(`${shareText(share)}  at ${at.join(", ")}; fails with seed ${failing.slice(0, 5).join(", ")}`);
  }
  sentences.forEach((sentence, i) => {
    if (summary.checks[i] > 0) lines.push(`${summary.checks[i]} fail: ${sentence}`);
  });
  if (options.highestSpeed) lines.push(`highest speed: ${fastestInWords(fastest, document, grid)}`);
  return { text: `${lines.join("\n")}\n`, code };
}

/** So many of the worst points are told in words; JSON has them all. */
const WORST = 5;

const shareText = ({ passed, runs, interval: [low, high] }: PassShare) =>
  `${passed} of ${runs} (${(low * 100).toFixed(0)} to ${(high * 100).toFixed(0)} %)`;

function numbers(axis: Axis | "seeds", text: string, low: number, high: number): number[] {
  return text.split(",").map((part) => {
    const value = Number(part);
    if (part.trim() === "" || !(value >= low && value <= high) || (axis === "seeds" && !Number.isInteger(value)))
      throw new InputError(`the ${axis} “${part}” is not a number that it can have`);
    return value;
  });
}

/** The things of these names, separated by commas; all where none is named. */
function named<T extends { name: string; id?: string }>(
  what: string,
  text: string | undefined,
  things: readonly T[],
  id: (thing: T) => string,
): string[] {
  if (text === undefined) return things.map(id);
  return text.split(",").map((part) => {
    const thing = things.find((x) => x.id === part.trim() || x.name === part.trim());
    if (thing === undefined)
      throw new InputError(`there is no ${what} “${part}”; there is ${things.map((x) => x.name).join(", ")}`);
    return id(thing);
  });
}
