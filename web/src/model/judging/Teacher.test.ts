import { emptyProject } from "@perceptum/core/project";
import { expect, it, vi } from "vitest";
import { workerOf } from "../fakes";
import type { Readings } from "../session/Readings";
import { Teacher } from "./Teacher";

it("answers the later of two questions, though the earlier ends while it is worked out", async () => {
  const answer: ((value: string) => void)[] = [];
  let alive = 0;
  const startWorker = () => {
    const number = alive++;
    return workerOf({ suggest: () => new Promise((done) => answer.push(() => done(`answer ${number}`))) });
  };
  const readings = { taughtBy: (heads: unknown) => ({ heads, readings: new Map() }) } as unknown as Readings;
  const teacher = new Teacher(readings, startWorker);
  const project = emptyProject("any") as never;
  const earlier = teacher.suggest(project, "rules" as never);
  const later = teacher.suggest(project, "rules" as never);
  await expect(earlier).rejects.toThrow("this was cancelled");
  await vi.waitFor(() => expect(answer.length).toBeGreaterThan(0));
  for (const give of answer) give("");
  expect(await later).toBe("answer 1");
  teacher.end();
});
