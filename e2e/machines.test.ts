import { describe, it } from "vitest";
import { carrierLoop } from "./jobs/carrierLoop";
import { HANDS } from "./jobs/Hands";
import { deskOf } from "./jobs/Job";
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
  it.each(JOBS)(
    "is done by %s: %s",
    async (by, _, job) => {
      const { page, screen, server } = session;
      await page.goto(`${server.url}/?list`);
      await screen.see("button", "New project");
      await job.perform(deskOf(page, screen, HANDS[by](screen)).desk);
    },
    180_000,
  );
});
