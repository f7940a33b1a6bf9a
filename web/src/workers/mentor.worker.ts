import { type DidSpan, didSpans, type Note, phraseWords, rehearse, type Step } from "@perceptum/core/behaviour";
import { type Finding, FixTrial, findAll } from "@perceptum/core/findings";
import type { LightId, ModeId, ResponseId, TapeId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import type { RawReadings } from "@perceptum/core/readings";
import { markedTapes } from "@perceptum/core/teaching";
import type { FrameFacts } from "@perceptum/core/vision";
import {
  machineOf,
  nameIn,
  programOf,
  type ResponseReason,
  type RunChoice,
  run,
  type Trace,
  type Tried,
  tryStep,
  type Verdict,
  verdicts,
  whyResponse,
} from "@perceptum/core/world";
import { expose } from "comlink";

const raw = new Map<TapeId, RawReadings>();
let trial: { found: Finding[]; fixes: FixTrial } | undefined;

/** The slower work beside the judging: findings, rehearsals and runs. */
const worker = {
  hold(readings: [TapeId, RawReadings][]): void {
    raw.clear();
    for (const [tape, values] of readings) raw.set(tape, values);
  },

  /** All findings, without the fixes: those are tried one by one. */
  findings(project: ProjectDocument, frames: readonly FrameFacts[]): { list: Finding[]; fixes: number[] } {
    const found = findAll({ project, tapes: markedTapes(project, raw), frames });
    trial = { found, fixes: new FixTrial(project, new Map(raw)) };
    return {
      list: found.map(({ fix: _, ...rest }) => rest),
      fixes: found.flatMap(({ fix }, i) => (fix === undefined ? [] : [i])),
    };
  },

  /** A finding of those that were asked for last, with its fix if that mends. */
  tried(i: number): Finding | undefined {
    const finding = trial?.found[i];
    return finding && trial?.fixes.proven(finding);
  },

  /** What the behaviour would do on a tape. */
  did(project: ProjectDocument, tape: TapeId): { spans: DidSpan[]; notes: Note[] } {
    const head = project.tapes.find((t) => t.id === tape);
    const readings = raw.get(tape);
    const eye = project.robot.mounts.findIndex((m) => m.sensor === head?.sensor);
    if (readings === undefined || eye < 0 || readings.t.length === 0) return { spans: [], notes: [] };
    const notes = rehearse(programOf(project), eye, readings, machineOf(project.robot).topSpeed);
    const { written } = phraseWords(project);
    return { spans: didSpans(notes, readings.t[readings.t.length - 1], written), notes };
  },

  tryStep(project: ProjectDocument, step: Step, light: LightId | null): Tried {
    return tryStep(project, step, light ?? undefined);
  },

  run(project: ProjectDocument, choice: RunChoice): { trace: Trace; verdicts: Verdict[]; did: DidSpan[] } {
    const trace = run(project, choice);
    return {
      trace,
      verdicts: verdicts(trace, nameIn(project)).map(({ verdict }) => verdict),
      did: didSpans(trace.notes, trace.endMs, phraseWords(project).written),
    };
  },

  why(
    project: ProjectDocument,
    choice: RunChoice,
    t: number,
    mode: ModeId,
    response: ResponseId,
  ): ResponseReason | undefined {
    return whyResponse(project, choice, t, mode, response);
  },
};

export type MentorWorker = typeof worker;
expose(worker);
