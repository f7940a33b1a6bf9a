import type { ProjectDocument } from "@perceptum/core/project";
import { framesOf } from "@perceptum/core/readings";
import { Published } from "../Published";
import { restored } from "../store/document";
import type { AppStore } from "../store/store";
import type { OwnWindow, Surroundings } from "../surroundings";
import type { Autosave } from "./Autosave";
import type { Frames } from "./Frames";
import type { KeptWork, Unsent } from "./kept";
import { type Readings, tapesOf } from "./Readings";
import type { Recordings } from "./Recordings";

export interface EarlierVisitOptions {
  store: AppStore;
  project: string;
  surroundings: Surroundings;
  readings: Readings;
  frames: Frames;
  recordings: Recordings;
  autosave: Autosave;
  /** Tells whether the project is still open. */
  isOpen: () => boolean;
  /** Tells the person something. */
  tell: (sentence: string) => void;
}

const NO_TAPES: Pick<ProjectDocument, "tapes"> = { tapes: [] };

/** What an earlier visit of a project left in this browser: changes that were not sent, recordings that were not ended. */
export class EarlierVisit {
  /** Work that it left unsent, until the person has chosen. */
  readonly unsent = new Published<Unsent | null>(null);

  private readonly store: AppStore;
  private readonly project: string;
  private readonly kept: KeptWork;
  private readonly window: OwnWindow;
  private readonly readings: Readings;
  private readonly frames: Frames;
  private readonly recordings: Recordings;
  private readonly autosave: Autosave;
  private readonly isOpen: () => boolean;
  private readonly tell: (sentence: string) => void;

  constructor({
    store,
    project,
    surroundings,
    readings,
    frames,
    recordings,
    autosave,
    isOpen,
    tell,
  }: EarlierVisitOptions) {
    this.store = store;
    this.project = project;
    this.kept = surroundings.kept;
    this.window = surroundings.window;
    this.readings = readings;
    this.frames = frames;
    this.recordings = recordings;
    this.autosave = autosave;
    this.isOpen = isOpen;
    this.tell = tell;
  }

  /** Looks for what it left of a project that came from the server. */
  async lookFor(project: ProjectDocument, revision: number): Promise<void> {
    const [latest = null] = await this.leftUnsent(project).catch(this.notLookedFor("unsent changes"));
    if (!this.isOpen()) return;
    // The page was loaded anew before its last change was answered, and nobody saved since: it goes on where it was.
    if (latest !== null && latest.window === this.window.before && latest.revision === revision)
      await this.restore(latest).catch(() => this.unsent.set(latest));
    else this.unsent.set(latest);
    void this.lookForRecordings().catch(this.notLookedFor("recordings"));
  }

  /** Says that this browser's store did not tell what an earlier visit left. */
  private notLookedFor(what: string): (error: Error) => [] {
    return (error) => {
      if (this.isOpen())
        this.tell(
          `This browser did not tell whether an earlier visit left ${what} (${error.message}). What the server has is here.`,
        );
      return [];
    };
  }

  /** Recordings that were under way when their page went are offered; those that became tapes are not. */
  private async lookForRecordings(): Promise<void> {
    const alive = await this.window.others();
    const { present } = this.store.getState().document;
    if (!this.isOpen() || present === null) return;
    const { before, name } = this.window;
    const isGone = (window: string) => window !== name && (window === before || !alive.has(window));
    await this.recordings.look(
      isGone,
      new Set([...tapesOf(present), ...tapesOf(this.unsent.get()?.document ?? NO_TAPES)]),
    );
  }

  /** Changes of this project that no open window keeps, the latest first. Those that the server has are forgotten. */
  private async leftUnsent(project: ProjectDocument): Promise<Unsent[]> {
    const alive = await this.window.others();
    const left: Unsent[] = [];
    // What the page before noted as it went is as new as what the browser keeps of it, and its lock may still be held.
    const last = this.window.takeLeft(this.project);
    const kept = await this.kept.changes(this.project);
    if (last === null && kept.length === 0) return left;
    const { remade, saysTheSame } = await import("./remade");
    for (const change of last === null ? kept : [last, ...kept.filter((k) => k.window !== last.window)]) {
      if (alive.has(change.window) && change !== last) continue;
      const unsent = remade(change);
      if (!saysTheSame(unsent.document, project)) left.push(unsent);
      else await this.kept.forget(this.project, unsent.window);
    }
    return left.sort((a, b) => b.at - a.at);
  }

  /** Takes up unsent work. It is sent on the revision that it was made on: what was saved since makes a conflict. */
  async restore(unsent: Unsent): Promise<void> {
    for (const { id } of unsent.document.tapes) {
      if (this.readings.get(id) !== undefined) continue;
      const kept = await this.kept.readings(this.project, id);
      if (kept !== undefined) this.readings.add(id, kept);
    }
    for (const name of framesOf(unsent.document.tapes)) {
      const kept = await this.kept.frame(this.project, name);
      if (kept !== undefined) this.frames.add(name, kept);
    }
    // A tape whose readings are neither here nor there cannot be kept.
    await this.readings.load(
      unsent.document.tapes.flatMap(({ id }) => (this.readings.get(id) === undefined ? [id] : [])),
    );
    if (!this.isOpen()) return;
    this.autosave.takeUp(unsent);
    this.store.dispatch(restored({ project: unsent.document, revision: unsent.revision }));
    this.unsent.set(null);
    if (unsent.lost > 0)
      this.tell(
        `${unsent.lost} of ${unsent.edits.length} unsent changes could not be made again: a page of another version kept them. All others are here.`,
      );
    const { name } = this.window;
    if (unsent.window === name) return;
    // Only once it is kept as this window's own.
    const { document: _, lost: __, ...change } = unsent;
    const moved = this.kept.keep({ ...change, window: name }).then(() => this.kept.forget(this.project, unsent.window));
    await moved.catch(() => undefined);
  }

  /** Forgets unsent work; what another visit left is offered next. */
  async discard(unsent: Unsent): Promise<void> {
    this.unsent.set(null);
    await this.kept.forget(this.project, unsent.window).catch(() => undefined);
    const { base } = this.store.getState().document;
    if (!this.isOpen() || base === null) return;
    const left = await this.leftUnsent(base).catch(() => []);
    const wanted = new Set([...this.readings.unsent, ...left.flatMap(({ document }) => tapesOf(document))]);
    const tapes = tapesOf(unsent.document).filter((tape) => !wanted.has(tape));
    await this.kept.forgetReadings(this.project, tapes).catch(() => undefined);
    const shown = new Set([base, ...left.map(({ document }) => document)].flatMap(({ tapes }) => framesOf(tapes)));
    const gone = framesOf(unsent.document.tapes).filter((name) => !shown.has(name));
    await this.kept.forgetFrames(this.project, gone).catch(() => undefined);
    if (this.isOpen()) this.unsent.set(left.at(0) ?? null);
  }
}
