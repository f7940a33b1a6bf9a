import { createHash } from "node:crypto";
import { type EntityManager, In, IsNull, LessThanOrEqual, Not } from "typeorm";
import { Problem } from "../problem";
import type { FramedTape, StoredFrame } from "../work/jobs";
import { Arriving } from "./Arriving";
import type { Database } from "./Database";
import { FrameEntity, ProjectFrameEntity } from "./entities";
import { fromBackups } from "./fromBackups";
import { GRACE_MS } from "./ReadingsStore";

/** So many frames are deleted in one transaction, and so many kept. */
const AT_ONCE = 50;
/** The database takes no more names in one question. */
const NAMES_AT_ONCE = 500;

/** Frames of cameras, kept once by their content and never changed. */
export class FrameStore {
  readonly arriving = new Arriving();

  /** @param tell hears what was damaged and is whole again */
  constructor(
    private readonly database: Database,
    private readonly tell: (words: string) => void = () => undefined,
  ) {}

  /** Keeps frames, some in each transaction so that others are not kept waiting. */
  async keep(frames: readonly StoredFrame[]): Promise<void> {
    for (let from = 0; from < frames.length; from += AT_ONCE) {
      await this.database.write(async (manager) => {
        for (const { bytes, ...row } of frames.slice(from, from + AT_ONCE))
          await manager
            .createQueryBuilder()
            .insert()
            .into(FrameEntity)
            .values({
              ...row,
              size: bytes.length,
              bytes: Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength),
            })
            .orIgnore()
            .execute();
      });
      await new Promise(setImmediate);
    }
  }

  /** Gives a project a frame, before its document names it. */
  put(project: string, frame: StoredFrame, now: number): Promise<void> {
    return this.arriving.during(async () => {
      await this.keep([frame]);
      await this.database.write((manager) => holdFrames(manager, project, [frame.name], now));
    });
  }

  /**
   * A project's frame as PNG; undefined where it has none of that name. What is damaged is brought back from the latest
   * backup that has it whole. @throws Problem 503 where none has
   */
  async bytesOf(project: string, name: string): Promise<Buffer | undefined> {
    const bytes = await this.database.read(async (manager) => {
      if (!(await manager.existsBy(ProjectFrameEntity, { project, name }))) return undefined;
      return (await manager.findOneBy(FrameEntity, { name }))?.bytes;
    });
    if (bytes === undefined || isFrame(name, bytes)) return bytes;
    const what = `the pixels of the frame ${name.slice(0, 8)} …`;
    const whole = await fromBackups(this.database, what, (backup) => {
      const found = backup.prepare(`SELECT "bytes" FROM "frame" WHERE "name" = ?`).get(name) as
        | { bytes: Buffer }
        | undefined;
      return found !== undefined && isFrame(name, found.bytes) ? found.bytes : undefined;
    });
    await this.database.write((manager) => manager.update(FrameEntity, { name }, { bytes: whole }));
    this.tell(`${what} were damaged, and are brought back from a backup`);
    return whole;
  }

  /** Deletes what nothing names any more; its room is given back with that of readings. */
  async clear(now: number): Promise<void> {
    await this.database.write(async (manager) => {
      if (this.arriving.any) return;
      await manager.delete(ProjectFrameEntity, { unnamedSince: LessThanOrEqual(now - GRACE_MS) });
    });
    for (;;) {
      const gone = await this.database.write(async (manager) => {
        if (this.arriving.any) return 0;
        const rows: { name: string }[] = await manager.query(
          `SELECT "name" FROM "frame" WHERE "name" NOT IN (SELECT "name" FROM "project_frame") LIMIT ${AT_ONCE}`,
        );
        if (rows.length > 0) await manager.delete(FrameEntity, { name: In(rows.map(({ name }) => name)) });
        return rows.length;
      });
      if (gone === 0) break;
      await new Promise(setImmediate);
    }
  }
}

/** Compares a frame's bytes with its name, which is their digest. */
const isFrame = (name: string, bytes: Uint8Array) => createHash("sha256").update(bytes).digest("hex") === name;

/** Lets a project hold frames; `unnamedSince` is null for those that its document names. */
export async function holdFrames(
  manager: EntityManager,
  project: string,
  names: readonly string[],
  unnamedSince: number | null,
): Promise<void> {
  for (const part of inParts(names))
    await manager
      .createQueryBuilder()
      .insert()
      .into(ProjectFrameEntity)
      .values(part.map((name) => ({ project, name, unnamedSince })))
      .orIgnore()
      .execute();
}

/** Notes which of a project's frames its document names, and since when it does not name the others. */
export async function nameFrames(
  manager: EntityManager,
  project: string,
  names: readonly string[],
  now: number,
): Promise<void> {
  const named = new Set(names);
  const held = await manager.findBy(ProjectFrameEntity, { project });
  const [come, gone] = [
    held.filter(({ name, unnamedSince }) => named.has(name) && unnamedSince !== null),
    held.filter(({ name, unnamedSince }) => !named.has(name) && unnamedSince === null),
  ].map((rows) => rows.map(({ name }) => name));
  for (const part of inParts(come))
    await manager.update(
      ProjectFrameEntity,
      { project, name: In(part), unnamedSince: Not(IsNull()) },
      { unnamedSince: null },
    );
  for (const part of inParts(gone))
    await manager.update(ProjectFrameEntity, { project, name: In(part) }, { unnamedSince: now });
}

/**
 * Every frame that tapes name is held by the project, as large as its sensor's are. Gives how many bytes they take in a
 * project file. @throws Problem 409 for frames that are not here, 422 for those of another size
 */
export async function requireFrames(
  manager: EntityManager,
  project: string,
  tapes: readonly FramedTape[],
): Promise<number> {
  const names = [...new Set(tapes.flatMap(({ frames }) => frames))];
  const rows = new Map<string, { width: number; height: number; size: number }>();
  for (const part of inParts(names)) {
    const held = await manager.findBy(ProjectFrameEntity, { project, name: In(part) });
    const found = await manager.find(FrameEntity, {
      select: { name: true, width: true, height: true, size: true },
      where: { name: In(held.map(({ name }) => name)) },
    });
    for (const row of found) rows.set(row.name, row);
  }
  const missing = names.filter((name) => !rows.has(name));
  if (missing.length > 0)
    throw new Problem(409, "Frames missing", `${missing.length} frames are not here; send them first`, {
      missingFrames: missing,
    });
  for (const { name, place, frames, width, height } of tapes)
    frames.forEach((frame, i) => {
      const row = rows.get(frame);
      if (row !== undefined && (row.width !== width || row.height !== height))
        throw new Problem(
          422,
          "Not valid",
          `${place}.frames[${i}]: a frame of the tape “${name}” has ${row.width} × ${row.height} px; its sensor's have ${width} × ${height}`,
          { place: `${place}.frames[${i}]` },
        );
    });
  return [...rows.values()].reduce((sum, { size }) => sum + inFile(size), 0);
}

/** A frame of so many bytes in a project file: base64, with its name. */
export const inFile = (size: number) => Math.ceil(size / 3) * 4 + 75;

function inParts<T>(all: readonly T[]): T[][] {
  const parts: T[][] = [];
  for (let from = 0; from < all.length; from += NAMES_AT_ONCE) parts.push(all.slice(from, from + NAMES_AT_ONCE));
  return parts;
}
