import { describe, it } from "vitest";
import { doneBy } from "./jobs/doneBy";
import { MACHINE_JOBS } from "./jobs/machineJobs";
import { useSession } from "./session";

const session = useSession();

// The jobs of the guide are done by pointer, where its pages are compared with them: here the keyboard has its turn.
describe("a job on rail or belt, from an empty project to checks that hold", () => {
  it.each(MACHINE_JOBS.map((job) => [job.title, job] as const))(
    "is done by keyboard: %s",
    (_, job) => doneBy(session, "keyboard", job),
    180_000,
  );
});
