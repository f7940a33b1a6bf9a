import type { LinkState, LiveCounts, LiveMoment, PictureEvent, ReadingsEvent } from "@perceptum/core/live";
import type { ProjectDocument } from "@perceptum/core/project";
import type { ProjectSession } from "../session/ProjectSession";
import { Published } from "../session/Published";
import { failureText } from "../state/api";

/** So many of the last moments are kept for a trace. */
const MOST_MOMENTS = 50_000;

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

/** Words as a sentence. */
export const sentence = (words: string): string =>
  `${words.charAt(0).toUpperCase()}${words.slice(1)}${/[.!?]$/.test(words) ? "" : "."}`;

const BEGINNING: LinkNow = { phase: "opening", acting: false, trouble: null, counts: null, moments: [] };

/** An open link to a robot, wherever its line is. */
export abstract class RobotLink {
  readonly now = new Published<LinkNow>(BEGINNING);
  private readonly ears = new Set<(event: ReadingsEvent) => void>();
  private readonly eyes = new Set<(event: PictureEvent, url: string) => void>();
  /** Moments come faster than a page is drawn: they are told together. */
  private fresh: LiveMoment[] = [];
  private telling = 0;

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
    if (this.telling !== 0) return;
    this.telling = requestAnimationFrame(() => {
      this.telling = 0;
      const { moments } = this.now.get();
      this.change({ moments: [...moments, ...this.fresh.splice(0)].slice(-MOST_MOMENTS) });
    });
  }
  protected state({ acting, trouble, over, counts }: LinkState): void {
    this.change({
      acting,
      counts: counts ?? this.now.get().counts,
      trouble: trouble === null ? null : sentence(trouble),
      ...(over && { phase: "closed" as const }),
    });
  }

  /** Lets the behaviour act, or goes on by a changed project. */
  act(project: ProjectDocument): void {
    if (!this.now.get().acting) this.change({ moments: [] });
    this.send(project).catch((error: unknown) => this.change({ acting: false, trouble: sentence(failureText(error)) }));
  }
  protected abstract send(project: ProjectDocument): Promise<void>;
  /** The robot stops, and nothing acts on it any more. */
  abstract stop(): void;
  /** Ends all of it; a robot that is acted on stops. */
  end(): void {
    cancelAnimationFrame(this.telling);
    this.change({ phase: "closed", acting: false });
  }
}

const links = new WeakMap<ProjectSession, Published<RobotLink | null>>();

/** The link that is open in a project, or being opened; null while there is none. */
export function robotLink(session: ProjectSession): Published<RobotLink | null> {
  const known = links.get(session);
  if (known !== undefined) return known;
  const made = new Published<RobotLink | null>(null);
  links.set(session, made);
  return made;
}
