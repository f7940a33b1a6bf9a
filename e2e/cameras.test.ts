import { describe, it } from "vitest";
import { HANDS } from "./jobs/Hands";
import { deskOf } from "./jobs/Job";
import { teachACamera } from "./jobs/teachACamera";
import { useSession } from "./session";

const session = useSession();

describe("a job with a camera, from an empty project", () => {
  it.each([
    ["pointer", teachACamera.title, teachACamera],
    ["keyboard", teachACamera.title, teachACamera],
  ] as const)(
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
