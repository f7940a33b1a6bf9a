import { describe, it } from "vitest";
import { carrierLoop } from "./jobs/carrierLoop";
import { doneBy } from "./jobs/doneBy";
import type { HANDS } from "./jobs/Hands";
import { MACHINE_JOBS, type MachineJob } from "./jobs/machineJobs";
import { sortRims } from "./jobs/sortRims";
import { useSession } from "./session";

const session = useSession();

// The jobs of the guide are done by pointer where its pages are compared with them.
const JOBS: readonly (readonly [keyof typeof HANDS, string, MachineJob])[] = [
  ...MACHINE_JOBS.map((job) => ["pointer", job.title, job] as const),
  ...[...MACHINE_JOBS, carrierLoop, sortRims].map((job) => ["keyboard", job.title, job] as const),
];

describe("a job on rail or belt, from an empty project to checks that hold", () => {
  it.each(JOBS)("is done by %s: %s", (by, _, job) => doneBy(session, by, job), 180_000);
});
