import { rmSync } from "node:fs";
import { dirname } from "node:path";
import SqliteDatabase from "better-sqlite3";
import { Problem } from "../problem";
import { backupFile, backupNames } from "./backupFiles";
import type { Database } from "./Database";

/**
 * Looks for what is damaged in a database in its backups, the latest first; `what` is a plural that names it. `read`
 * gives undefined for what a backup does not have whole. @throws Problem 503 where none has it
 */
export async function fromBackups<T>(
  { file }: Database,
  what: string,
  read: (backup: SqliteDatabase.Database) => T | undefined | Promise<T | undefined>,
): Promise<T> {
  const data = dirname(file);
  for (const name of backupNames(data)) {
    const copy = backupFile(data, name);
    try {
      const backup = new SqliteDatabase(copy, { readonly: true, fileMustExist: true });
      try {
        const found = await read(backup);
        if (found !== undefined) return found;
      } finally {
        backup.close();
        // SQLite makes these two beside a file that is only read, too.
        for (const end of ["-wal", "-shm"]) rmSync(copy + end, { force: true });
      }
    } catch {
      // A backup may be damaged itself, or older than these tables: an earlier one may do.
    }
  }
  throw new Problem(
    503,
    "Damaged",
    `${what} are damaged in the database, and no backup has them whole; nothing else is touched by that`,
  );
}
