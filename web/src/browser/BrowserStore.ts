import type { TapeId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import { decodeReadings, encodeReadings, type RawReadings } from "@perceptum/core/readings";
import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { KeptChange, KeptWork, RecordingPart } from "../model/session/kept";

interface Tables extends DBSchema {
  /** Changes by project and window, and apart from them what they were made on: that is written once, they are often. */
  unsent: { key: [string, string]; value: Omit<KeptChange, "base"> };
  bases: { key: [string, string]; value: { project: string; window: string; document: ProjectDocument } };
  /** Readings that the server does not have yet, by project and tape. */
  readings: { key: [string, string]; value: { project: string; tape: TapeId; bytes: Uint8Array<ArrayBuffer> } };
  /** Frames that the server does not have yet, by project and name. */
  frames: { key: [string, string]; value: { project: string; name: string; bytes: Uint8Array<ArrayBuffer> } };
  /** Parts of recordings that are under way, by project, window and number. */
  recordings: { key: [string, string, number]; value: RecordingPart };
}

/** The first version kept one change for each project in a table `unsent` with this shape. */
interface FirstUnsent {
  id: string;
  revision: number;
  project: ProjectDocument;
  at: number;
}

/** The versions after it kept the whole document of each change. */
type WholeUnsent = Omit<KeptChange, "base" | "edits"> & { document: ProjectDocument };

/** What the browser keeps of work that the server does not have. */
export class BrowserStore implements KeptWork {
  private opened: Promise<IDBPDatabase<Tables>> | undefined;
  /** The same once it is open. */
  private db: IDBPDatabase<Tables> | undefined;
  /** What changes are made on, as it was kept last, by project and window. */
  private readonly bases = new Map<string, ProjectDocument>();

  private open(): Promise<IDBPDatabase<Tables>> {
    this.opened ??= openDB<Tables>("perceptum", 5, {
      async upgrade(db, from, _, transaction) {
        const bases = db.createObjectStore("bases", { keyPath: ["project", "window"] });
        if (from > 1) {
          const unsent = transaction.objectStore("unsent");
          for (const { document, ...change } of (await unsent.getAll()) as unknown as WholeUnsent[]) {
            await unsent.put({ ...change, edits: [] });
            await bases.put({ project: change.project, window: change.window, document });
          }
        }
        if (from === 4) return;
        db.createObjectStore("recordings", { keyPath: ["project", "window", "part"] });
        if (from === 3) return;
        db.createObjectStore("frames", { keyPath: ["project", "name"] });
        if (from === 2) return;
        const old = from === 1 ? ((await transaction.objectStore("unsent").getAll()) as unknown as FirstUnsent[]) : [];
        if (from === 1) db.deleteObjectStore("unsent");
        const unsent = db.createObjectStore("unsent", { keyPath: ["project", "window"] });
        for (const { id, revision, project, at } of old) {
          await unsent.put({ project: id, window: "first", revision, edits: [], at });
          await bases.put({ project: id, window: "first", document: project });
        }
        db.createObjectStore("readings", { keyPath: ["project", "tape"] });
      },
      // Another window must not be kept from opening a later version.
      blocking: () => void this.close(),
      terminated: () => {
        this.opened = undefined;
        this.db = undefined;
        this.bases.clear();
      },
    });
    const { opened } = this;
    opened.then(
      (db) => {
        if (this.opened === opened) this.db = db;
      },
      () => {
        this.opened = undefined;
      },
    );
    return opened;
  }

  private async close(): Promise<void> {
    const { opened } = this;
    this.opened = undefined;
    this.db = undefined;
    (await opened)?.close();
  }

  async keep({ base, ...change }: KeptChange): Promise<void> {
    const db = this.db ?? (await this.open());
    const { project, window } = change;
    const key = `${project} ${window}`;
    const transaction = db.transaction(["unsent", "bases"], "readwrite");
    const puts: Promise<unknown>[] = [transaction.objectStore("unsent").put(change)];
    if (this.bases.get(key) !== base)
      puts.push(transaction.objectStore("bases").put({ project, window, document: base }));
    // Transactions are carried out in the order in which they begin, so what a later one finds is noted as this begins.
    this.bases.set(key, base);
    await Promise.all([...puts, transaction.done]).catch((error) => {
      this.bases.delete(key);
      throw error;
    });
  }

  async forget(project: string, window: string): Promise<void> {
    const db = this.db ?? (await this.open());
    const transaction = db.transaction(["unsent", "bases"], "readwrite");
    this.bases.delete(`${project} ${window}`);
    await Promise.all([
      transaction.objectStore("unsent").delete([project, window]),
      transaction.objectStore("bases").delete([project, window]),
      transaction.done,
    ]);
  }

  async changes(project?: string): Promise<KeptChange[]> {
    const range = project === undefined ? undefined : IDBKeyRange.bound([project, ""], [project, "\uffff"]);
    const transaction = (await this.open()).transaction(["unsent", "bases"]);
    const [changes, bases] = await Promise.all([
      transaction.objectStore("unsent").getAll(range),
      transaction.objectStore("bases").getAll(range),
    ]);
    const baseOf = new Map(bases.map(({ project, window, document }) => [`${project} ${window}`, document]));
    return changes.flatMap((change) => {
      const base = baseOf.get(`${change.project} ${change.window}`);
      return base === undefined ? [] : [{ ...change, base }];
    });
  }

  async keepReadings(project: string, tape: TapeId, readings: RawReadings): Promise<void> {
    await (await this.open()).put("readings", { project, tape, bytes: encodeReadings(readings) });
  }

  async keepFrame(project: string, name: string, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
    await (await this.open()).put("frames", { project, name, bytes });
  }

  async frame(project: string, name: string): Promise<Uint8Array<ArrayBuffer> | undefined> {
    return (await (await this.open()).get("frames", [project, name]))?.bytes;
  }

  async forgetFrames(project: string, names: Iterable<string>): Promise<void> {
    const db = await this.open();
    for (const name of names) await db.delete("frames", [project, name]);
  }

  async keepRecording(part: RecordingPart): Promise<void> {
    await (await this.open()).put("recordings", part);
  }

  async recordings(project: string): Promise<RecordingPart[]> {
    return (await this.open()).getAll("recordings", IDBKeyRange.bound([project], [project, []]));
  }

  async forgetRecording(project: string, window: string): Promise<void> {
    await (await this.open()).delete("recordings", IDBKeyRange.bound([project, window], [project, window, []]));
  }

  async readings(project: string, tape: TapeId): Promise<RawReadings | undefined> {
    const row = await (await this.open()).get("readings", [project, tape]);
    return row && decodeReadings(row.bytes);
  }

  async forgetReadings(project: string, tapes: Iterable<TapeId>): Promise<void> {
    const db = await this.open();
    for (const tape of tapes) await db.delete("readings", [project, tape]);
  }
}
