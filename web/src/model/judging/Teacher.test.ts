import { emptyProject } from "@perceptum/core/project";
import { expose } from "comlink";
import { afterEach, expect, it, vi } from "vitest";
import type { Readings } from "../session/Readings";
import { Teacher } from "./Teacher";

afterEach(() => vi.unstubAllGlobals());

it("answers the later of two questions, though the earlier ends while it is worked out", async () => {
  const answer: ((value: string) => void)[] = [];
  let alive = 0;
  vi.stubGlobal(
    "Worker",
    class {
      constructor() {
        const { port1, port2 } = new MessageChannel();
        const number = alive++;
        expose({ suggest: () => new Promise((done) => answer.push(() => done(`answer ${number}`))) }, port1 as never);
        port2.start();
        // biome-ignore lint/correctness/noConstructorReturn: the port is the worker
        return Object.assign(port2, { terminate: () => port1.close() }) as never;
      }
    },
  );
  const readings = { taughtBy: (heads: unknown) => ({ heads, readings: new Map() }) } as unknown as Readings;
  const teacher = new Teacher(readings);
  const project = emptyProject("any") as never;
  const earlier = teacher.suggest(project, "rules" as never);
  const later = teacher.suggest(project, "rules" as never);
  await expect(earlier).rejects.toThrow("this was cancelled");
  await vi.waitFor(() => expect(answer.length).toBeGreaterThan(0));
  for (const give of answer) give("");
  expect(await later).toBe("answer 1");
  teacher.end();
});
