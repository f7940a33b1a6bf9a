import { randomUUID } from "node:crypto";
import type { ProjectSummary } from "@perceptum/contract";
import { MAX_DOCUMENT_BYTES, MAX_FRAMES_BYTES, MAX_PROJECT_BYTES, type TapeId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import { type EntityManager, In, IsNull, LessThanOrEqual, Not } from "typeorm";
import { Problem } from "../problem";
import type { StoredDocument, StoredProject } from "../work/jobs";
import type { Database } from "./Database";
import {
  FactEntity,
  ProjectEntity,
  type ProjectRow,
  ReadingsEntity,
  type ReadingsRow,
  SendEntity,
  TapeEntity,
} from "./entities";
import { type FrameStore, holdFrames, inFile, nameFrames, requireFrames } from "./FrameStore";
import { GRACE_MS, type ReadingsStore, rowOf } from "./ReadingsStore";

/** What the list shows, the database reads itself; a document of more characters than this is not looked into. */
const LOOKED_INTO = 1_000_000;
const LISTED = `
  SELECT "id", "name", "revision", "createdAt", "updatedAt", "openedAt",
    CASE WHEN length("document") <= ${LOOKED_INTO} THEN (
      SELECT json_group_array(json_extract(value, '$.paint')) FROM json_each("document", '$.targets')
      WHERE json_extract(value, '$.kind') <> 'background'
    ) END AS "paints"
  FROM "project" WHERE "deletedAt" IS NULL ORDER BY "updatedAt" DESC, "rowid" DESC`;

/** A document as it lies in the database, as JSON. */
export type KeptDocument = Pick<ProjectRow, "document" | "revision">;

/** Projects, as they lie in the database. Every change is one transaction. */
export class ProjectStore {
  constructor(
    private readonly database: Database,
    private readonly readings: ReadingsStore,
    private readonly frames: FrameStore,
  ) {}

  /** All projects, the one last changed first. */
  list(): Promise<ProjectSummary[]> {
    return this.database.read(async (manager) => {
      const rows = (await manager.query(LISTED)) as (Omit<ProjectSummary, "paints"> & { paints: string | null })[];
      return rows.map((row) => ({ ...row, paints: JSON.parse(row.paints ?? "[]") as string[] }));
    });
  }

  /** The document; what is stored was checked when it came, so it is not checked again here. */
  get(id: string): Promise<KeptDocument | undefined> {
    return this.database.read(
      async (manager) =>
        (await manager.findOne(ProjectEntity, { select: { document: true, revision: true }, where: there(id) })) ??
        undefined,
    );
  }

  has(id: string): Promise<boolean> {
    return this.database.read((manager) => manager.existsBy(ProjectEntity, there(id)));
  }

  /** The tapes that a project names. */
  async tapesOf(id: string): Promise<TapeId[] | undefined> {
    const kept = await this.get(id);
    return kept && (JSON.parse(kept.document) as ProjectDocument).tapes.map((tape) => tape.id);
  }

  /** Adds a project with its readings and frames; gives its id. */
  add(project: StoredProject): Promise<string> {
    return this.whileArriving(async () => {
      await this.keep(project);
      return this.database.write((manager) => insertProject(manager, project));
    });
  }

  private whileArriving<T>(work: () => Promise<T>): Promise<T> {
    return this.readings.arriving.during(() => this.frames.arriving.during(work));
  }

  private async keep({ readings, frames }: StoredProject): Promise<void> {
    for (const [, stored] of readings) await this.readings.keepParts(stored);
    await this.frames.keep(frames);
  }

  /** Reads and adds the demos, if that was never done: a list that was emptied stays empty. Says whether it did. */
  addOnce(read: () => readonly StoredProject[]): Promise<boolean> {
    return this.whileArriving(async () => {
      if (await this.database.read((manager) => manager.existsBy(FactEntity, { name: "demos" }))) return false;
      const demos = read();
      for (const demo of demos) await this.keep(demo);
      await this.database.write(async (manager) => {
        await manager.insert(FactEntity, { name: "demos", value: "added" });
        for (const demo of demos) await insertProject(manager, demo);
      });
      return true;
    });
  }

  /**
   * Replaces the document if it still is at `revision`; gives the new revision. A change with the id of one that was
   * answered already is answered like that one, and nothing is done.
   *
   * @throws Problem 404, 409 (tapes whose readings are not here), 412 (changed elsewhere), 413
   */
  replace(id: string, revision: number, document: StoredDocument, send: string | undefined): Promise<number> {
    return this.database.write(async (manager) => {
      const project = await manager.findOne(ProjectEntity, { select: { id: true, revision: true }, where: there(id) });
      if (project === null) throw new Problem(404, "Not found", "the project is not there; it may have been deleted");
      const before = send === undefined ? null : await manager.findOneBy(SendEntity, { id: send, project: id });
      if (before !== null) return before.revision;
      if (project.revision !== revision) {
        // The sender of the present revision knows it by this id: a request of its own may have come through late.
        const made = await manager.findOneBy(SendEntity, { project: id, revision: project.revision });
        throw new Problem(
          412,
          "Changed elsewhere",
          `the project was changed elsewhere: it is at revision ${project.revision}, this change was made on ${revision}`,
          { revision: project.revision, ...(made !== null && { send: made.id }) },
        );
      }
      await requireReadings(manager, id, document);
      const now = Date.now();
      const next = revision + 1;
      await manager.update(
        ProjectEntity,
        { id },
        { document: document.text, name: document.name, revision: next, updatedAt: now },
      );
      const named = document.tapes.map((tape) => tape.id);
      await manager.update(TapeEntity, { project: id, tape: In(named) }, { unnamedSince: null });
      await manager.update(
        TapeEntity,
        { project: id, tape: Not(In(named)), unnamedSince: IsNull() },
        { unnamedSince: now },
      );
      await nameFrames(
        manager,
        id,
        document.framed.flatMap(({ frames }) => frames),
        now,
      );
      if (send !== undefined) await manager.insert(SendEntity, { id: send, project: id, revision: next, at: now });
      return next;
    });
  }

  markOpened(id: string): Promise<boolean> {
    return this.database.write(
      async (manager) => (await manager.update(ProjectEntity, there(id), { openedAt: Date.now() })).affected === 1,
    );
  }

  /** Deletes a project. It is cleared away after a day: a window that has it open can keep it until then. */
  remove(id: string, now: number): Promise<boolean> {
    return this.database.write(
      async (manager) => (await manager.update(ProjectEntity, there(id), { deletedAt: now })).affected === 1,
    );
  }

  /** Clears away what was deleted a day ago; readings and frames go with it, unless another project names them. */
  async clear(now: number): Promise<void> {
    await this.database.write((manager) =>
      manager.delete(ProjectEntity, { deletedAt: LessThanOrEqual(now - GRACE_MS) }),
    );
  }
}

/** A project that was not deleted. */
const there = (id: string) => ({ id, deletedAt: IsNull() });

async function insertProject(manager: EntityManager, { document, readings, frames }: StoredProject): Promise<string> {
  requireSize(
    document,
    readings.map(([, stored]) => stored),
    frames.reduce((sum, { bytes }) => sum + inFile(bytes.length), 0),
  );
  const id = randomUUID().slice(0, 8);
  const now = Date.now();
  await manager.insert(ProjectEntity, {
    id,
    name: document.name,
    document: document.text,
    revision: 1,
    createdAt: now,
    updatedAt: now,
    openedAt: null,
    deletedAt: null,
  });
  for (const [tape, stored] of readings) {
    await manager.upsert(ReadingsEntity, rowOf(stored), ["digest"]);
    await manager.insert(TapeEntity, { project: id, tape, digest: stored.digest, unnamedSince: null });
  }
  await holdFrames(
    manager,
    id,
    frames.map(({ name }) => name),
    null,
  );
  return id;
}

/** Every tape has its readings here, they are what its sensor reports, and all together still make a project file. */
async function requireReadings(manager: EntityManager, id: string, document: StoredDocument): Promise<void> {
  const tapes = await manager.findBy(TapeEntity, { project: id });
  const digests = new Map(tapes.map(({ tape, digest }) => [tape, digest]));
  const missing = document.tapes.filter((tape) => !digests.has(tape.id));
  if (missing.length > 0)
    throw new Problem(409, "Readings missing", `the tape “${missing[0].name}” has no readings here; send them first`, {
      missing: missing.map((tape) => tape.id),
    });
  const rows = await manager.findBy(ReadingsEntity, {
    digest: In(document.tapes.map((tape) => digests.get(tape.id) ?? "")),
  });
  const held = new Map(rows.map((row) => [row.digest, row]));
  const own = document.tapes.map((tape, i) => {
    const row = held.get(digests.get(tape.id) ?? "");
    if (row === undefined) throw new Problem(409, "Readings missing", `the readings of “${tape.name}” are gone`);
    if (row.report !== tape.report)
      throw new Problem(
        422,
        "Not valid",
        `tapes[${i}].sensor: the tape “${tape.name}” holds ${row.report} readings; its sensor reports ${tape.report}`,
        { place: `tapes[${i}].sensor` },
      );
    return row;
  });
  requireSize(document, own, await requireFrames(manager, id, document.framed));
}

/** What can be saved can be saved as a file and read back: one limit for both. @throws Problem 413 */
function requireSize(
  document: StoredDocument,
  readings: readonly Pick<ReadingsRow, "textBytes">[],
  frameBytes: number,
): void {
  const own = Buffer.byteLength(document.text);
  if (own > MAX_DOCUMENT_BYTES)
    throw new Problem(
      413,
      "Too large",
      `the project without its readings has ${mb(own)} MB; at most ${mb(MAX_DOCUMENT_BYTES)} MB can be kept`,
    );
  if (frameBytes > MAX_FRAMES_BYTES)
    throw new Problem(
      413,
      "Too large",
      `the project’s frames would have ${mb(frameBytes)} MB in a file; at most ${mb(MAX_FRAMES_BYTES)} MB can be kept. Delete a tape or trim one`,
    );
  const whole = document.fileBytes + readings.reduce((sum, { textBytes }) => sum + textBytes, 0);
  if (whole > MAX_PROJECT_BYTES)
    throw new Problem(
      413,
      "Too large",
      `the project would have ${mb(whole)} MB as a file; at most ${mb(MAX_PROJECT_BYTES)} MB can be kept. Delete a tape or trim one`,
    );
}

const mb = (bytes: number) => Math.ceil(bytes / 1_048_576);
