import type { LightId } from "../names";
import { RunError } from "./RunError";

/** What a sweep varies: each axis with the values that it takes. Seeds are 1 to `seeds`. */
export interface SweepGrid {
  course: string;
  start: string[];
  light: LightId[];
  /** Factors on the motors' top speed. */
  speed: number[];
  /** How many mm every sensor hangs higher than it should. */
  height: number[];
  /** Factors on the sensors' noise. */
  noise: number[];
  seeds: number;
}

/** One point of the grid. */
export interface Conditions {
  start: string;
  light: LightId;
  speed: number;
  height: number;
  noise: number;
}
export type Axis = keyof Conditions;
export const AXES: readonly Axis[] = ["light", "speed", "height", "noise", "start"];

/** More runs than this are asked back, and more than `MOST_RUNS` refused. */
export const MANY_RUNS = 20_000;
export const MOST_RUNS = 1_000_000;

/** Every point of the grid. @throws RunError where there is none, or too many */
export function cellsOf(grid: SweepGrid): Conditions[] {
  const runs = AXES.reduce((n, axis) => n * grid[axis].length, grid.seeds);
  if (!Number.isInteger(grid.seeds) || grid.seeds < 1) throw new RunError("a sweep needs at least one seed");
  if (runs === 0) throw new RunError("a sweep needs at least one value of everything that it varies");
  if (runs > MOST_RUNS) throw new RunError(`${runs} runs are too many; a sweep makes at most ${MOST_RUNS}`);
  return grid.light.flatMap((light) =>
    grid.speed.flatMap((speed) =>
      grid.height.flatMap((height) =>
        grid.noise.flatMap((noise) => grid.start.map((start) => ({ start, light, speed, height, noise }))),
      ),
    ),
  );
}
