import { describe, it } from "vitest";
import { CAMERA_JOBS } from "./jobs/cameraJobs";
import { doneBy } from "./jobs/doneBy";
import { teachACamera } from "./jobs/teachACamera";
import { useSession } from "./session";

const session = useSession();

describe("a job with a camera, from an empty project", () => {
  it.each([
    // The pointer does this one as its page in the guide says.
    ["keyboard", teachACamera.title, teachACamera],
    ...CAMERA_JOBS.flatMap((job) => (["pointer", "keyboard"] as const).map((by) => [by, job.title, job] as const)),
  ] as const)("is done by %s: %s", (by, _, job) => doneBy(session, by, job), 180_000);
});
