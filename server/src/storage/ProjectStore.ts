import { randomUUID } from "node:crypto";
import { joinProject, type Project, ProjectDocument, splitProject, type TapeId } from "@perceptum/core/project";
import { cutReadings, decodeReadings, encodeReadings, type RawReadings } from "@perceptum/core/readings";
import type { DataSource, EntityManager } from "typeorm";
import { ProjectEntity, type ProjectRow, TapeChunkEntity } from "./entities";

/** Readings in one chunk. */
const CHUNK = 65_536;

export type ProjectSummary = Pick<ProjectRow, "id" | "name" | "revision" | "createdAt" | "updatedAt" | "openedAt">;

/** Projects and their readings, as they lie in the database. Every change is one transaction. */
export class ProjectStore {
  constructor(private readonly source: DataSource) {}

  /** All projects, the one last changed first. */
  list(): Promise<ProjectSummary[]> {
    return this.source.getRepository(ProjectEntity).find({
      select: { id: true, name: true, revision: true, createdAt: true, updatedAt: true, openedAt: true },
      order: { updatedAt: "DESC", id: "ASC" },
    });
  }

  async get(id: string): Promise<{ document: ProjectDocument; revision: number } | undefined> {
    const row = await this.source.getRepository(ProjectEntity).findOneBy({ id });
    return row === null
      ? undefined
      : { document: ProjectDocument.parse(JSON.parse(row.document)), revision: row.revision };
  }

  /** The tapes that a project names; what is stored was checked when it came, so it is not checked again here. */
  async tapesOf(id: string): Promise<TapeId[] | undefined> {
    const row = await this.source.getRepository(ProjectEntity).findOne({ select: { document: true }, where: { id } });
    return row === null ? undefined : (JSON.parse(row.document) as ProjectDocument).tapes.map((tape) => tape.id);
  }

  /** Adds a project with its readings; gives its id. */
  async add(project: Project): Promise<string> {
    const { document, readings } = splitProject(project);
    const id = randomUUID().slice(0, 8);
    const now = Date.now();
    await this.source.transaction(async (manager) => {
      await manager.insert(ProjectEntity, {
        id,
        name: document.name,
        document: JSON.stringify(document),
        revision: 1,
        createdAt: now,
        updatedAt: now,
        openedAt: null,
      });
      for (const [tape, raw] of readings) await writeChunks(manager, id, tape, raw);
    });
    return id;
  }

  /** Replaces the document if it still is at `revision`; gives the new revision, or undefined where it is not. */
  async replace(id: string, revision: number, document: ProjectDocument): Promise<number | undefined> {
    const { affected } = await this.source
      .getRepository(ProjectEntity)
      .update(
        { id, revision },
        { document: JSON.stringify(document), name: document.name, revision: revision + 1, updatedAt: Date.now() },
      );
    return affected === 1 ? revision + 1 : undefined;
  }

  async markOpened(id: string): Promise<boolean> {
    const { affected } = await this.source.getRepository(ProjectEntity).update({ id }, { openedAt: Date.now() });
    return affected === 1;
  }

  /** Deletes a project with its readings. */
  async remove(id: string): Promise<boolean> {
    const { affected } = await this.source.getRepository(ProjectEntity).delete({ id });
    return affected === 1;
  }

  /** Replaces all readings of a tape. */
  async putReadings(project: string, tape: TapeId, readings: RawReadings): Promise<void> {
    await this.source.transaction(async (manager) => {
      await manager.delete(TapeChunkEntity, { project, tape });
      await writeChunks(manager, project, tape, readings);
    });
  }

  /** The encoded readings of a tape, all chunks joined; undefined where there are none. */
  async readingBytes(project: string, tape: string): Promise<Buffer | undefined> {
    const rows = await this.source
      .getRepository(TapeChunkEntity)
      .find({ where: { project, tape }, order: { part: "ASC" } });
    return rows.length === 0 ? undefined : Buffer.concat(rows.map((row) => row.bytes));
  }

  /** The tapes of a project that have readings. */
  async tapesWithReadings(project: string): Promise<Set<string>> {
    const rows = await this.source
      .getRepository(TapeChunkEntity)
      .find({ select: { tape: true, part: true }, where: { project, part: 0 } });
    return new Set(rows.map((row) => row.tape));
  }

  /** The whole project with its readings, as a project file holds it. */
  async whole(id: string): Promise<Project | undefined> {
    const found = await this.get(id);
    if (found === undefined) return undefined;
    const readings = new Map<TapeId, RawReadings>();
    for (const tape of found.document.tapes) {
      const bytes = await this.readingBytes(id, tape.id);
      if (bytes !== undefined) readings.set(tape.id, decodeReadings(bytes));
    }
    return joinProject(found.document, readings);
  }
}

async function writeChunks(
  manager: EntityManager,
  project: string,
  tape: TapeId,
  readings: RawReadings,
): Promise<void> {
  const { length } = readings.t;
  for (let part = 0; part === 0 || part * CHUNK < length; part++) {
    const chunk = cutReadings(readings, part * CHUNK, (part + 1) * CHUNK);
    await manager.insert(TapeChunkEntity, {
      project,
      tape,
      part,
      count: chunk.t.length,
      bytes: Buffer.from(encodeReadings(chunk).buffer),
    });
  }
}
