import { Worker } from "node:worker_threads";
import type { ProjectDocument } from "@perceptum/core/project";
import { type CameraSensor, isCamera } from "@perceptum/core/readings";
import { type RuleSet, ruleSetOf, type Target } from "@perceptum/core/rules";
import { type Remote, wrap } from "comlink";
import nodeEndpoint from "comlink/dist/esm/node-adapter";

/** A picture as a robot sends it. */
export interface Picture {
  type: string;
  bytes: Buffer;
}

/** The first camera that the robot carries, with its rules: pictures are looked at by them. */
export interface LookSetup {
  sensor: CameraSensor;
  ruleSet: RuleSet;
  targets: readonly Target[];
}
/** What came of looking at a picture: the line that the camera would say, or why there is none. */
export type Looked = { line: string } | { wrong: string };

/** What the thread does that looks at pictures. */
export interface LookWorker {
  /** Looks by this from the next picture on. */
  setSetup(setup: LookSetup): void;
  look(picture: Picture): Looked;
}

/** A picture that takes longer than this is given up, in ms. */
const LIMIT_MS = 5000;
const MOST_MEMORY_MB = 256;

/** Has the pictures of a robot's camera looked at in a thread of its own: however long one takes, nobody else waits. */
export class Looks {
  private setup: LookSetup | null = null;
  private worker: Worker | null = null;
  /** The same, as it is asked. */
  private remote: Remote<LookWorker> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private busy = false;
  /** Whether the thread has begun. */
  private isUp = false;
  private next: Picture | null = null;
  /** Pictures that gave way to newer ones. */
  private passed = 0;
  private wasWrong = false;

  constructor(
    private readonly file: string,
    private readonly hears: { found(line: string): void; wrong(why: string | null): void },
  ) {}

  /** Looks by a project from the next picture on. */
  lookBy(project: ProjectDocument): void {
    const carried = project.robot.mounts.map(({ sensor }) => project.sensors.find(({ id }) => id === sensor));
    const sensor = carried.find((own): own is CameraSensor => own !== undefined && isCamera(own));
    this.setup =
      sensor === undefined ? null : { sensor, ruleSet: ruleSetOf(project, sensor), targets: project.targets };
    if (this.setup === null) return;
    // It takes a while to begin, which no picture shall wait for.
    if (this.worker === null) this.begin();
    else this.setUp(this.setup);
  }

  /** Has a picture looked at; of those that come meanwhile only the last. */
  look(picture: Picture): void {
    if (this.setup === null) return;
    if (this.busy) {
      if (this.next !== null) this.passed++;
      this.next = picture;
      return;
    }
    this.busy = true;
    if (this.worker === null) this.begin();
    if (this.isUp) this.limit();
    this.ask(picture);
  }

  end(): void {
    clearTimeout(this.timer);
    void this.worker?.terminate();
    this.worker = null;
    this.setup = null;
  }

  private setUp(setup: LookSetup): void {
    const { worker } = this;
    this.remote?.setSetup(setup).catch((error: Error) => worker === this.worker && this.broke(error.message));
  }

  private ask(picture: Picture): void {
    const { worker } = this;
    this.remote?.look(picture).then(
      (looked) => worker === this.worker && this.answered(looked),
      (error: Error) => worker === this.worker && this.broke(error.message),
    );
  }

  /** A picture has so much time from when it is looked at: how long a thread takes to begin says nothing of it. */
  private limit(): void {
    this.timer = setTimeout(() => this.broke("it took more than 5 s"), LIMIT_MS);
  }

  private begin(): void {
    this.isUp = false;
    const worker = new Worker(this.file, { resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB } });
    worker.on("online", () => {
      if (worker !== this.worker) return;
      this.isUp = true;
      if (this.busy) this.limit();
    });
    worker.on("error", (error) => worker === this.worker && this.broke(error.message));
    this.worker = worker;
    this.remote = wrap<LookWorker>(nodeEndpoint(worker));
    worker.unref();
    if (this.setup !== null) this.setUp(this.setup);
  }

  private broke(why: string): void {
    void this.worker?.terminate();
    this.worker = null;
    this.answered({ wrong: why });
  }

  private answered(answer: Looked): void {
    clearTimeout(this.timer);
    this.busy = false;
    const { next } = this;
    this.next = null;
    if ("line" in answer) {
      this.hears.found(answer.line);
      if (this.wasWrong) this.hears.wrong(null);
    } else this.hears.wrong(`a picture was not answered: ${answer.wrong}`);
    this.wasWrong = "wrong" in answer;
    if (this.passed > 0) {
      this.hears.wrong(`${this.passed} pictures were not answered: they come faster than they can be looked at`);
      this.wasWrong = true;
      this.passed = 0;
    }
    if (next !== null) this.look(next);
  }
}
