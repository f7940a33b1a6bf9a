import { type Cluster, clusterInterval } from "../arithmetic";
import type { SensorId } from "../names";
import { robotKindOf } from "./robots";
import { run, verdicts } from "./run";
import type { Simulated } from "./Simulated";
import { AXES, type Axis, type Conditions } from "./sweepGrid";

/** The project as it is under conditions: faster motors, higher sensors, more noise. */
export function underConditions<P extends Simulated>(
  project: P,
  { speed, height, noise }: Pick<Conditions, "speed" | "height" | "noise">,
): P {
  const robot = robotKindOf(project.robot).faster(project.robot, speed);
  const mounts = robot.mounts.map((m) => ({ ...m, z: Math.max(0, m.z + height) }));
  const bestOf = (sensor: SensorId) => project.sensors.find((s) => s.id === sensor)?.optics.bestMm ?? 0;
  return {
    ...project,
    // What is held before a sensor is as much farther away as the sensor is higher.
    courses: project.courses.map((course) => ({
      ...course,
      cards: course.cards.map((card) => ({
        ...card,
        heightMm: Math.max(0, (card.heightMm ?? bestOf(card.sensor ?? robot.mounts[0].sensor)) + height),
      })),
    })),
    sensors: project.sensors.map((s) => ({
      ...s,
      optics: { ...s.optics, read: s.optics.read * noise, shot: s.optics.shot * noise },
    })),
    robot: { ...robot, mounts },
  };
}

/** How one run of a sweep came out: which checks do not hold, by their place; one not reached counts among them. */
export interface SweptRun {
  seed: number;
  failed: number[];
}

/** Makes all runs of one point of the grid, one seed after the other. */
export function* sweepCell(
  project: Simulated,
  course: string,
  conditions: Conditions,
  seeds: readonly number[],
): Generator<SweptRun> {
  const changed = underConditions(project, conditions);
  for (const seed of seeds) {
    const trace = run(changed, { course, start: conditions.start, light: conditions.light, seed });
    const failed = verdicts(trace).flatMap(({ verdict }, i) => (verdict.outcome === "holds" ? [] : [i]));
    yield { seed, failed };
  }
}

/** What is known of one point of the grid. */
export interface SweptCell {
  conditions: Conditions;
  runs: SweptRun[];
}

/**
 * The share of runs in which every check held, with its 95 % interval: runs of one seed are drawn alike in all
 * conditions, so that seeds are what it rests on.
 */
export interface PassShare {
  passed: number;
  runs: number;
  share: number;
  interval: [number, number];
}

export interface SweepSummary {
  all: PassShare;
  /** Every point, the worst first; of points that are as bad the first of the grid. */
  cells: (PassShare & { cell: SweptCell; failing: number[] })[];
  /** For each axis its values' shares, and how much of the share its best and worst values lie apart; the costliest first. */
  axes: { axis: Axis; values: (PassShare & { value: string | number })[]; cost: number }[];
  /** How many runs each check failed in, in the checks' order. */
  checks: number[];
}

function bySeed(runs: readonly SweptRun[]): Map<number, Cluster> {
  const seeds = new Map<number, Cluster>();
  for (const { seed, failed } of runs) {
    const known = seeds.get(seed) ?? { n: 0, right: 0 };
    seeds.set(seed, { n: known.n + 1, right: known.right + (failed.length === 0 ? 1 : 0) });
  }
  return seeds;
}

const shareOf = (runs: readonly SweptRun[]): PassShare => {
  const passed = runs.filter((r) => r.failed.length === 0).length;
  return {
    passed,
    runs: runs.length,
    share: runs.length === 0 ? Number.NaN : passed / runs.length,
    interval: clusterInterval([...bySeed(runs).values()]),
  };
};

/** What a sweep, whole or in part, shows. */
export function summarise(cells: readonly SweptCell[], checks: number): SweepSummary {
  const made = cells.filter((cell) => cell.runs.length > 0);
  const axes = AXES.map((axis) => {
    const groups = new Map<string | number, SweptRun[]>();
    for (const { conditions, runs } of made) {
      const group = groups.get(conditions[axis]);
      if (group === undefined) groups.set(conditions[axis], [...runs]);
      else for (const run of runs) group.push(run);
    }
    const values = [...groups].map(([value, runs]) => ({ value, ...shareOf(runs) }));
    const shares = values.map((v) => v.share);
    return { axis, values, cost: shares.length < 2 ? 0 : Math.max(...shares) - Math.min(...shares) };
  });
  const counts = new Array<number>(checks).fill(0);
  for (const { runs } of made) for (const { failed } of runs) for (const i of failed) counts[i]++;
  return {
    all: shareOf(made.flatMap((cell) => cell.runs)),
    cells: made
      .map((cell) => ({
        ...shareOf(cell.runs),
        cell,
        failing: cell.runs.filter((r) => r.failed.length > 0).map((r) => r.seed),
      }))
      .sort((a, b) => a.share - b.share),
    axes: axes.sort((a, b) => b.cost - a.cost),
    checks: counts,
  };
}
