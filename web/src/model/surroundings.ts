import type { JudgeWorker } from "../workers/judge.worker";
import type { MentorWorker } from "../workers/mentor.worker";
import type { KeptChange, KeptWork } from "./session/kept";
import type { Thread } from "./WorkerLink";

/** This window among others that have the same kept work. */
export interface OwnWindow {
  readonly name: string;
  /** The name that this window had before the page was loaded anew; null in a new window. */
  readonly before: string | null;
  /** Notes unsent work for the page that comes next in this window: at once, which what is kept cannot be. */
  leave(change: KeptChange): void;
  /** What the page before noted of a project; once only. */
  takeLeft(project: string): KeptChange | null;
  /** The names of the other windows that are open now. */
  others(): Promise<ReadonlySet<string>>;
}

/** The page as it goes away. */
export interface PageLife {
  /** Has something done when the page goes, whether or not it comes back. Gives how that stops. */
  onHide(hear: () => void): () => void;
  /** The person is asked before the page is left wherever `asks` says so. Gives how that stops. */
  onLeave(asks: () => boolean): () => void;
  /** Tells of what failed and was caught nowhere. Gives how that stops. */
  onFailure(hear: (error: unknown) => void): () => void;
}

/** The workers beside the page. */
export type WorkerName = "judge" | "mentor" | "teacher" | "sweep" | "vision" | "robot" | "import" | "proof";

/** Threads that have nothing to do now. */
export interface Spares {
  judge: Thread<JudgeWorker>[];
  mentor: Thread<MentorWorker>[];
}

/** What the model needs of the place where it runs: the page gives what the browser has, a test what it likes. */
export interface Surroundings {
  readonly kept: KeptWork;
  readonly window: OwnWindow;
  readonly page: PageLife;
  startWorker(name: WorkerName): Worker;
  /** The workers that a project left behind, for the one that comes next. */
  readonly spares: Spares;
  /** The number of workers that can go on at once. */
  readonly cores: number;
}
