import { statSync } from "node:fs";
import type { DataSource, EntityManager } from "typeorm";
import { StorageError, storageErrorOf } from "./StorageError";

/** What is needed of the driver's own connection. */
export interface Connection {
  readonly inTransaction: boolean;
  exec(sql: string): unknown;
  pragma(source: string, options?: { simple: boolean }): unknown;
  backup(file: string): Promise<unknown>;
}

/**
 * The one way to the tables. Work is queued and done one piece at a time, so that no piece sees or joins another's
 * transaction; what fails is rolled back, and nothing is written as long as a transaction is open that should not be.
 */
export class Database {
  private last: Promise<unknown> = Promise.resolve();
  private readonly identity: string;

  constructor(
    readonly file: string,
    private readonly source: DataSource,
    private readonly connection: Connection,
  ) {
    this.identity = identityOf(file);
  }

  /** Reads, between two writes. @throws StorageError */
  read<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    return this.queued(async () => {
      this.settle();
      return work(this.source.manager);
    });
  }

  /** Writes as one transaction: all of it is on disk when this resolves, or nothing. @throws StorageError */
  write<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    return this.queued(async () => {
      this.settle();
      // What is written into a file that was moved away would be gone at the next start.
      if (identityOf(this.file) !== this.identity) throw new StorageError("replaced");
      try {
        this.connection.exec("BEGIN IMMEDIATE");
        const result = await work(this.source.manager);
        this.connection.exec("COMMIT");
        if (this.connection.inTransaction) throw new StorageError("open");
        return result;
      } catch (error) {
        this.rollBack();
        throw error;
      }
    });
  }

  /** Gives freed pages back to the disk, a few at a time, and empties the write-ahead log. */
  async shrink(): Promise<void> {
    const free = () => this.connection.pragma("freelist_count", { simple: true }) as number;
    // As long as it gets less: a database of another kind gives nothing back.
    for (let goesOn = true; goesOn; ) {
      goesOn = await this.queued(async () => {
        this.settle();
        const before = free();
        this.connection.pragma(`incremental_vacuum(${PAGES_AT_ONCE})`);
        return free() < before;
      });
      await new Promise(setImmediate);
    }
    await this.queued(async () => this.connection.pragma("wal_checkpoint(TRUNCATE)"));
  }

  pragma(name: "synchronous" | "journal_mode" | "foreign_keys" | "auto_vacuum"): unknown {
    return this.connection.pragma(name, { simple: true });
  }

  /** Copies the whole database into another file, while work goes on. */
  async copyTo(file: string): Promise<void> {
    await this.connection.backup(file);
  }

  /** Waits for what is queued, then closes the file. */
  async close(): Promise<void> {
    await this.queued(() => this.source.destroy());
  }

  private queued<T>(work: () => Promise<T>): Promise<T> {
    const done = this.last.then(work).catch((error: unknown) => {
      throw storageErrorOf(error) ?? error;
    });
    this.last = done.catch(() => undefined);
    return done;
  }

  /** Makes sure that no transaction is open, before anything else is done. */
  private settle(): void {
    if (!this.connection.inTransaction) return;
    this.rollBack();
    if (this.connection.inTransaction) throw new StorageError("open");
  }

  /** After a commit that failed the transaction may still be open: what came later would land in it. */
  private rollBack(): void {
    if (!this.connection.inTransaction) return;
    try {
      this.connection.exec("ROLLBACK");
    } catch {
      // Tried again before the next work, which is refused as long as it is in vain.
    }
  }
}

const PAGES_AT_ONCE = 500;

/** Tells one file from another that lies in its place. */
function identityOf(file: string): string {
  try {
    const { dev, ino } = statSync(file, { bigint: true });
    return `${dev}:${ino}`;
  } catch {
    return "none";
  }
}
