import type { ProjectDocument } from "@perceptum/core/project";
import { type Conditions, cellsOf, type SweepGrid, type SweptCell } from "@perceptum/core/world";
import { type Remote, wrap } from "comlink";
import { Published } from "../../state/Published";
import type { SweepWorker } from "../../workers/sweep.worker";

/** A sweep under way or done; what was made so far stays when it is cancelled. */
export interface Sweeping {
  project: ProjectDocument;
  grid: SweepGrid;
  cells: readonly SweptCell[];
  done: number;
  total: number;
  began: number;
  /** Why it goes on no longer; undefined while it does. */
  ended: "done" | "cancelled" | { wrong: string } | undefined;
  took: number;
}
export const sweeping = new Published<Sweeping | null>(null);

/** So many runs a worker is given at once. */
const AT_ONCE = 5;
/** The page is told of progress so often at most, in ms. */
const TELL_EVERY = 120;

let workers: Worker[] = [];

function newWorker(): { worker: Worker; remote: Remote<SweepWorker> } {
  const worker = new Worker(new URL("../../workers/sweep.worker.ts", import.meta.url), { type: "module" });
  return { worker, remote: wrap<SweepWorker>(worker) };
}

/** Ends the workers; what was made stays. */
export function cancelSweep(): void {
  for (const worker of workers) worker.terminate();
  workers = [];
  const now = sweeping.get();
  if (now !== null && now.ended === undefined)
    sweeping.set({ ...now, ended: "cancelled", took: performance.now() - now.began });
}

/** Makes all runs of a grid in as many workers as the machine has cores. @throws RunError for a grid that cannot be */
export async function startSweep(project: ProjectDocument, grid: SweepGrid): Promise<void> {
  cancelSweep();
  const points = cellsOf(grid);
  const cells: SweptCell[] = points.map((conditions) => ({ conditions, runs: [] }));
  const tasks = tasksOf(points, grid.seeds);
  const began = performance.now();
  const state = { project, grid, total: points.length * grid.seeds, began };
  let done = 0;
  let told = 0;
  const tell = (ended: Sweeping["ended"]) =>
    sweeping.set({
      ...state,
      cells: cells.map((cell) => ({ ...cell })),
      done,
      ended,
      took: performance.now() - began,
    });
  tell(undefined);
  const count = Math.max(1, Math.min(navigator.hardwareConcurrency || 2, 8, tasks.length));
  const made = Array.from({ length: count }, newWorker);
  workers = made.map(({ worker }) => worker);
  const own = workers;
  let next = 0;
  try {
    await Promise.all(
      made.map(async ({ remote }) => {
        await remote.begin(project, grid.course);
        while (next < tasks.length) {
          const { cell, seeds } = tasks[next++];
          const runs = await remote.runs(points[cell], seeds);
          if (workers !== own) return;
          cells[cell].runs.push(...runs);
          done += runs.length;
          if (performance.now() - told > TELL_EVERY) {
            told = performance.now();
            tell(undefined);
          }
        }
      }),
    );
    if (workers === own) tell("done");
  } catch (error) {
    if (workers === own) tell({ wrong: (error as Error).message });
  } finally {
    for (const { worker } of made) worker.terminate();
    if (workers === own) workers = [];
  }
}

/** Every point in turn a few seeds at a time, so that a sweep in part already shows all of the grid. */
function tasksOf(points: readonly Conditions[], seeds: number): { cell: number; seeds: number[] }[] {
  const tasks: { cell: number; seeds: number[] }[] = [];
  for (let from = 1; from <= seeds; from += AT_ONCE) {
    const some = Array.from({ length: Math.min(AT_ONCE, seeds - from + 1) }, (_, i) => from + i);
    points.forEach((_, cell) => {
      tasks.push({ cell, seeds: some });
    });
  }
  return tasks;
}

/** Looks for the highest speed in a worker of its own; `cancel` gives it up. */
export function findFastest(
  project: ProjectDocument,
  grid: SweepGrid,
): { result: Promise<number | undefined>; cancel: () => void } {
  const { worker, remote } = newWorker();
  const seeds = Array.from({ length: grid.seeds }, (_, i) => i + 1);
  const result = (async () => {
    try {
      await remote.begin(project, grid.course);
      return await remote.fastest(cellsOf({ ...grid, speed: [1] }), seeds);
    } finally {
      worker.terminate();
    }
  })();
  return { result, cancel: () => worker.terminate() };
}
