import type { TapeId } from "@perceptum/core/names";
import { LessThanOrEqual } from "typeorm";
import type { StoredReadings } from "../heavy/jobs";
import { Arriving } from "./Arriving";
import type { Database } from "./Database";
import { ReadingsEntity, ReadingsPartEntity, type ReadingsRow, SendEntity, TapeEntity } from "./entities";

/** What nothing names any more is kept for so long, so that undo finds it. */
export const GRACE_MS = 24 * 60 * 60 * 1000;
/** So many parts are deleted in one transaction. */
const PARTS_AT_ONCE = 20;

/** Readings, kept once by their content and never overwritten. */
export class ReadingsStore {
  readonly arriving = new Arriving();

  constructor(private readonly database: Database) {}

  /**
   * Keeps the parts of readings, each in a transaction of its own so that others are not kept waiting. Without their
   * row, which comes with the tape that names them, they are not there yet.
   */
  async keepParts({ digest, parts }: StoredReadings): Promise<void> {
    for (const [part, bytes] of parts.entries()) {
      await this.database.write(async (manager) => {
        await manager
          .createQueryBuilder()
          .insert()
          .into(ReadingsPartEntity)
          .values({ digest, part, bytes: Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength) })
          .orIgnore()
          .execute();
      });
      await new Promise(setImmediate);
    }
  }

  /** Gives a tape of a project its readings. Says whether the tape, if it had some, had these. */
  putTape(project: string, tape: TapeId, readings: StoredReadings, now: number): Promise<"kept" | "others"> {
    return this.arriving.during(async () => {
      const before = await this.database.read((manager) => manager.findOneBy(TapeEntity, { project, tape }));
      if (before !== null && before.digest !== readings.digest) return "others";
      await this.keepParts(readings);
      return this.database.write(async (manager) => {
        const held = await manager.findOneBy(TapeEntity, { project, tape });
        if (held !== null && held.digest !== readings.digest) return "others";
        await manager.upsert(ReadingsEntity, rowOf(readings), ["digest"]);
        if (held === null)
          await manager.insert(TapeEntity, { project, tape, digest: readings.digest, unnamedSince: now });
        return "kept";
      });
    });
  }

  /** The encoded readings of a tape, all parts joined; undefined where there are none. */
  async bytesOf(project: string, tape: string): Promise<Buffer | undefined> {
    return this.database.read(async (manager) => {
      const held = await manager.findOneBy(TapeEntity, { project, tape });
      if (held === null) return undefined;
      const rows = await manager.find(ReadingsPartEntity, { where: { digest: held.digest }, order: { part: "ASC" } });
      return Buffer.concat(rows.map((row) => row.bytes));
    });
  }

  /** Deletes what nothing names any more and gives its room back to the disk. */
  async clear(now: number): Promise<void> {
    const old = now - GRACE_MS;
    await this.database.write(async (manager) => {
      if (this.arriving.any) return;
      await manager.delete(TapeEntity, { unnamedSince: LessThanOrEqual(old) });
      await manager.delete(SendEntity, { at: LessThanOrEqual(old) });
      await manager.query(`DELETE FROM "readings" WHERE "digest" NOT IN (SELECT "digest" FROM "tape")`);
    });
    for (;;) {
      const gone = await this.database.write(async (manager) => {
        if (this.arriving.any) return 0;
        const rows: { digest: string; part: number }[] = await manager.query(
          `SELECT "digest", "part" FROM "readings_part" WHERE "digest" NOT IN (SELECT "digest" FROM "readings") LIMIT ${PARTS_AT_ONCE}`,
        );
        for (const { digest, part } of rows) await manager.delete(ReadingsPartEntity, { digest, part });
        return rows.length;
      });
      if (gone === 0) break;
      await new Promise(setImmediate);
    }
    await this.database.shrink();
  }
}

export const rowOf = ({ digest, report, count, textBytes }: StoredReadings): ReadingsRow => ({
  digest,
  report,
  count,
  textBytes,
});
