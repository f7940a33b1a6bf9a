import type { TapeId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import type { RawReadings, TapeHead } from "@perceptum/core/readings";
import type { RuleSet, SeenSpan } from "@perceptum/core/rules";
import { emptyScore, type Flips, figuresOf, type JudgedTape, type ScoreFigures } from "@perceptum/core/teaching";
import type { JudgeWorker } from "../../workers/judge.worker";
import type { Failed } from "../failed";
import { LatestOnly } from "../LatestOnly";
import { Published } from "../Published";
import type { Readings } from "../session/Readings";
import type { AppStore } from "../store/store";
import type { Surroundings } from "../surroundings";
import { WorkerLink } from "../WorkerLink";

/** The judgement of all tapes by the rules of `project`; the last one stays until the next is there. */
export interface Judged {
  project: ProjectDocument | null;
  tapes: ReadonlyMap<TapeId, JudgedTape>;
  score: ScoreFigures;
  /** What the drag that goes on has gained and lost so far. */
  change: Flips | null;
  /** Against the rules that are kept as they were before. */
  before: { score: ScoreFigures; flips: ReadonlyMap<TapeId, readonly SeenSpan[]>; sum: Flips } | null;
}

/** What is to be judged, and what it is compared with. */
interface JudgeTask {
  project: ProjectDocument;
  before: readonly RuleSet[] | null;
  drag: readonly RuleSet[] | null;
}

const NOTHING_JUDGED: Judged = {
  project: null,
  tapes: new Map(),
  score: figuresOf(emptyScore(0)),
  change: null,
  before: null,
};

const LIMIT_MS = 30_000;
/** So often in a row a worker may break off and be asked again; then the next change asks. */
const MOST_TRIES = 3;

/** Judges all tapes anew whenever rules, marks or readings change. */
export class Judging {
  readonly judged = new Published<Judged>(NOTHING_JUDGED);
  /** The same without those of a drag that goes on. */
  readonly settled = new Published<Judged>(NOTHING_JUDGED);
  private readonly worker: WorkerLink<JudgeWorker>;
  private readonly judging: LatestOnly<JudgeTask>;
  private last: JudgeTask | null = null;
  /** How often the worker broke off since its last answer. */
  private broken = 0;
  /** What the worker was told last; nothing of it after a new one was made. */
  private projectThere: ProjectDocument | null = null;
  private tapesThere: readonly TapeHead[] | null = null;
  private comparedWith: Record<"before" | "drag", readonly RuleSet[] | null> = { before: null, drag: null };
  private readonly unsubscribe: () => void;

  constructor(
    private readonly store: AppStore,
    private readonly project: string,
    private readonly readings: Readings,
    { startWorker, spares }: Surroundings,
    broke: (message: string) => void,
    failed: Failed,
  ) {
    this.worker = new WorkerLink(() => startWorker("judge"), {
      limitMs: LIMIT_MS,
      spares: spares.judge,
      prepare: (remote) => {
        this.projectThere = null;
        this.comparedWith = { before: null, drag: null };
        return remote.begin(this.readingsFor());
      },
      broke: (message) => {
        broke(message);
        if (this.last !== null && ++this.broken < MOST_TRIES) this.judging.ask(this.last);
      },
    });
    this.judging = new LatestOnly((task) => this.judge(task), failed("The readings could not be judged"));
    this.unsubscribe = store.subscribe(() => this.notice());
    readings.version.subscribe(() => {
      this.worker.tell((remote) => remote.setReadings(this.readingsFor()));
      // The pixels of a camera's boxes come after the boxes.
      const { last } = this;
      if (last?.project.tapes.some((tape) => tape.frames !== undefined)) this.judging.ask(last);
    });
  }

  private readingsFor(): [TapeId, RawReadings][] {
    const { tapes = [] } = this.store.getState().document.present ?? {};
    return [...this.readings.taughtBy(tapes).readings];
  }

  end(): void {
    this.unsubscribe();
    this.worker.end();
  }

  /** Asks for what is now in the store to be judged, unless it has been asked for already. */
  notice(): void {
    const { document, view } = this.store.getState();
    const { id, present, settled, gesture } = document;
    if (present === null || id !== this.project) return;
    const drag = gesture?.by === "drag" && settled !== null ? settled.ruleSets : null;
    const { before } = view;
    if (drag === null) this.settle();
    // The end of a drag alone changes nothing that would have to be judged.
    if (this.last !== null && this.last.project === present && this.last.before === before) return;
    this.last = { project: present, before, drag };
    this.judging.ask(this.last);
  }

  private settle(): void {
    const judged = this.judged.get();
    if (judged !== this.settled.get()) this.settled.set(judged);
  }

  private async judge(task: JudgeTask): Promise<void> {
    const { project } = task;
    const answer = await this.worker.ask((remote) => {
      const { sensors, ruleSets, targets, lights } = project;
      const { heads: tapes } = this.readings.taughtBy(project.tapes);
      const same =
        this.projectThere?.sensors === sensors &&
        this.projectThere.targets === targets &&
        this.projectThere.lights === lights &&
        this.tapesThere === tapes;
      // The worker takes what it is sent in turn: nothing waits here for the page to come round between two of them.
      const sent: Promise<void>[] = [];
      if (!same) {
        sent.push(remote.setProject({ sensors, targets, lights, tapes }));
        this.projectThere = project;
        this.tapesThere = tapes;
      }
      for (const which of ["before", "drag"] as const) {
        if (this.comparedWith[which] === task[which]) continue;
        this.comparedWith[which] = task[which];
        sent.push(remote.compareWith(which, task[which] as RuleSet[] | null));
      }
      const judged = remote.judge(ruleSets);
      return Promise.all([judged, ...sent]).then(([first]) => first);
    });
    this.broken = 0;
    const { tapes, score, change, before } = answer;
    this.judged.set({
      project,
      tapes: new Map(tapes),
      score,
      change,
      before: before && { score: before.score, flips: new Map(before.tapes), sum: before.flips },
    });
    if (task.drag === null || this.store.getState().document.gesture === null) this.settle();
    this.store.drawHeld();
  }
}
