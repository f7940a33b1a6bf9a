import type { ProjectDocument } from "@perceptum/core/project";
import { type Conditions, cellsOf, type Fastest, type SweepGrid, type SweptCell } from "@perceptum/core/world";
import { proxy } from "comlink";
import type { SweepWorker } from "../../workers/sweep.worker";
import { Published } from "../Published";
import type { ProjectSession } from "../session/ProjectSession";
import { WorkerGone, WorkerLink } from "../WorkerLink";

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

/** So many runs a worker is given at once. */
const AT_ONCE = 5;
/** The page is told of progress so often at most, in ms. */
const TELL_EVERY = 120;
/** So long some runs may take, in ms. */
const LIMIT_MS = 120_000;

/** The sweeps of one project, one at a time. */
export class Sweeps {
  readonly sweeping = new Published<Sweeping | null>(null);
  private links: WorkerLink<SweepWorker>[] = [];
  private searching: WorkerLink<SweepWorker> | null = null;

  constructor(private readonly session: ProjectSession) {}

  /** A worker that makes runs of one project on the course of a grid. */
  private workerOn(project: ProjectDocument, { course }: SweepGrid, limitMs: number): WorkerLink<SweepWorker> {
    return new WorkerLink<SweepWorker>(() => this.session.surroundings.startWorker("sweep"), {
      limitMs,
      prepare: (remote) => remote.begin(project, course),
    });
  }

  end(): void {
    this.cancel();
    this.cancelSearch();
  }

  /** Ends the workers; what was made stays. */
  cancel(): void {
    for (const link of this.links) link.end();
    this.links = [];
    const now = this.sweeping.get();
    if (now !== null && now.ended === undefined)
      this.sweeping.set({ ...now, ended: "cancelled", took: performance.now() - now.began });
  }

  /** Makes all runs of a grid in as many workers as the machine has cores. @throws RunError for a grid that cannot be */
  async start(project: ProjectDocument, grid: SweepGrid): Promise<void> {
    this.cancel();
    const points = cellsOf(grid);
    const runs: SweptCell["runs"][] = points.map(() => []);
    const tasks = tasksOf(points, grid.seeds);
    const began = performance.now();
    const state = { project, grid, total: points.length * grid.seeds, began };
    let done = 0;
    let told = 0;
    const tell = (ended: Sweeping["ended"]) =>
      this.sweeping.set({
        ...state,
        cells: points.map((conditions, i) => ({ conditions, runs: runs[i] })),
        done,
        ended,
        took: performance.now() - began,
      });
    tell(undefined);
    const count = Math.max(1, Math.min(this.session.surroundings.cores, 8, tasks.length));
    const own = Array.from({ length: count }, () => this.workerOn(project, grid, LIMIT_MS));
    this.links = own;
    let next = 0;
    try {
      await Promise.all(
        own.map(async (link) => {
          while (next < tasks.length) {
            const { cell, seeds } = tasks[next++];
            const made = await link.ask((remote) => remote.runs(points[cell], seeds));
            if (this.links !== own) return;
            runs[cell].push(...made);
            done += made.length;
            if (performance.now() - told > TELL_EVERY) {
              told = performance.now();
              tell(undefined);
            }
          }
        }),
      );
      if (this.links === own) tell("done");
    } catch (error) {
      if (this.links === own) tell({ wrong: (error as Error).message });
    } finally {
      for (const link of own) link.end();
      if (this.links === own) this.links = [];
    }
  }

  /** Looks for the highest speed at which every check holds; undefined where there is none, null when cancelled. */
  async fastest(
    project: ProjectDocument,
    grid: SweepGrid,
    told: (share: number) => void,
  ): Promise<Fastest | undefined | null> {
    this.cancelSearch();
    const link = this.workerOn(project, grid, Number.POSITIVE_INFINITY);
    this.searching = link;
    const seeds = Array.from({ length: grid.seeds }, (_, i) => i + 1);
    try {
      return await link.ask((remote) => remote.fastest(cellsOf({ ...grid, speed: [1] }), seeds, proxy(told)));
    } catch (error) {
      if (error instanceof WorkerGone && error.wanted) return null;
      throw error;
    } finally {
      link.end();
    }
  }

  cancelSearch(): void {
    this.searching?.end();
    this.searching = null;
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
