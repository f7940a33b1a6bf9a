import type { DidSpan, Note, Step } from "@perceptum/core/behaviour";
import type { Finding } from "@perceptum/core/findings";
import type { LightId, ModeId, ResponseId, TapeId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import type { FrameFacts } from "@perceptum/core/vision";
import type { ResponseReason, RunChoice, Trace, Tried, Verdict } from "@perceptum/core/world";
import type { Remote } from "comlink";
import type { MentorWorker } from "../../workers/mentor.worker";
import type { Failed } from "../failed";
import { LatestOnly } from "../LatestOnly";
import { Published } from "../Published";
import type { Readings } from "../session/Readings";
import type { Surroundings } from "../surroundings";
import { WorkerLink } from "../WorkerLink";

/** A run, how each check of its course came out, and the project that it was made with. */
export interface LastRun {
  trace: Trace;
  verdicts: readonly Verdict[];
  /** What was done, stretch by stretch. */
  did: readonly DidSpan[];
  project: ProjectDocument;
  /** The project that it was made of; another one where conditions were changed for the run. */
  base: ProjectDocument;
  choice: RunChoice;
  /** Under which conditions, in words; empty for the project's own. */
  under: string;
}

const LIMIT_MS = 60_000;

/** How long a project has to stay as it is before fixes are tried on it, in ms: the trial costs two runs a course. */
const REST_MS = 600;

interface Advising {
  project: ProjectDocument;
  tape: TapeId | null;
  frames: readonly FrameFacts[];
}

/** The slower work beside the judging: findings, rehearsals and runs. Its worker is made when it is first asked. */
export class Mentor {
  readonly findings = new Published<{ project: ProjectDocument | null; list: readonly Finding[] }>({
    project: null,
    list: [],
  });
  /** What the behaviour would do on a tape. */
  readonly did = new Published<{ tape: TapeId | null; spans: readonly DidSpan[]; notes: readonly Note[] }>({
    tape: null,
    spans: [],
    notes: [],
  });
  readonly lastRun = new Published<LastRun | null>(null);
  /** The sweep that was made last to its end: of which project and course, and in how many runs every check held. */
  readonly lastSweep = new Published<{ base: ProjectDocument; course: string; passed: number; runs: number } | null>(
    null,
  );
  /** A run that others are compared with. */
  readonly keptRun = new Published<LastRun | null>(null);

  private readonly worker: WorkerLink<MentorWorker>;
  private readonly advising: LatestOnly<Advising>;
  /** What advice was asked for last. */
  private asked: Advising | null = null;
  private readonly wondering: LatestOnly<() => Promise<void>>;
  /** The rest after the last findings, and then their fixes are tried. */
  private resting: ReturnType<typeof setTimeout> | undefined;
  /** Whether the worker has the readings that are now here. */
  private hasReadings = false;
  private readonly triedInVain: (error: unknown) => undefined;

  constructor(
    private readonly readings: Readings,
    { startWorker, spares }: Surroundings,
    broke: (message: string) => void,
    failed: Failed,
  ) {
    this.worker = new WorkerLink(() => startWorker("mentor"), {
      limitMs: LIMIT_MS,
      spares: spares.mentor,
      prepare: async () => {
        this.hasReadings = false;
      },
      broke,
    });
    this.advising = new LatestOnly(async (asked) => {
      const { project, tape, frames } = asked;
      const { heads } = this.readings.taughtBy(project.tapes);
      const taught = heads === project.tapes ? project : { ...project, tapes: heads };
      const { list, fixes } = await this.askOfReadings(project, (remote) => remote.findings(taught, frames));
      this.findings.set({ project, list });
      const did =
        tape === null ? NOTHING_DONE : await this.askOfReadings(project, (remote) => remote.did(taught, tape, frames));
      this.did.set({ tape, ...did });
      // A fix is offered once it has been seen to mend. Runs that are asked for meanwhile do not wait for that.
      if (asked === this.asked) this.resting = setTimeout(() => void this.tryFixes(project, fixes), REST_MS);
    }, failed("Findings could not be worked out"));
    this.wondering = new LatestOnly((work) => work(), failed("Why a response ran could not be worked out"));
    this.triedInVain = failed("A fix could not be tried");
    readings.version.subscribe(() => {
      this.hasReadings = false;
    });
  }

  end(): void {
    clearTimeout(this.resting);
    this.worker.end();
  }

  /** Tries the fixes of findings one by one, as long as these are the findings. */
  private async tryFixes(project: ProjectDocument, fixes: readonly number[]): Promise<void> {
    for (const i of fixes) {
      const tried = await this.worker.ask((remote) => remote.tried(i)).catch(this.triedInVain);
      const now = this.findings.get();
      if (now.project !== project) return;
      if (tried?.fix !== undefined) this.findings.set({ project, list: now.list.with(i, tried) });
    }
  }

  /** Asks for findings and for what the behaviour does on a tape. */
  advise(project: ProjectDocument, tape: TapeId | null, frames: readonly FrameFacts[] = []): void {
    clearTimeout(this.resting);
    this.asked = { project, tape, frames };
    this.advising.ask(this.asked);
  }

  /** Runs a project on a course; the trace becomes the last run. */
  async run(
    project: ProjectDocument,
    choice: RunChoice,
    changed: { base: ProjectDocument; under: string } = { base: project, under: "" },
  ): Promise<LastRun> {
    const made = await this.worker.ask((remote) => remote.run(project, choice));
    const run = { ...made, project, choice, ...changed };
    this.lastRun.set(run);
    return run;
  }

  /** What one step alone does on the robot. */
  tryStep(project: ProjectDocument, step: Step, light: LightId | null): Promise<Tried> {
    return this.worker.ask((remote) => remote.tryStep(project, step, light));
  }

  /** Why a response ran, or did not, at an instant of a run. Of several questions at once only the last is answered. */
  why(
    { project, choice }: LastRun,
    t: number,
    [mode, response]: [ModeId, ResponseId],
    answer: (reason: ResponseReason | undefined) => void,
  ): void {
    this.wondering.ask(async () => {
      answer(await this.worker.ask((remote) => remote.why(project, choice, t, mode, response)));
    });
  }

  /** Asks what goes by readings: the worker is given them first where it does not have them. */
  private askOfReadings<R>(
    project: ProjectDocument,
    question: (remote: Remote<MentorWorker>) => Promise<R>,
  ): Promise<R> {
    return this.worker.ask((remote) => {
      if (!this.hasReadings) void remote.setReadings([...this.readings.taughtBy(project.tapes).readings]);
      this.hasReadings = true;
      return question(remote);
    });
  }
}

const NOTHING_DONE = { spans: [], notes: [] };
