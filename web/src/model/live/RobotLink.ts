import type { LinkState, Listens, LiveCounts, LiveMoment, PictureEvent, ReadingsEvent } from "@perceptum/core/live";
import type { ProjectDocument } from "@perceptum/core/project";
import { failureText, sentence } from "../../server/api";
import { Published } from "../Published";
import type { ProjectSession } from "../session/ProjectSession";

/** So many of the last moments are kept for a trace. */
const MOST_MOMENTS = 50_000;

/** A page that watches what acts says so every so many ms. */
const WATCH_EVERY_MS = 400;

/** Moments are told so long after the first of them, in ms: as often as a page is drawn. */
const TELL_MS = 16;

/** How a link stands now. */
export interface LinkNow {
  phase: "opening" | "open" | "closed";
  /** Whether the behaviour acts on the robot. */
  acting: boolean;
  /** What is wrong, as a sentence. */
  trouble: string | null;
  counts: LiveCounts | null;
  /** What was commanded and what happened since it was last let act. */
  moments: readonly LiveMoment[];
}

const BEGINNING: LinkNow = { phase: "opening", acting: false, trouble: null, counts: null, moments: [] };

/** An open link to a robot, wherever its line is. */
export abstract class RobotLink {
  readonly now = new Published<LinkNow>(BEGINNING);
  private readonly ears = new Set<(event: ReadingsEvent) => void>();
  private readonly eyes = new Set<(event: PictureEvent, url: string) => void>();
  /** Moments come faster than a page is drawn: they are told together. */
  private fresh: LiveMoment[] = [];
  private telling: ReturnType<typeof setTimeout> | undefined;
  /** The act that was begun here and was not ended since. */
  private acts: string | null = null;
  private watching: ReturnType<typeof setInterval> | undefined;

  /** Hears of readings until what is given back is called. */
  onReadings(hear: (event: ReadingsEvent) => void): () => void {
    this.ears.add(hear);
    return () => this.ears.delete(hear);
  }

  /** Hears of pictures, each with where it is fetched from, until what is given back is called. */
  onPictures(hear: (event: PictureEvent, url: string) => void): () => void {
    this.eyes.add(hear);
    return () => this.eyes.delete(hear);
  }

  protected change(change: Partial<LinkNow>): void {
    this.now.set({ ...this.now.get(), ...change });
  }
  protected readings(event: ReadingsEvent): void {
    for (const hear of this.ears) hear(event);
  }
  protected picture(event: PictureEvent, url: string): void {
    for (const hear of this.eyes) hear(event, url);
  }
  protected moment(moment: LiveMoment): void {
    this.fresh.push(moment);
    if (this.telling !== undefined) return;
    this.telling = setTimeout(() => {
      this.telling = undefined;
      const { moments } = this.now.get();
      this.change({ moments: [...moments, ...this.fresh.splice(0)].slice(-MOST_MOMENTS) });
    }, TELL_MS);
  }
  protected state({ act, acting, trouble, over, counts }: LinkState): void {
    // A late word of an act that was stopped here counts no more.
    const isOwn = act === this.acts;
    if (isOwn && !acting) {
      this.acts = null;
      clearInterval(this.watching);
    }
    this.change({
      acting: this.acts !== null,
      counts: counts ?? this.now.get().counts,
      trouble: trouble === null ? null : sentence(trouble),
      ...(over && { phase: "closed" as const }),
    });
  }

  /** Lets the behaviour act. */
  act(project: ProjectDocument): void {
    this.stop();
    const act = crypto.randomUUID();
    this.acts = act;
    this.change({ acting: true, trouble: null, moments: [], counts: null });
    // A page that stands still must not leave a robot driving.
    this.watching = setInterval(() => this.watch(act), WATCH_EVERY_MS);
    this.begin(act, project);
  }

  /** Changes the project by which it acts; nothing begins to act by this. */
  follow(project: ProjectDocument): void {
    if (this.acts !== null) this.alter(this.acts, project);
  }

  /** The robot stops, and nothing acts on it any more. */
  stop(): void {
    const { acts } = this;
    clearInterval(this.watching);
    if (acts === null) return;
    this.acts = null;
    this.change({ acting: false });
    this.halt(acts);
  }

  /** An act could not be begun or changed. */
  protected failed(act: string, error: unknown): void {
    if (act !== this.acts) return;
    this.stop();
    this.change({ trouble: failureText(error) });
  }

  protected abstract begin(act: string, project: ProjectDocument): void;
  protected abstract alter(act: string, project: ProjectDocument): void;
  /** Says that somebody is there who watches. */
  protected abstract watch(act: string): void;
  protected abstract halt(act: string): void;

  /** Lines are judged by these sensors from now on. */
  listenBy(_: Listens): void {}

  /** Ends all of it; a robot that is acted on stops. */
  end(): void {
    this.stop();
    clearTimeout(this.telling);
    this.change({ phase: "closed", acting: false });
  }

  /** The line is over. */
  protected over(trouble: string): void {
    clearInterval(this.watching);
    this.acts = null;
    this.change({ phase: "closed", acting: false, trouble });
  }
}

/** The link that is open in a project, or being opened; null while there is none. It ends with the project. */
export class OpenLink extends Published<RobotLink | null> {
  constructor(_: ProjectSession) {
    super(null);
  }

  end(): void {
    this.get()?.end();
    this.set(null);
  }
}
