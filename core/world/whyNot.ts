import {
  type Condition,
  type EngineState,
  holds,
  lookAt,
  type Note,
  printCondition,
  printStep,
  printTrigger,
  type Response,
  type TriggerScene,
} from "../behaviour";
import type { ModeId, ResponseId } from "../names";
import { UNKNOWN } from "../names";
import { FEATURE_FACTS, shownValue } from "../readings";
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
  holds(scene: TriggerScene, state: EngineState, notes: readonly Note[]): boolean;
  value?(scene: TriggerScene): string;
  short?(scene: TriggerScene): string;
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
  run(project, { ...choice, limitMs: Math.max(5, t) }, (program, state, notes, pressed) => {
    const scene = lookAt(program, state, pressed);
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
    const step = activity?.frame.steps[activity.frame.index];
    running = activity && { response: activity.response?.id ?? null, step: step ? printStep(step) : "" };
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
  if ("arrives" in when || "present" in when || "departs" in when) {
    const targets = "arrives" in when ? when.arrives : "present" in when ? when.present : when.departs;
    const seen: Condition = { seen: targets, ...(when.sensor !== undefined && { sensor: when.sensor }) };
    questions.push(
      "departs" in when
        ? {
            text: printTrigger(when),
            holds: (_, __, notes) => notes.some((n) => n.kind === "departs" && targets.includes(n.target)),
          }
        : question(seen),
    );
    if (response.fires === "once per visit" && !("departs" in when))
      questions.push({
        text: "this visit was not answered yet",
        holds: (scene, state) => state.arms[response.id]?.spent !== scene.visit(when.sensor),
      });
  } else if ("nothingKnownFor" in when) {
    const silence = (scene: TriggerScene) =>
      scene.seen(when.sensor) === UNKNOWN ? scene.t - Math.max(scene.knownAt(when.sensor), scene.modeSince) : 0;
    questions.push({
      text: printTrigger(when),
      holds: (scene) => silence(scene) >= when.nothingKnownFor,
      value: (scene) => seconds(silence(scene)),
      short: (scene) => seconds(when.nothingKnownFor - silence(scene)),
    });
  } else if ("after" in when) {
    questions.push({
      text: printTrigger(when),
      holds: (scene) => scene.t - scene.modeSince >= when.after,
      value: (scene) => seconds(scene.t - scene.modeSince),
      short: (scene) => seconds(when.after - (scene.t - scene.modeSince)),
    });
  } else questions.push(...partsOf("becomes" in when ? when.becomes : when.holds).map(question));
  if (guard !== undefined) questions.push(...partsOf(guard).map(question));
  if (response.busy === "let it finish")
    questions.push({
      text: "nothing else runs",
      holds: (_, { activity }) => activity === null || activity.response?.id === response.id,
    });
  return questions;
}

const seconds = (ms: number) => `${(ms / 1000).toFixed(2)} s`;

/** The parts of a condition that must all hold. */
const partsOf = (condition: Condition): Condition[] =>
  "all" in condition ? condition.all.flatMap(partsOf) : [condition];

function question(condition: Condition): Question {
  const asked: Question = { text: printCondition(condition), holds: (scene) => holds(condition, scene) };
  if ("seen" in condition) asked.value = (scene) => `${scene.seen(condition.sensor)} is seen`;
  if ("count" in condition) asked.value = (scene) => String(scene.counter(condition.count));
  if ("list" in condition) asked.value = (scene) => String(scene.length(condition.list));
  if ("feature" in condition) {
    const { feature, from, to, sensor } = condition;
    const { unit } = FEATURE_FACTS[feature];
    const shown = (x: number) => (Number.isNaN(x) ? "none" : `${shownValue(feature, x).toFixed(1)} ${unit}`.trim());
    asked.value = (scene) => shown(scene.feature(feature, sensor));
    asked.short = (scene) => {
      const x = scene.feature(feature, sensor);
      if (Number.isNaN(x)) return "";
      const gaps = [from, to].flatMap((bound) => (bound === undefined ? [] : [apart(feature === "hue", x, bound)]));
      return shown(Math.min(...gaps));
    };
  }
  return asked;
}

const apart = (onCircle: boolean, a: number, b: number) => {
  const d = Math.abs(a - b);
  return onCircle ? Math.min(d, 360 - d) : d;
};
