import type { DidSpan, Note, Step } from "@perceptum/core/behaviour";
import type { Finding } from "@perceptum/core/findings";
import type { LightId, ModeId, ProjectDocument, ResponseId, RuleSet, RuleSetId, TapeId } from "@perceptum/core/project";
import { emptyScore, type Flips, type JudgedTape, type Score, type SeenSpan } from "@perceptum/core/teaching";
import type { ResponseReason, RunChoice, Trace, Tried, Verdict } from "@perceptum/core/world";
import { type Remote, wrap } from "comlink";
import type { JudgeWorker } from "../workers/judge.worker";
import type { MentorWorker } from "../workers/mentor.worker";
import type { Suggested, TeacherWorker } from "../workers/teacher.worker";
import { DRAG } from "./document";
import { LatestOnly } from "./LatestOnly";
import { Published } from "./Published";
import { readingStore } from "./readings";
import type { AppStore } from "./store";

/** The judgement of all tapes by the rules of `project`; the last one stays until the next is there. */
export interface Judged {
  project: ProjectDocument | null;
  tapes: ReadonlyMap<TapeId, JudgedTape>;
  score: Score;
  /** What the drag that goes on has gained and lost so far. */
  change: Flips | null;
  /** Against the rules that are kept as they were before. */
  before: { score: Score; flips: ReadonlyMap<TapeId, readonly SeenSpan[]>; sum: Flips } | null;
}

export const judged = new Published<Judged>({
  project: null,
  tapes: new Map(),
  score: emptyScore(0),
  change: null,
  before: null,
});
export const findings = new Published<{ project: ProjectDocument | null; list: readonly Finding[] }>({
  project: null,
  list: [],
});
/** What the behaviour would do on a tape. */
export const did = new Published<{ tape: TapeId | null; spans: readonly DidSpan[]; notes: readonly Note[] }>({
  tape: null,
  spans: [],
  notes: [],
});
/** A run, how each check of its course came out, and the project that it was made with. */
export interface LastRun {
  trace: Trace;
  verdicts: readonly Verdict[];
  project: ProjectDocument;
  /** The project that it was made of; another one where conditions were changed for the run. */
  base: ProjectDocument;
  choice: RunChoice;
  /** Under which conditions, in words; empty for the project's own. */
  under: string;
}
export const lastRun = new Published<LastRun | null>(null);

/** A run that others are compared with. */
export const keptRun = new Published<LastRun | null>(null);

const judge = wrap<JudgeWorker>(new Worker(new URL("../workers/judge.worker.ts", import.meta.url), { type: "module" }));
let mentorMade: Remote<MentorWorker> | null = null;
/** The worker for what is slower; made when it is first asked, so that the first screen does not wait for it. */
function mentor(): Remote<MentorWorker> {
  mentorMade ??= wrap<MentorWorker>(
    new Worker(new URL("../workers/mentor.worker.ts", import.meta.url), { type: "module" }),
  );
  return mentorMade;
}
/** Whether it has the readings that are now here. */
let mentorHolds = false;

let stoodOn: ProjectDocument | null = null;
const kept: Record<"before" | "drag", readonly RuleSet[] | null> = { before: null, drag: null };

/** What is to be judged, and what it is compared with. */
interface JudgeTask {
  project: ProjectDocument;
  before: readonly RuleSet[] | null;
  drag: readonly RuleSet[] | null;
}

const judging = new LatestOnly<JudgeTask>(async (task) => {
  const { project } = task;
  const { sensors, ruleSets, targets, lights, tapes } = project;
  const same =
    stoodOn?.sensors === sensors && stoodOn.targets === targets && stoodOn.lights === lights && stoodOn.tapes === tapes;
  // The worker takes what it is sent in turn: nothing waits here for the page to come round between two of them.
  const sent: Promise<void>[] = [];
  if (!same) {
    sent.push(judge.stand({ sensors, targets, lights, tapes }));
    stoodOn = project;
  }
  for (const which of ["before", "drag"] as const) {
    if (kept[which] === task[which]) continue;
    kept[which] = task[which];
    sent.push(judge.keep(which, task[which] as RuleSet[] | null));
  }
  const [{ tapes: judgedTapes, score, change, before }] = await Promise.all([judge.judge(ruleSets), ...sent]);
  judged.set({
    project,
    tapes: new Map(judgedTapes),
    score,
    change,
    before: before && { score: before.score, flips: new Map(before.tapes), sum: before.flips },
  });
});

const advising = new LatestOnly<{ project: ProjectDocument; tape: TapeId | null }>(async ({ project, tape }) => {
  if (!mentorHolds) {
    mentorHolds = true;
    await mentor().hold([...readingStore.all]);
  }
  findings.set({ project, list: await mentor().findings(project) });
  did.set({ tape, ...(tape === null ? { spans: [], notes: [] } : await mentor().did(project, tape)) });
});

/** Gives the judge the readings that are now here, before anything it is asked next; the mentor gets them when it is asked. */
export function holdReadings(): void {
  mentorHolds = false;
  void judge.hold([...readingStore.all]);
}

/**
 * Asks for a judgement as soon as the project changes, before the page renders it: during a drag that saves a frame.
 */
export function startJudging(store: AppStore): void {
  let last: JudgeTask | null = null;
  store.subscribe(() => {
    const { document, view } = store.getState();
    const { present, settled, gesture } = document;
    if (present === null) return;
    const drag = gesture?.startsWith(DRAG) && settled !== null ? settled.ruleSets : null;
    const { before } = view;
    // The end of a drag alone changes nothing that would have to be judged.
    if (last !== null && last.project === present && last.before === before) return;
    last = { project: present, before, drag };
    judging.ask(last);
  });
}

/** Asks for findings and for what the behaviour does on a tape. */
export const askAdvice = (project: ProjectDocument, tape: TapeId | null) => advising.ask({ project, tape });

/** Runs a project on a course in the worker; the trace becomes the last run. */
export async function runProject(
  project: ProjectDocument,
  choice: RunChoice,
  changed: { base: ProjectDocument; under: string } = { base: project, under: "" },
): Promise<LastRun> {
  const run = { ...(await mentor().run(project, choice)), project, choice, ...changed };
  lastRun.set(run);
  return run;
}

/** What one step alone does on the robot. */
export const tryStep = (project: ProjectDocument, step: Step, light: LightId | null): Promise<Tried> =>
  mentor().tryStep(project, step, light);

/** Why a response ran, or did not, at an instant of a run. */
export const whyInRun = (
  { project, choice }: LastRun,
  t: number,
  mode: ModeId,
  response: ResponseId,
): Promise<ResponseReason | undefined> => mentor().why(project, choice, t, mode, response);

export type { Suggested } from "../workers/teacher.worker";

/** Asks for a suggestion. Its worker is made for the question and ended after it: it is asked seldom. */
export async function askSuggestion(project: ProjectDocument, ruleSet: RuleSetId): Promise<Suggested> {
  const worker = new Worker(new URL("../workers/teacher.worker.ts", import.meta.url), { type: "module" });
  try {
    return await wrap<TeacherWorker>(worker).suggest(project, [...readingStore.all], ruleSet);
  } finally {
    worker.terminate();
  }
}
