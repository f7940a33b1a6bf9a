import { describe, it } from "vitest";
import { CAMERA_JOBS } from "./jobs/cameraJobs";
import { doneBy } from "./jobs/doneBy";
import { useSession } from "./session";

const session = useSession();

// One of the guide is done by pointer, where its page is compared with it.
describe("a job with a camera, from an empty project", () => {
  it.each(CAMERA_JOBS.map((job) => [job.title, job] as const))(
    "is done by keyboard: %s",
    (_, job) => doneBy(session, "keyboard", job),
    180_000,
  );
});
