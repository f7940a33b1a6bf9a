import {
  conditionNeed,
  type EngineState,
  LookAt,
  type Need,
  type Note,
  partsThatMustHold,
  printStep,
  type Response,
  sensorOf,
  targetsOf,
  triggerKindOf,
} from "../behaviour";
import type { ModeId, ResponseId } from "../names";
import { type RunChoice, run } from "./run";
import type { Simulated } from "./Simulated";

/** One thing that a response needs, and how it stands at an instant. */
export interface Term {
  /** What is needed, as it is written. */
  text: string;
  holds: boolean;
  /** Since when it has been so, in ms. */
  since: number;
  /** What there is instead, with its unit. */
  value?: string;
  /** By how much it is short, with its unit. */
  short?: string;
}

/** Why a response runs, or does not, at an instant. */
export interface ResponseReason {
  t: number;
  response: ResponseId;
  terms: Term[];
  /** When it last fired, in ms. */
  firedAt: number | undefined;
  /** What runs at that instant: a response or entering steps, and the step that it is at. */
  running: { response: ResponseId | null; step: string } | null;
}

/** A thing to be true, asked of every moment of a run. */
interface Question {
  text: string;
  holds(scene: LookAt, state: EngineState, notes: readonly Note[]): boolean;
  value?(scene: LookAt): string;
  short?(scene: LookAt): string;
}

/**
 * Why a response of a mode runs or does not at time `t` of a run: the run is made again up to then, and each thing
 * that the response needs is followed. @throws RunError as `run` does
 */
export function whyResponse(
  project: Simulated,
  choice: RunChoice,
  t: number,
  mode: ModeId,
  id: ResponseId,
): ResponseReason | undefined {
  const response = project.behaviour.modes.find((m) => m.id === mode)?.responses.find((r) => r.id === id);
  if (response === undefined) return undefined;
  const questions = questionsOf(project, mode, response);
  const terms: Term[] = questions.map(({ text }) => ({ text, holds: false, since: 0 }));
  let firedAt: number | undefined;
  let running: ResponseReason["running"] = null;
  run(project, { ...choice, limitMs: Math.max(5, t) }, (_, state, notes) => {
    const scene = new LookAt(state);
    questions.forEach((question, i) => {
      const now = question.holds(scene, state, notes);
      if (now !== terms[i].holds) terms[i] = { text: question.text, holds: now, since: state.t };
      const [value, short] = [question.value?.(scene), now ? undefined : question.short?.(scene)];
      if (value === undefined) delete terms[i].value;
      else terms[i].value = value;
      if (short === undefined) delete terms[i].short;
      else terms[i].short = short;
    });
    for (const note of notes) if (note.kind === "fires" && note.mode === mode && note.response === id) firedAt = note.t;
    const { activity } = state;
    running = activity && {
      response: activity.response,
      step: activity.step === undefined ? "" : printStep(activity.step),
    };
  });
  return { t, response: id, terms, firedAt, running };
}

function questionsOf(project: Simulated, mode: ModeId, response: Response): Question[] {
  const name = project.behaviour.modes.find((m) => m.id === mode)?.name ?? mode;
  const { when, guard } = response;
  const questions: Question[] = [
    { text: "it is switched on", holds: () => response.on },
    {
      text: `the mode is ${name}`,
      holds: (_, state) => state.mode === mode,
    },
  ];
  questions.push(...triggerKindOf(when).needs(when).map(asked));
  if (response.fires === "once per visit" && triggerKindOf(when).byVisits)
    questions.push({
      text: "this visit was not answered yet",
      holds: (scene, state) =>
        !targetsOf(when).some((target) => state.spent(response.id) === scene.visit(target, sensorOf(when))),
    });
  if (guard !== undefined) questions.push(...partsThatMustHold(guard).map(conditionNeed).map(asked));
  if (response.busy === "let it finish")
    questions.push({
      text: "nothing else runs",
      holds: (_, { activity }) => activity === null || activity.response === response.id,
    });
  return questions;
}

const asked = (need: Need): Question => need;
