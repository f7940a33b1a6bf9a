import type { RuleSetId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import type { TeacherWorker } from "../../workers/teacher.worker";
import type { Suggested } from "../../workers/teacherWork";
import type { Readings } from "../session/Readings";
import type { Surroundings } from "../surroundings";
import { WorkerLink } from "../WorkerLink";

export type { Suggested } from "../../workers/teacherWork";

const LIMIT_MS = 60_000;

/** Suggests rules. A worker is made for each question and ended after it: it is asked seldom. */
export class Teacher {
  private worker: WorkerLink<TeacherWorker> | null = null;

  constructor(
    private readonly readings: Readings,
    private readonly startWorker: Surroundings["startWorker"],
  ) {}

  /** Ends a question that is still under way. @throws WorkerGone, or what the worker throws */
  async suggest(project: ProjectDocument, ruleSet: RuleSetId): Promise<Suggested> {
    this.end();
    const worker = new WorkerLink<TeacherWorker>(() => this.startWorker("teacher"), { limitMs: LIMIT_MS });
    this.worker = worker;
    try {
      const { heads, readings } = this.readings.taughtBy(project.tapes);
      return await worker.ask((remote) => remote.suggest({ ...project, tapes: heads }, [...readings], ruleSet));
    } finally {
      worker.end();
    }
  }

  end(): void {
    this.worker?.end();
  }
}
