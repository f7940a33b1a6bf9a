import { rmSync } from "node:fs";
import SqliteDatabase from "better-sqlite3";
import { backupFile, backupNames } from "./backupFiles";

/** What the latest backup has that has it at all; undefined where none does. `read` gives undefined for what is not whole. */
export async function fromBackups<T>(
  data: string,
  read: (backup: SqliteDatabase.Database) => T | undefined | Promise<T | undefined>,
): Promise<T | undefined> {
  for (const name of backupNames(data)) {
    const file = backupFile(data, name);
    try {
      const backup = new SqliteDatabase(file, { readonly: true, fileMustExist: true });
      try {
        const found = await read(backup);
        if (found !== undefined) return found;
      } finally {
        backup.close();
        // Even who only reads it makes these two beside it.
        for (const end of ["-wal", "-shm"]) rmSync(file + end, { force: true });
      }
    } catch {
      // Damaged itself, or from a time before these tables: an earlier one may have it.
    }
  }
  return undefined;
}
