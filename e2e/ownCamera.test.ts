import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, it } from "vitest";
import { doneBy } from "./jobs/doneBy";
import { fakeCamera, ownCamera } from "./jobs/ownCamera";
import { useSession } from "./session";

const folder = mkdtempSync(join(tmpdir(), "perceptum-camera-"));
const session = useSession(fakeCamera(join(folder, "film.y4m")));

afterAll(() => rmSync(folder, { recursive: true }));

describe("a job with the computer's own camera, from an empty project", () => {
  it.each(["pointer", "keyboard"] as const)("is done by %s", (by) => doneBy(session, by, ownCamera), 180_000);
});
