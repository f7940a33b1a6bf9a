import { type DidSpan, didSpans, prepareProgram, rehearse } from "@perceptum/core/behaviour";
import { type Finding, findAll } from "@perceptum/core/findings";
import type { ProjectDocument, TapeId } from "@perceptum/core/project";
import type { RawReadings } from "@perceptum/core/readings";
import { markedTapes } from "@perceptum/core/teaching";
import { type RunChoice, run, type Trace, type Verdict, verdicts } from "@perceptum/core/world";
import { expose } from "comlink";

const raw = new Map<TapeId, RawReadings>();

/** The slower work beside the judging: findings, rehearsals and runs. */
const worker = {
  hold(readings: [TapeId, RawReadings][]): void {
    raw.clear();
    for (const [tape, values] of readings) raw.set(tape, values);
  },

  findings(project: ProjectDocument): Finding[] {
    return findAll({ project, tapes: markedTapes(project, raw) });
  },

  /** What the behaviour would do on a tape. */
  did(project: ProjectDocument, tape: TapeId): DidSpan[] {
    const head = project.tapes.find((t) => t.id === tape);
    const readings = raw.get(tape);
    const eye = project.robot.mounts.findIndex((m) => m.sensor === head?.sensor);
    if (readings === undefined || eye < 0 || readings.t.length === 0) return [];
    const notes = rehearse(prepareProgram(project), eye, readings, project.robot.motors[0].topSpeed);
    return didSpans(notes, readings.t[readings.t.length - 1]);
  },

  run(project: ProjectDocument, choice: RunChoice): { trace: Trace; verdicts: Verdict[] } {
    const trace = run(project, choice);
    return { trace, verdicts: verdicts(trace).map(({ verdict }) => verdict) };
  },
};

export type MentorWorker = typeof worker;
expose(worker);
