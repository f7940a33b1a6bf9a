import { at } from "@perceptum/contract/paths";
import type { Edit } from "@perceptum/core/edits";
import { cutName, numbered, type RuleSetId, type SensorId, type TapeId, unusedName } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import {
  framesOf,
  type MarkedReadings,
  type RawReadings,
  type ReadingBlock,
  type Sensor,
  type TapeHead,
} from "@perceptum/core/readings";
import type { FrameFacts } from "@perceptum/core/vision";
import { agreedProject, fetchProject, fetchUnchecked, sentence } from "../../server/api";
import { ask } from "../../server/ask";
import { type Failed, failedBy } from "../failed";
import { Judging } from "../judging/Judging";
import { MarkedTapes } from "../judging/MarkedTapes";
import { Mentor } from "../judging/Mentor";
import { Teacher } from "../judging/Teacher";
import { Bench } from "../live/Bench";
import { Published } from "../Published";
import { opened, restored, takenBack } from "../store/document";
import type { AppStore } from "../store/store";
import { tapeChosen } from "../store/view";
import type { OwnWindow, Surroundings } from "../surroundings";
import { Autosave } from "./Autosave";
import { Editing } from "./Editing";
import { Frames } from "./Frames";
import type { KeptWork, Recorded, RecordedTape, Unsent } from "./kept";
import { Readings } from "./Readings";
import { type LeftRecording, Recordings } from "./Recordings";

/** A tape that is to be added: its readings get an id of their own. */
export interface NewTape extends MarkedReadings, Pick<TapeHead, "frames" | "boxes"> {
  /** The id that it was recorded under. */
  id?: TapeId;
  name: string;
  sensor: SensorId;
  origin: TapeHead["origin"];
}

/** A change of tapes: new ones in the place of those that go, and whatever changes beside them. */
export interface TapeChange {
  /** What was done, behind “Undo:”. */
  did: string;
  made: readonly NewTape[];
  gone?: readonly TapeId[];
  /** Other edits of the same change: what the new tapes need. */
  alongside?: readonly Edit[];
  /** The place of the new one that is shown then; the last where nothing is said. */
  chosen?: number;
}

/** A pixel of a camera's frame as a reading, in px of the upright frame. */
export interface Probe {
  sensor: Sensor;
  raw: RawReadings;
  column: number;
  row: number;
}

/** Something that works for an open project. */
interface Service {
  end(): void;
}
type ServiceKind<S extends Service> = new (session: ProjectSession) => S;

/** How long one who leaves a project waits for edits that cannot be made yet, in ms. */
const LEAVE_MS = 5000;

/** Two windows may record at once: a tape's id comes from chance and not from its name. */
const newTapeId = () => `tape-${crypto.randomUUID().slice(0, 13)}` as TapeId;

const NO_TAPES: Pick<ProjectDocument, "tapes"> = { tapes: [] };

const tapesOf = ({ tapes }: Pick<ProjectDocument, "tapes">): TapeId[] => tapes.map((tape) => tape.id);

/**
 * All that lives as long as a project is open, beside its document in the store: readings, workers and their last
 * results, bench and recorder, autosave. It is made when the project is opened and ended when it is left; nothing of it
 * is stored or shown afterwards.
 */
export class ProjectSession {
  private readonly ending = new AbortController();
  readonly readings: Readings;
  readonly frames: Frames;
  readonly judging: Judging;
  readonly marked: MarkedTapes;
  readonly mentor: Mentor;
  readonly teacher: Teacher;
  readonly bench = new Bench();
  /** The pixel of a frame that is looked at. */
  readonly probe = new Published<Probe | null>(null);
  /** What the frames of tapes show, as far as they were looked at. */
  readonly frameFacts = new Published<ReadonlyMap<TapeId, FrameFacts>>(new Map());
  /** Of the frame that is looked at some pixels, evenly picked, and the rule set that judges them. */
  readonly framePixels = new Published<{ ruleSet: RuleSetId; block: ReadingBlock } | null>(null);
  /** The project after the last move of a drag, before that is drawn. */
  readonly ahead = new Published<ProjectDocument | null>(null);
  /** What broke off and was begun anew, as a sentence. */
  readonly notice = new Published<string | null>(null);
  /** Work that an earlier visit left unsent, until the person has chosen. */
  readonly unsent = new Published<Unsent | null>(null);
  readonly recordings: Recordings;
  /** Has the person told of work that failed. */
  readonly failed: Failed;
  /** Has the person told of a worker that broke off and is begun anew. */
  readonly broke: (message: string) => void;
  /** The project as it came, until its schema has come, too. */
  private unchecked: ProjectDocument | null = null;
  private readonly kept: KeptWork;
  private readonly window: OwnWindow;
  private readonly autosave: Autosave;
  private readonly services = new Map<ServiceKind<Service>, Service>();
  private readonly editing: Editing;
  /** Makes one edit of the open project; gives a sentence where it is not made. */
  readonly do: Editing["do"];
  /** Fetches the table of edits. */

  constructor(
    readonly id: string,
    readonly store: AppStore,
    readonly surroundings: Surroundings,
  ) {
    const { startWorker } = surroundings;
    this.kept = surroundings.kept;
    this.window = surroundings.window;
    const broke = (message: string) =>
      this.notice.set(`A part of the page broke off (${message}). It is started anew; your project is untouched.`);
    this.failed = failedBy((sentence) => this.isOpen && this.notice.set(sentence));
    this.broke = broke;
    const unlisten = surroundings.page.onFailure(this.failed("Something failed"));
    this.ending.signal.addEventListener("abort", unlisten);
    this.readings = new Readings(id, this.ending.signal);
    this.frames = new Frames(id);
    this.recordings = new Recordings(
      id,
      surroundings,
      this.frames,
      (sentence) => this.isOpen && this.notice.set(sentence),
    );
    this.judging = new Judging(store, id, this.readings, startWorker, broke, this.failed);
    this.mentor = new Mentor(this.readings, startWorker, broke, this.failed);
    this.marked = new MarkedTapes(store, this.readings);
    this.teacher = new Teacher(this.readings, startWorker);
    this.editing = new Editing({
      store,
      id,
      isOpen: () => this.isOpen,
      tell: (sentence) => this.notice.set(sentence),
      dragged: (project) => {
        this.judging.notice();
        this.ahead.set(project);
      },
    });
    this.do = this.editing.do;
    this.autosave = new Autosave({
      store,
      project: id,
      surroundings,
      readings: this.readings,
      frames: this.frames,
      editsBetween: this.editing.between,
    });
  }

  /** A service that comes with a part of the page: made when it is first asked for, and ended with the session. */
  service<S extends Service>(Kind: ServiceKind<S>): S {
    const known = this.services.get(Kind);
    if (known !== undefined) return known as S;
    const made = new Kind(this);
    this.services.set(Kind, made);
    return made;
  }

  get isOpen(): boolean {
    return !this.ending.signal.aborted;
  }

  /** Fetches the project and its readings and puts it into the store. @throws Error with a sentence */
  async open(): Promise<void> {
    const { project, revision } = await fetchUnchecked(this.id, this.ending.signal);
    await this.readings.load(tapesOf(project));
    if (!this.isOpen) return;
    this.unchecked = project;
    this.store.dispatch(opened({ id: this.id, project, revision }));
    this.tellDamaged(project);
    // The list shows when a project was opened last; where that cannot be noted nothing is lost.
    void ask(at("opened", { id: this.id }), { method: "PUT" }).catch(() => undefined);
    const [latest = null] = await this.leftUnsent(project).catch(this.notLookedFor("unsent changes"));
    if (!this.isOpen) return;
    // The page was loaded anew before its last change was answered, and nobody saved since: it goes on where it was.
    if (latest !== null && latest.window === this.window.before && latest.revision === revision)
      await this.restore(latest).catch(() => this.unsent.set(latest));
    else this.unsent.set(latest);
    void this.lookForRecordings().catch(this.notLookedFor("recordings"));
  }

  /** Says that this browser's store did not tell what an earlier visit left. */
  private notLookedFor(what: string): (error: Error) => [] {
    return (error) => {
      if (this.isOpen)
        this.notice.set(
          `This browser did not tell whether an earlier visit left ${what} (${error.message}). What the server has is here.`,
        );
      return [];
    };
  }

  /** Fetches what edits and checks a project, once the first screen stands; what was opened is checked then. */
  async prepare(): Promise<void> {
    await this.editing.prepare();
    const { unchecked } = this;
    this.unchecked = null;
    if (unchecked === null) return;
    await agreedProject(unchecked).catch((error: Error) => {
      if (this.isOpen) this.notice.set(`${sentence(error.message)} What you change now may not be saved.`);
    });
  }

  /** Says which tapes could not be had whole. */
  private tellDamaged({ tapes }: ProjectDocument): void {
    const names = tapes.flatMap(({ id, name }) => (this.readings.damaged.has(id) ? [`“${name}”`] : []));
    if (names.length > 0)
      this.notice.set(
        `${names.join(", ")} is shown without readings: they are damaged in the database, and no backup has them whole. All else is here. A file that you save leaves the tape out.`,
      );
  }

  /** Recordings that were under way when their page went are offered; those that became tapes are not. */
  private async lookForRecordings(): Promise<void> {
    const alive = await this.window.others();
    const { present } = this.store.getState().document;
    if (!this.isOpen || present === null) return;
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
    const text = JSON.stringify(project);
    const left: Unsent[] = [];
    // What the page before noted as it went is as new as what the browser keeps of it, and its lock may still be held.
    const last = this.window.takeLeft(this.id);
    const kept = await this.kept.changes(this.id);
    if (last === null && kept.length === 0) return left;
    const { remade } = await import("./remade");
    for (const change of last === null ? kept : [last, ...kept.filter((k) => k.window !== last.window)]) {
      if (alive.has(change.window) && change !== last) continue;
      const unsent = remade(change);
      if (JSON.stringify(unsent.document) !== text) left.push(unsent);
      else await this.kept.forget(this.id, unsent.window);
    }
    return left.sort((a, b) => b.at - a.at);
  }

  /** Takes up unsent work. It is sent on the revision that it was made on: what was saved since makes a conflict. */
  async restore(unsent: Unsent): Promise<void> {
    for (const { id } of unsent.document.tapes) {
      if (this.readings.get(id) !== undefined) continue;
      const kept = await this.kept.readings(this.id, id);
      if (kept !== undefined) this.readings.add(id, kept);
    }
    for (const name of framesOf(unsent.document.tapes)) {
      const kept = await this.kept.frame(this.id, name);
      if (kept !== undefined) this.frames.add(name, kept);
    }
    // A tape whose readings are neither here nor there cannot be kept.
    await this.readings.load(
      unsent.document.tapes.flatMap(({ id }) => (this.readings.get(id) === undefined ? [id] : [])),
    );
    if (!this.isOpen) return;
    this.autosave.takeUp(unsent);
    this.store.dispatch(restored({ project: unsent.document, revision: unsent.revision }));
    this.unsent.set(null);
    if (unsent.lost > 0)
      this.notice.set(
        `${unsent.lost} of ${unsent.edits.length} unsent changes could not be made again: a page of another version kept them. All others are here.`,
      );
    const { name } = this.window;
    if (unsent.window === name) return;
    // Only once it is kept as this window's own.
    const { document: _, lost: __, ...change } = unsent;
    const moved = this.kept.keep({ ...change, window: name }).then(() => this.kept.forget(this.id, unsent.window));
    await moved.catch(() => undefined);
  }

  /** Forgets unsent work; what another visit left is offered next. */
  async discard(unsent: Unsent): Promise<void> {
    this.unsent.set(null);
    await this.kept.forget(this.id, unsent.window).catch(() => undefined);
    const { base } = this.store.getState().document;
    if (!this.isOpen || base === null) return;
    const left = await this.leftUnsent(base).catch(() => []);
    const wanted = new Set([...this.readings.unsent, ...left.flatMap(({ document }) => tapesOf(document))]);
    const tapes = tapesOf(unsent.document).filter((tape) => !wanted.has(tape));
    await this.kept.forgetReadings(this.id, tapes).catch(() => undefined);
    const shown = new Set([base, ...left.map(({ document }) => document)].flatMap(({ tapes }) => framesOf(tapes)));
    const gone = framesOf(unsent.document.tapes).filter((name) => !shown.has(name));
    await this.kept.forgetFrames(this.id, gone).catch(() => undefined);
    if (this.isOpen) this.unsent.set(left.at(0) ?? null);
  }

  /** Takes over the project as the server has it; what was changed here is dropped. @throws Error with a sentence */
  async takeSaved(): Promise<void> {
    const { project, revision } = await fetchProject(this.id, this.ending.signal);
    await this.readings.load(tapesOf(project));
    await this.autosave.forget();
    if (this.isOpen) this.store.dispatch(opened({ id: this.id, project, revision }));
  }

  /** Goes back to what the server has; what is left can be brought back by undo as long as the project is open. */
  async takeBack(): Promise<void> {
    if (!this.isOpen) return;
    this.store.dispatch(takenBack());
    await this.autosave.forget();
  }

  /** Adds tapes. Their readings are here at once; they are kept in this browser until the server has them. */
  changeTapes({ did, made, gone = [], alongside = [], chosen = -1 }: TapeChange): void {
    if (!this.isOpen) return;
    const heads = made.map(({ name, readings, id = newTapeId(), ...head }): TapeHead => {
      this.readings.add(id, readings);
      return { ...head, id, name: cutName(name) };
    });
    const tapes = { did, tapes: heads, gone: [...gone] };
    if (alongside.length === 0) this.do("addTapes", tapes);
    else this.do("together", { did, edits: [...alongside, { edit: "addTapes", args: tapes }] });
    const shown = heads.at(chosen);
    if (shown !== undefined) this.store.dispatch(tapeChosen(shown.id));
  }

  /** Begins to record, or ends it: what was recorded becomes a tape. */
  toggleRecording(): void {
    if (this.bench.isRecording) {
      this.keepRecording();
      return;
    }
    const begun = this.bench.record();
    const { present } = this.store.getState().document;
    if (begun === null || present === null) return;
    const { sensor, origin, circumstances, from } = begun;
    const light = present.lights.find((l) => l.id === circumstances.light)?.name.toLowerCase() ?? origin;
    const name = unusedName(`${sensor.name}, ${light}`, present.tapes);
    this.beginRecording({ name, sensor: sensor.id, origin }, from);
  }

  /** A recording begins: it is kept part by part until it is a tape. Gives the id that the tape will have. */
  beginRecording(of: Omit<RecordedTape, "tape">, from: (count: number) => Recorded): TapeId {
    const tape = newTapeId();
    this.recordings.begin({ ...of, tape }, from);
    return tape;
  }

  /** A recording that an earlier visit left becomes a tape. */
  async keepLeft(left: LeftRecording): Promise<void> {
    await this.recordings.takeFrames(left);
    const { tape: id, name, sensor, origin, readings, marks, frames } = left;
    const own = { id, name, sensor, origin, readings, marks: numbered("mark", marks) };
    this.changeTapes({
      did: "recording kept",
      made: [frames === undefined ? own : { ...own, frames: [...frames], boxes: [] }],
    });
    await this.recordings.forget(left);
  }

  /** Makes a tape of what is being recorded; nothing where nothing is. */
  readonly keepRecording = (): void => {
    const made = this.bench.isRecording ? this.bench.finish() : null;
    const { of } = this.recordings;
    if (made !== null && of !== null) {
      const { tape: id, ...head } = of;
      this.changeTapes({ did: "tape recorded", made: [{ ...head, ...made, id }] });
    }
    if (!this.bench.isRecording) this.recordings.end();
  };

  /** What was not saved is not sent any more: it is kept elsewhere, or wanted no more. */
  dropChanges(): void {
    this.autosave.drop();
  }

  /** Ends it: what is being recorded is kept, what waits is sent, all else is broken off. */
  async leave(): Promise<void> {
    if (!this.isOpen) return;
    if (this.editing.isWaiting) await this.editing.settled(LEAVE_MS);
    this.keepRecording();
    this.bench.stop();
    const sent = this.autosave.leave();
    this.ending.abort();
    this.judging.end();
    this.mentor.end();
    this.teacher.end();
    for (const service of this.services.values()) service.end();
    await sent;
  }
}
