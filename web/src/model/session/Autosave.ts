import { at } from "@perceptum/contract/paths";
import type { Edit } from "@perceptum/core/edits";
import type { TapeId } from "@perceptum/core/names";
import { capital } from "@perceptum/core/phrases";
import type { ProjectDocument } from "@perceptum/core/project";
import { framesOf } from "@perceptum/core/readings";
import type { UnknownAction } from "@reduxjs/toolkit";
import { answerOf, problemIn } from "../../server/api";
import { LatestOnly } from "../LatestOnly";
import { type DocumentState, documentReducer, type Failure, saveBegan, saved, saveFailed } from "../store/document";
import type { AppStore } from "../store/store";
import type { Surroundings } from "../surroundings";
import type { Frames } from "./Frames";
import type { Unsent } from "./kept";
import { NotTaken, type Readings } from "./Readings";

/** A change is sent when nothing more was changed for this long. */
const QUIET_MS = 400;
/** A request that takes longer is given up and repeated. */
const SEND_LIMIT_MS = 10_000;
/** Pauses before a change is sent again, the last one over and over. */
const PAUSES_MS = [1000, 2000, 4000, 8000, 15_000, 30_000];
/** Remembers so many requests that were not answered. */
const MOST_UNANSWERED = 8;
/** Browsers let at most 64 KiB outlive a page. */
const MOST_KEEPALIVE = 60_000;
/** How long one who leaves a project waits for its last edits, in ms. */
export const LEAVE_MS = 5000;

export interface AutosaveOptions {
  store: AppStore;
  project: string;
  surroundings: Surroundings;
  readings: Readings;
  frames: Frames;
  /** The edits that lead from one document to another; undefined where there is no such way, or a long one. */
  editsBetween(from: ProjectDocument, to: ProjectDocument): readonly Edit[] | undefined;
}

/** A document on its way to the server, by the id that makes a repeated request the same one. */
interface Send {
  document: ProjectDocument;
  revision: number;
  id: string;
}

/** A document with the revision that it is sent on, before there is one. */
const NOTHING: { present: unknown; revision: number } = { present: null, revision: -1 };

/**
 * Keeps every change of one project in the browser at once, and sends it with the revision it was made on, one request
 * at a time. Who leaves the project sends at once what still waits.
 */
export class Autosave {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private current: Send | undefined;
  private sending: Promise<void> | undefined;
  private failures = 0;
  /** The document as it was left: from then on the store may hold another project. */
  private final: DocumentState | undefined;
  private planned = NOTHING;
  /** What the browser was last asked to keep. */
  private asked = NOTHING;
  /** Requests on the present revision without an answer: they may have come through all the same. */
  private readonly unanswered = new Map<string, ProjectDocument>();
  /** The ways to stop listening. */
  private readonly leaves: readonly (() => void)[];
  private readonly keeping: LatestOnly<ProjectDocument>;
  private readonly keptTapes = new Set<TapeId>();
  private readonly keptFrames = new Set<string>();
  /** The document that the browser holds now; null where it holds none. */
  private kept: ProjectDocument | null = null;
  /** What the edits that are kept were made on. */
  private keptBase: ProjectDocument | null = null;

  constructor(private readonly options: AutosaveOptions) {
    const { store } = options;
    this.keeping = new LatestOnly(
      (document) => this.keep(document),
      () => {
        this.kept = null;
      },
    );
    const { page } = options.surroundings;
    this.leaves = [
      store.subscribe(() => this.noticed()),
      page.onHide(() => this.hide()),
      page.onLeave(() => this.asks()),
    ];
  }

  /** Sends what waits and stops listening. Resolves when it is answered, or when that takes too long: it is kept then. */
  async leave(): Promise<void> {
    if (this.final !== undefined) return;
    const { document } = this;
    this.stopListening();
    if (document.id !== this.options.project) return;
    this.final = document;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const late = new Promise<void>((done) => {
      timer = setTimeout(done, LEAVE_MS);
    });
    await Promise.race([this.sendNow(), late]);
    clearTimeout(timer);
  }

  /** Stops without sending what waits: it is kept elsewhere, or wanted no more. */
  drop(): void {
    if (this.final !== undefined) return;
    this.final = { ...this.document, saving: "saved" };
    this.stopListening();
    void this.forget();
    const { surroundings, project } = this.options;
    void surroundings.kept.forgetReadings(project, this.keptTapes).catch(() => undefined);
    void surroundings.kept.forgetFrames(project, this.keptFrames).catch(() => undefined);
  }

  /** A change that was kept goes on being sent by its own id: a request of an earlier visit may have come through. */
  takeUp({ document, revision, send }: Unsent): void {
    if (send === undefined) return;
    this.current = { document, revision, id: send };
    this.unanswered.set(send, document);
  }

  /** The change that the browser keeps is wanted no more. */
  async forget(): Promise<void> {
    this.kept = null;
    this.asked = NOTHING;
    const { project, surroundings } = this.options;
    await surroundings.kept.forget(project, surroundings.window.name).catch(() => undefined);
  }

  private stopListening(): void {
    clearTimeout(this.timer);
    for (const leave of this.leaves) leave();
  }

  private get document(): DocumentState {
    return this.final ?? this.options.store.getState().document;
  }

  private dispatch(action: UnknownAction): void {
    const { store, project } = this.options;
    if (this.final !== undefined) this.final = documentReducer(this.final, action);
    else if (store.getState().document.id === project) store.dispatch(action);
  }

  private noticed(): void {
    const { id, saving, present, settled, revision } = this.document;
    if (id !== this.options.project || present === null || saving === "saved" || saving === "saving") return;
    // A drag is one change: its moves are not kept one by one.
    if (present === settled && (present !== this.asked.present || revision !== this.asked.revision)) {
      this.asked = { present, revision };
      this.keeping.ask(present);
    }
    // What is to be sent has changed if the document has, or the revision that it is to be sent on.
    if (present === this.planned.present && revision === this.planned.revision) return;
    this.planned = { present, revision };
    if (saving === "unsaved") this.plan(QUIET_MS);
  }

  private async keep(document: ProjectDocument): Promise<void> {
    const { project, surroundings, readings, frames } = this.options;
    const { kept, window } = surroundings;
    for (const name of framesOf(document.tapes)) {
      const bytes = this.keptFrames.has(name) ? undefined : frames.unsent.get(name);
      if (bytes === undefined) continue;
      await kept.keepFrame(project, name, bytes);
      this.keptFrames.add(name);
    }
    for (const { id } of document.tapes) {
      const raw = readings.unsent.has(id) && !this.keptTapes.has(id) ? readings.get(id) : undefined;
      if (raw === undefined) continue;
      await kept.keepReadings(project, id, raw);
      this.keptTapes.add(id);
    }
    // A later change, or one that was answered meanwhile, is not overwritten.
    if (this.document.saving === "saved") return;
    const { revision } = this.document;
    const { id: send } = this.sendOf(document, revision);
    await kept.keep({ project, window: window.name, revision, ...this.sinceBase(document), send, at: Date.now() });
    this.kept = document;
  }

  /** A document as what was acknowledged and the edits since; by itself where none lead to it. */
  private sinceBase(document: ProjectDocument): Pick<Unsent, "base" | "edits"> {
    for (const base of [this.document.base, this.keptBase]) {
      const edits = base === null ? undefined : this.options.editsBetween(base, document);
      if (base === null || edits === undefined) continue;
      this.keptBase = base;
      return { base, edits };
    }
    this.keptBase = document;
    return { base: document, edits: [] };
  }

  private plan(ms: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.sendNow(), ms);
  }

  /** Sends what there is to send; after a request that is under way, if there is one. */
  private async sendNow(): Promise<void> {
    while (this.sending !== undefined) await this.sending;
    const { id, present, saving } = this.document;
    if (id !== this.options.project || present === null || !SENT_IN.has(saving)) return;
    this.sending = this.send();
    await this.sending;
    this.sending = undefined;
  }

  private async send(): Promise<void> {
    const { project, surroundings, readings, frames } = this.options;
    const { kept } = surroundings;
    const { revision, present } = this.document;
    const document = present as ProjectDocument;
    const send = this.sendOf(document, revision);
    this.dispatch(saveBegan());
    this.unanswered.set(send.id, document);
    for (const old of this.unanswered.keys()) if (this.unanswered.size > MOST_UNANSWERED) this.unanswered.delete(old);
    const answer = await this.put(send);
    if ("made" in answer) {
      // The server hung: what stands there now is an earlier request of this window, and no conflict.
      const earlier = this.unanswered.get(answer.made.send);
      if (earlier !== undefined) {
        this.unanswered.clear();
        this.dispatch(saved({ project: earlier, revision: answer.made.revision }));
        if (this.document.saving === "saved") await this.forget();
        else this.plan(0);
        return;
      }
    }
    if ("revision" in answer) {
      this.failures = 0;
      this.unanswered.clear();
      this.dispatch(saved({ project: document, revision: answer.revision }));
      if (this.document.saving === "saved") await this.forget();
      const sent = [...this.keptTapes].filter((tape) => !readings.unsent.has(tape));
      for (const tape of sent) this.keptTapes.delete(tape);
      await kept.forgetReadings(project, sent).catch(() => undefined);
      const shown = [...this.keptFrames].filter((name) => !frames.unsent.has(name));
      for (const name of shown) this.keptFrames.delete(name);
      await kept.forgetFrames(project, shown).catch(() => undefined);
      return;
    }
    this.dispatch(saveFailed(this.told(answer)));
    if (answer.kind === "failed" && this.final === undefined)
      this.plan(PAUSES_MS[Math.min(this.failures++, PAUSES_MS.length - 1)]);
  }

  /** The same change has the same id, however often it is sent. */
  private sendOf(document: ProjectDocument, revision: number): Send {
    if (this.current?.document !== document || this.current.revision !== revision)
      this.current = { document, revision, id: crypto.randomUUID() };
    return this.current;
  }

  /** Says that a change is kept in the browser only where it is. */
  private told(failure: Failure): Failure {
    if (failure.kind !== "failed") return failure;
    const { present } = this.document;
    const where =
      this.kept === present
        ? "Your changes are kept in this browser and sent as soon as it goes."
        : "This browser could not keep your changes: leave the page open, or save the project as a file.";
    return { ...failure, message: `${failure.message} ${where}` };
  }

  private async put(
    { document, revision, id }: Send,
    again = true,
  ): Promise<Failure | (Failure & { made: Made }) | { revision: number }> {
    const { project, readings, frames } = this.options;
    const limit = new AbortController();
    let timer: ReturnType<typeof setTimeout> | undefined;
    try {
      await readings.send(document.tapes.map((tape) => tape.id));
      await frames.send(framesOf(document.tapes));
      // Readings and frames have limits of their own.
      timer = setTimeout(() => limit.abort(new DOMException("", "TimeoutError")), SEND_LIMIT_MS);
      const body = new Blob([JSON.stringify(document)]);
      const response = await fetch(at("project", { id: project }), {
        method: "PUT",
        headers: { "Content-Type": "application/json", "If-Match": `"${revision}"`, "Idempotency-Key": id },
        body,
        // A small one outlives the page; browsers refuse that for larger ones, which then lie in the browser until the next visit.
        keepalive: body.size < MOST_KEEPALIVE,
        signal: limit.signal,
      });
      if (response.ok) return { revision: (await answerOf("replaceProject", response)).revision };
      const { detail, missing = [], send, revision: present } = await problemIn(response);
      if (missing.length > 0 && again && readings.resend(missing)) return this.put({ document, revision, id }, false);
      const failure = failureOf(response.status, detail);
      return send === undefined || present === undefined ? failure : { ...failure, made: { send, revision: present } };
    } catch (error) {
      if (error instanceof NotTaken) return failureOf(error.status, error.message);
      return {
        kind: "failed",
        message: isTimeout(error) ? "The server does not answer." : "The server cannot be reached.",
      };
    } finally {
      clearTimeout(timer);
    }
  }

  /** The page goes away: a request that outlives it is sent at once, with the same id as one that may be under way. */
  private hide(): void {
    const { id: open, present, revision, saving } = this.document;
    if (open !== this.options.project || present === null || saving === "saved" || saving === "conflict") return;
    this.keeping.ask(present);
    const send = this.sendOf(present, revision);
    const { project, surroundings, readings, frames } = this.options;
    const { window } = surroundings;
    // The page that comes next may ask for the project before this has come to the server or into the browser's store.
    if (
      present.tapes.every(({ id }) => !readings.unsent.has(id) || this.keptTapes.has(id)) &&
      framesOf(present.tapes).every((name) => !frames.unsent.has(name) || this.keptFrames.has(name))
    )
      window.leave({
        project,
        window: window.name,
        revision,
        ...this.sinceBase(present),
        send: send.id,
        at: Date.now(),
      });
    void this.put(send);
  }

  /** Asks before the page is left where a change is nowhere but here. */
  private asks(): boolean {
    const { id, present, saving } = this.document;
    return id === this.options.project && LOST_IN.has(saving) && this.kept !== present;
  }
}

const SENT_IN: ReadonlySet<string> = new Set(["unsaved", "failed"]);
const LOST_IN: ReadonlySet<string> = new Set(["failed", "conflict", "gone", "refused"]);

const isTimeout = (error: unknown) => error instanceof DOMException && error.name === "TimeoutError";

function failureOf(status: number, message: string): Failure {
  const sentence = `${capital(message)}.`;
  if (status === 412) return { kind: "conflict", message: sentence };
  if (status === 404) return { kind: "gone", message: sentence };
  // What the server cannot do now it may do later; what it refuses it will refuse again.
  if (status >= 500 || status === 408 || status === 429) return { kind: "failed", message: sentence };
  return { kind: "refused", message: sentence };
}

/** A revision at the server, and the id of the request that made it. */
interface Made {
  send: string;
  revision: number;
}
