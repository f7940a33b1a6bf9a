import type { RuleSetId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import type { Suggested, TeacherWorker } from "../workers/teacher.worker";
import type { Readings } from "./Readings";
import { WorkerLink } from "./WorkerLink";

export type { Suggested } from "../workers/teacher.worker";

const LIMIT_MS = 60_000;

/** Suggests rules. Its worker is made for the question and ended after it: it is asked seldom. */
export class Teacher {
  private readonly worker = new WorkerLink<TeacherWorker>(
    () => new Worker(new URL("../workers/teacher.worker.ts", import.meta.url), { type: "module" }),
    { limitMs: LIMIT_MS },
  );

  constructor(private readonly readings: Readings) {}

  /** @throws WorkerGone, or what the worker throws */
  async suggest(project: ProjectDocument, ruleSet: RuleSetId): Promise<Suggested> {
    try {
      const { heads, readings } = this.readings.taughtBy(project.tapes);
      return await this.worker.ask((remote) => remote.suggest({ ...project, tapes: heads }, [...readings], ruleSet));
    } finally {
      this.worker.cancel();
    }
  }

  end(): void {
    this.worker.end();
  }
}
