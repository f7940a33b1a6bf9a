import type { ArgsOf, Edit, EditName } from "@perceptum/core/edits";
import type { ProjectDocument } from "@perceptum/core/project";
import { edited, type Gesture } from "../store/document";
import type { AppStore } from "../store/store";

/** An edit that waits longer for the table of edits is told, in ms. */
const WAITS_LONG_MS = 3000;

/** The reason why a change is not made: a screen that does not show the one before it would undo that. */
const TOO_SOON = "Nothing was changed: the change before this one is not made yet. Try it again in a moment.";

/** More edits than this are kept as the document that they make. */
const MOST_EDITS = 100;

type Table = typeof import("@perceptum/core/edits");

/** The table of edits, which knows the schemas of a whole project: it is fetched once for all projects that are opened. */
export class EditTable {
  /** The table, once it has come. */
  now: Table | undefined;
  private fetching: Promise<Table> | undefined;

  /** @throws Error where it does not come; a later call asks anew */
  fetch(): Promise<Table> {
    this.fetching ??= import("@perceptum/core/edits").then(
      (table) => {
        this.now = table;
        return table;
      },
      (error) => {
        this.fetching = undefined;
        throw error;
      },
    );
    return this.fetching;
  }
}

/** The project that is edited, and who hears of it. */
interface Edited {
  table: EditTable;
  store: AppStore;
  id: string;
  isOpen(): boolean;
  /** Has the person told a sentence. */
  tell(sentence: string): void;
  /** Hears of rules that a drag has moved, before they are drawn. */
  dragged(project: ProjectDocument): void;
}

/** Makes the edits of an open project by the table of `core/edits`. */
export class Editing {
  private preparing: Promise<void> | undefined;
  /** The edit that came before the table, or the moves of a drag. */
  private readonly waiting: { edit: Edit; gesture: Gesture | undefined }[] = [];
  /** Work that is done when the table is there. */
  private readonly later: (() => void)[] = [];
  /** The document and the edit that each document came from. */
  private readonly origins = new WeakMap<ProjectDocument, { from: ProjectDocument; edit: Edit }>();

  constructor(private readonly of: Edited) {}

  /** Fetches the table: after the first screen, or with the first edit. */
  readonly prepare = (): Promise<void> => {
    this.preparing ??= this.of.table.fetch().then(
      () => {
        for (const { edit, gesture } of this.waiting.splice(0)) {
          const problem = this.make(edit, gesture);
          if (problem !== undefined) this.of.tell(problem);
        }
        for (const work of this.later.splice(0)) work();
      },
      () => {
        // A browser that failed to fetch a module does not try again before the page is loaded anew.
        this.preparing = undefined;
        this.waiting.length = 0;
        this.of.tell("Nothing can be changed: a part of the page could not be fetched. Load the page again.");
      },
    );
    return this.preparing;
  };

  /** Whether an edit waits for the table. */
  get isWaiting(): boolean {
    return this.waiting.length > 0 || this.later.length > 0;
  }

  /** Resolves when no edit waits any more, or after so many ms: who leaves a project waits no longer. */
  async settled(ms: number): Promise<void> {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const late = new Promise<void>((done) => {
      timer = setTimeout(done, ms);
    });
    await Promise.race([this.prepare(), late]);
    clearTimeout(timer);
  }

  /**
   * Makes one edit of the open project; none once it is left. Gives a sentence where it is not made. An edit that comes
   * before the table is made when that is there, and what is wrong with it is told then; until then only more moves of a
   * drag are taken: what a key changes goes by what is shown.
   */
  readonly do = <K extends EditName>(edit: K, args: ArgsOf<K>, gesture?: Gesture): string | undefined => {
    const named = { edit, args } as Edit;
    if (this.of.table.now !== undefined) return this.make(named, gesture);
    if (this.waiting.some((one) => gesture !== "drag" || one.gesture !== "drag" || one.edit.edit !== edit)) {
      this.of.tell(TOO_SOON);
      return TOO_SOON;
    }
    this.waiting.push({ edit: named, gesture });
    this.waitForTable();
    return undefined;
  };

  private waitForTable(): void {
    void this.prepare();
    setTimeout(() => {
      if (this.isWaiting && this.of.isOpen())
        this.of.tell("Your change waits for a part of the page that has not come yet. Is the server still running?");
    }, WAITS_LONG_MS);
  }

  /** Does what must not be lost and does not go by what is shown: at once, or when the table is there. */
  readonly whenPrepared = (work: () => void): void => {
    if (this.of.table.now !== undefined) work();
    else {
      this.later.push(work);
      this.waitForTable();
    }
  };

  /** The edits that lead from one document to another; undefined where there is no such way, or one of over a hundred. */
  readonly between = (from: ProjectDocument, to: ProjectDocument): readonly Edit[] | undefined => {
    const edits: Edit[] = [];
    for (let at = to; at !== from; ) {
      const origin = this.origins.get(at);
      if (origin === undefined || edits.length === MOST_EDITS) return undefined;
      edits.unshift(origin.edit);
      at = origin.from;
    }
    return edits;
  };

  private make(edit: Edit, gesture: Gesture | undefined): string | undefined {
    const { store, id, table } = this.of;
    const { id: open, present } = store.getState().document;
    if (table.now === undefined || !this.of.isOpen() || open !== id || present === null) return undefined;
    const made = table.now.applyEdit(present, edit, gesture !== undefined);
    if ("problem" in made) return made.problem;
    const { project } = made;
    if (project === present) return undefined;
    this.origins.set(project, { from: present, edit });
    const kind = table.now.kindOfEdit(edit.edit);
    const of = kind.gathers?.(edit.args);
    // A dragged bound is drawn together with its judgement.
    const held = gesture === "drag" && project.ruleSets !== present.ruleSets;
    const did = kind.words(edit.args, present);
    const one = gesture !== undefined && of !== undefined && { gesture: { by: gesture, of: `${edit.edit} ${of}` } };
    store.dispatch(edited({ edit, did, project, held, ...one }));
    if (held) this.of.dragged(project);
    return undefined;
  }
}
