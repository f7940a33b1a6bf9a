import { type DidSpan, didSpans, type Note, phraseWords, rehearse, type Step } from "@perceptum/core/behaviour";
import { type Finding, FixTrial, findAll } from "@perceptum/core/findings";
import type { LightId, ModeId, ResponseId, TapeId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import { isCamera, type RawReadings } from "@perceptum/core/readings";
import { markedTapes } from "@perceptum/core/teaching";
import { blobsIn, type FrameFacts } from "@perceptum/core/vision";
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

const raw = new Map<TapeId, RawReadings>();
let trial: { found: Finding[]; fixes: FixTrial } | undefined;

/** The slower work beside the judging: findings, rehearsals and runs. */
export const mentorWork = {
  setReadings(readings: [TapeId, RawReadings][]): void {
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

  /** The behaviour's doings on a tape; on a camera's by what its frames show, nothing as long as that is not known. */
  did(project: ProjectDocument, tape: TapeId, frames: readonly FrameFacts[]): { spans: DidSpan[]; notes: Note[] } {
    const head = project.tapes.find((t) => t.id === tape);
    const sensor = project.sensors.find((s) => s.id === head?.sensor);
    const eye = project.robot.mounts.findIndex((m) => m.sensor === head?.sensor);
    const nothing = { spans: [], notes: [] };
    if (sensor === undefined || eye < 0) return nothing;
    const facts = frames.find((f) => f.tape === tape);
    if (isCamera(sensor) && facts === undefined) return nothing;
    const readings = facts === undefined ? raw.get(tape) : { t: Float64Array.from(facts.t), channels: {} };
    if (readings === undefined || readings.t.length === 0) return nothing;
    const { topSpeed } = machineOf(project.robot);
    const blobs = facts && isCamera(sensor) ? (k: number) => blobsIn(facts, k, sensor) : undefined;
    const notes = rehearse(programOf(project), eye, readings, topSpeed, blobs);
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
