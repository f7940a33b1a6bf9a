import { readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { JOBS } from "./jobs";
import { HANDS, type Hands } from "./jobs/Hands";
import { deskOf, pageOf } from "./jobs/Job";
import { readingsFile } from "./jobs/readingsFile";
import { ROOT } from "./server";
import { useSession } from "./session";

const session = useSession();
const inDocs = (name: string) => readFileSync(join(ROOT, "docs/jobs", name), "utf8");

/** More keys than this nobody wants to press for a whole job. */
const MOST_PRESSES = 250;

describe("a job of the guide, from an empty project to checks that hold", () => {
  it.each(JOBS.map((job) => [job.by, job.title, job] as const))(
    "is done by %s as its page says: %s",
    async (by, _, job) => {
      const { page, screen } = session;
      await page.setViewport({ width: 1280, height: 800, hasTouch: by === "touch" });
      await session.goTo("/?list");
      await screen.see("button", "New project");
      const hands: Hands & { presses?: () => number } = HANDS[by](screen);
      const { desk, told } = deskOf(page, screen, hands);
      await job.perform(desk);
      expect(inDocs(`${job.file}.md`)).toBe(pageOf(job, told));
      expect(hands.presses?.() ?? 0).toBeLessThanOrEqual(MOST_PRESSES);
    },
    180_000,
  );

  it("has the file of readings that its page speaks of", () => {
    expect(inDocs("readings.csv")).toBe(readingsFile());
  });
});
