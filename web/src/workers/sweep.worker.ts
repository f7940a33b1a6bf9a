import type { ProjectDocument } from "@perceptum/core/project";
import { type Conditions, type Fastest, fastestThatHolds, type SweptRun, sweepCell } from "@perceptum/core/world";
import { expose } from "comlink";

let project: ProjectDocument | null = null;
let course = "";

/** One of several workers that make the runs of a sweep. */
const worker = {
  begin(on: ProjectDocument, courseId: string): void {
    project = on;
    course = courseId;
  },

  /** Some runs of one point of the grid. */
  runs(conditions: Conditions, seeds: readonly number[]): SweptRun[] {
    if (project === null) throw new Error("the sweep has not begun");
    return [...sweepCell(project, course, conditions, seeds)];
  },

  /** The highest factor on the speed at which every check holds at all these points and seeds; tells how far it is. */
  fastest(points: readonly Conditions[], seeds: readonly number[], told: (share: number) => void): Fastest | undefined {
    if (project === null) throw new Error("the sweep has not begun");
    return fastestThatHolds(project, course, points, seeds, told);
  },
};

export type SweepWorker = typeof worker;
expose(worker);
