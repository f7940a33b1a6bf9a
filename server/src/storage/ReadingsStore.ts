import { createHash } from "node:crypto";
import type { TapeId } from "@perceptum/core/names";
import { chunkOf } from "@perceptum/core/readings";
import { LessThanOrEqual } from "typeorm";
import type { StoredReadings } from "../work/jobs";
import { Arriving } from "./Arriving";
import type { Database } from "./Database";
import {
  ReadingsEntity,
  ReadingsPartEntity,
  type ReadingsPartRow,
  type ReadingsRow,
  SendEntity,
  TapeEntity,
} from "./entities";
import { fromBackups } from "./fromBackups";

/** What nothing names any more is kept for so long, so that undo finds it. */
export const GRACE_MS = 24 * 60 * 60 * 1000;
/** So many parts are deleted in one transaction. */
const PARTS_AT_ONCE = 20;
/** Bytes of a number of readings as they are encoded. */
const NUMBER = 8;
/** Others have their turn after so many bytes. */
const AT_ONCE_BYTES = 100_000;

/** Readings, kept once by their content and never overwritten. */
export class ReadingsStore {
  readonly arriving = new Arriving();

  /** @param tell hears what was damaged and is whole again */
  constructor(
    private readonly database: Database,
    private readonly tell: (words: string) => void = () => undefined,
  ) {}

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

  /**
   * The encoded readings of a tape, all parts joined; undefined where there are none. What is damaged is brought back
   * from the latest backup that has it whole. @throws Problem 503 where none has
   */
  async bytesOf(project: string, tape: string): Promise<Buffer | undefined> {
    const kept = await this.database.read(async (manager) => {
      const held = await manager.findOneBy(TapeEntity, { project, tape });
      if (held === null) return undefined;
      const { digest } = held;
      return { digest, rows: await manager.find(ReadingsPartEntity, { where: { digest }, order: { part: "ASC" } }) };
    });
    if (kept === undefined) return undefined;
    const { digest, rows } = kept;
    return joined((await isOf(digest, rows)) ? rows : await this.broughtBack(tape, digest));
  }

  private async broughtBack(tape: string, digest: string): Promise<ReadingsPartRow[]> {
    const what = `the readings of the tape “${tape}”`;
    const rows = await fromBackups(this.database, what, async (backup) => {
      const found = backup
        .prepare(`SELECT "digest", "part", "bytes" FROM "readings_part" WHERE "digest" = ? ORDER BY "part"`)
        .all(digest) as ReadingsPartRow[];
      return (await isOf(digest, found)) ? found : undefined;
    });
    await this.database.write(async (manager) => {
      await manager.delete(ReadingsPartEntity, { digest });
      for (const row of rows) await manager.insert(ReadingsPartEntity, row);
    });
    this.tell(`${what} were damaged, and are brought back from a backup`);
    return rows;
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

/**
 * Compares parts with the digest of their readings, which is that of the readings in one part: their count, then column
 * by column. Others have their turn meanwhile, since many readings take a while.
 */
async function isOf(digest: string, rows: readonly ReadingsPartRow[]): Promise<boolean> {
  const chunks = rows.flatMap(({ bytes }) => {
    const chunk = chunkOf(bytes);
    return chunk === undefined ? [] : [{ ...chunk, bytes }];
  });
  const [first, ...others] = chunks;
  if (first === undefined || chunks.length < rows.length) return false;
  const head = Buffer.from(first.bytes.subarray(0, NUMBER));
  head.writeDoubleLE(head.readDoubleLE() + others.reduce((sum, { count }) => sum + count, 0));
  const hash = createHash("sha256").update(head);
  for (let column = 0; column < first.columns; column++)
    for (const { bytes, count } of chunks) {
      const size = count * NUMBER;
      hash.update(bytes.subarray(NUMBER + column * size, NUMBER + (column + 1) * size));
      if (size > AT_ONCE_BYTES) await new Promise(setImmediate);
    }
  return hash.digest("hex") === digest;
}

const joined = (rows: readonly ReadingsPartRow[]) => Buffer.concat(rows.map(({ bytes }) => bytes));

export const rowOf = ({ digest, report, count, textBytes }: StoredReadings): ReadingsRow => ({
  digest,
  report,
  count,
  textBytes,
});
