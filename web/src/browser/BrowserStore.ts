import type { TapeId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import { decodeReadings, encodeReadings, type RawReadings } from "@perceptum/core/readings";
import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { KeptWork, RecordingPart, Unsent } from "../model/session/kept";

interface Tables extends DBSchema {
  unsent: { key: [string, string]; value: Unsent };
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

/** What the browser keeps of work that the server does not have. */
export class BrowserStore implements KeptWork {
  private opened: Promise<IDBPDatabase<Tables>> | undefined;
  /** The same once it is open. */
  private db: IDBPDatabase<Tables> | undefined;

  private open(): Promise<IDBPDatabase<Tables>> {
    this.opened ??= openDB<Tables>("perceptum", 4, {
      async upgrade(db, from, _, transaction) {
        db.createObjectStore("recordings", { keyPath: ["project", "window", "part"] });
        if (from === 3) return;
        db.createObjectStore("frames", { keyPath: ["project", "name"] });
        if (from === 2) return;
        const old = from === 1 ? ((await transaction.objectStore("unsent").getAll()) as unknown as FirstUnsent[]) : [];
        if (from === 1) db.deleteObjectStore("unsent");
        const unsent = db.createObjectStore("unsent", { keyPath: ["project", "window"] });
        for (const { id, revision, project, at } of old)
          await unsent.put({ project: id, window: "first", revision, document: project, at });
        db.createObjectStore("readings", { keyPath: ["project", "tape"] });
      },
      // Another window must not be kept from opening a later version.
      blocking: () => void this.close(),
      terminated: () => {
        this.opened = undefined;
        this.db = undefined;
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

  async keep(unsent: Unsent): Promise<void> {
    const db = this.db ?? (await this.open());
    await db.put("unsent", unsent);
  }

  async forget(project: string, window: string): Promise<void> {
    await (await this.open()).delete("unsent", [project, window]);
  }

  async unsent(project?: string): Promise<Unsent[]> {
    const db = await this.open();
    return project === undefined
      ? db.getAll("unsent")
      : db.getAll("unsent", IDBKeyRange.bound([project, ""], [project, "\uffff"]));
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
