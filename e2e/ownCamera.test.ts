import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, it } from "vitest";
import { HANDS } from "./jobs/Hands";
import { deskOf } from "./jobs/Job";
import { fakeCamera, ownCamera } from "./jobs/ownCamera";
import { useSession } from "./session";

const folder = mkdtempSync(join(tmpdir(), "perceptum-camera-"));
const session = useSession(fakeCamera(join(folder, "film.y4m")));

afterAll(() => rmSync(folder, { recursive: true }));

describe("a job with the computer's own camera, from an empty project", () => {
  it.each(["pointer", "keyboard"] as const)(
    "is done by %s",
    async (by) => {
      const { page, screen, server } = session;
      await page.goto(`${server.url}/?list`);
      await screen.see("button", "New project");
      await ownCamera.perform(deskOf(page, screen, HANDS[by](screen)).desk);
    },
    180_000,
  );
});
