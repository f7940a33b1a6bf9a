import { at } from "@perceptum/contract/paths";
import type { Edit } from "@perceptum/core/edits";
import { cutName, numbered, type RuleSetId, type SensorId, type TapeId, unusedName } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import {
  Blocks,
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
import { opened, takenBack } from "../store/document";
import type { AppStore } from "../store/store";
import { tapeChosen } from "../store/view";
import type { Surroundings } from "../surroundings";
import { Autosave, LEAVE_MS } from "./Autosave";
import { EarlierVisit } from "./EarlierVisit";
import { Editing, type EditTable } from "./Editing";
import { Frames } from "./Frames";
import type { Recorded, RecordedTape } from "./kept";
import { Readings, tapesOf } from "./Readings";
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

/** Two windows may record at once: a tape's id comes from chance and not from its name. */
const newTapeId = () => `tape-${crypto.randomUUID().slice(0, 13)}` as TapeId;

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
  /** Features of readings, worked out once for all who look at them. */
  readonly blocks = new Blocks();
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
  /** What an earlier visit left. */
  readonly earlier: EarlierVisit;
  readonly recordings: Recordings;
  /** Has the person told of work that failed. */
  readonly failed: Failed;
  /** Has the person told of a worker that broke off and is begun anew. */
  readonly broke: (message: string) => void;
  /** The project as it came, until its schema has come, too. */
  private unchecked: ProjectDocument | null = null;
  private readonly autosave: Autosave;
  private readonly services = new Map<ServiceKind<Service>, Service>();
  private readonly editing: Editing;
  /** Makes one edit of the open project; gives a sentence where it is not made. */
  readonly do: Editing["do"];

  constructor(
    readonly id: string,
    readonly store: AppStore,
    readonly surroundings: Surroundings,
    table: EditTable,
  ) {
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
    this.judging = new Judging(store, id, this.readings, surroundings, broke, this.failed);
    this.mentor = new Mentor(this.readings, surroundings, broke, this.failed);
    this.marked = new MarkedTapes(store, this.readings, this.blocks);
    this.teacher = new Teacher(this.readings, surroundings.startWorker);
    this.editing = new Editing({
      table,
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
    this.earlier = new EarlierVisit({
      store,
      project: id,
      surroundings,
      readings: this.readings,
      frames: this.frames,
      recordings: this.recordings,
      autosave: this.autosave,
      isOpen: () => this.isOpen,
      tell: (sentence) => this.notice.set(sentence),
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
    await this.earlier.lookFor(project, revision);
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
    this.editing.whenPrepared(() => {
      if (alongside.length === 0) this.do("addTapes", tapes);
      else this.do("together", { did, edits: [...alongside, { edit: "addTapes", args: tapes }] });
      const shown = heads.at(chosen);
      if (shown !== undefined) this.store.dispatch(tapeChosen(shown.id));
    });
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
    this.keepRecording();
    this.bench.stop();
    if (this.editing.isWaiting) await this.editing.settled(LEAVE_MS);
    const sent = this.autosave.leave();
    this.ending.abort();
    this.judging.end();
    this.mentor.end();
    this.teacher.end();
    for (const service of this.services.values()) service.end();
    await sent;
  }
}
