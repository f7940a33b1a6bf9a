import { copyFileSync, existsSync, renameSync, rmSync, statSync } from "node:fs";
import { join } from "node:path";
import SqliteDatabase from "better-sqlite3";
import { BACKUPS, backupFile, backupNames, dayOf, deleteOld, makeFolder } from "./backupFiles";
import type { Database } from "./Database";
import { DATABASE_FILE, DatabaseError } from "./openDatabase";

/** Makes the backup of the day, if it is not there yet, and deletes those that are too old. */
export async function backUp(database: Database, data: string, now: Date): Promise<void> {
  const file = backupFile(data, dayOf(now));
  if (existsSync(file)) return;
  const unfinished = makeFolder(data);
  await database.copyTo(unfinished);
  renameSync(unfinished, file);
  deleteOld(data);
}

/** What there is to restore, in lines for the terminal. */
export function tellBackups(data: string): string {
  const days = backupNames(data);
  if (days.length === 0) return `There is no backup in ${BACKUPS(data)} yet.\n`;
  const lines = days.map((day) => `  ${day}  ${(statSync(backupFile(data, day)).size / 1_048_576).toFixed(1)} MB`);
  return `Backups in ${BACKUPS(data)}:\n${lines.join("\n")}\nBring one back with: perceptum restore ${days[0]}\n`;
}

/**
 * Puts the backup of a day in the place of the database, which is kept beside it under another name. A server that
 * still runs notices it and writes nothing more.
 *
 * @returns where the database that was in its place is now, or undefined where there was none.
 * @throws DatabaseError when there is no such backup, or it is damaged.
 */
export function restore(data: string, day: string, now: Date): string | undefined {
  const backup = backupFile(data, day);
  const names = backupNames(data);
  if (!names.includes(day))
    throw new DatabaseError(
      `there is no backup of ${day}; ${names.length > 0 ? `there is ${names.join(", ")}` : "there is none at all"}. Nothing was changed.`,
      2,
    );
  const copy = join(data, "perceptum-restoring.sqlite");
  copyFileSync(backup, copy);
  const whole = isWhole(copy);
  // SQLite makes these two beside a file that is only read, too.
  for (const end of ["-wal", "-shm"]) rmSync(copy + end, { force: true });
  if (!whole) {
    rmSync(copy);
    throw new DatabaseError(`the backup of ${day} is damaged; try an earlier one. Nothing was changed.`);
  }
  const file = join(data, DATABASE_FILE);
  const aside = join(data, `before-restore-${now.toISOString().replace(/[:.]/g, "-")}.sqlite`);
  const there = existsSync(file);
  if (there) {
    // What the log holds belongs to the file that it lies beside.
    for (const end of ["-wal", "-shm"]) if (existsSync(file + end)) renameSync(file + end, aside + end);
    renameSync(file, aside);
  }
  renameSync(copy, file);
  return there ? aside : undefined;
}

function isWhole(file: string): boolean {
  const database = new SqliteDatabase(file, { readonly: true });
  try {
    return database.pragma("integrity_check(1)", { simple: true }) === "ok";
  } catch {
    return false;
  } finally {
    database.close();
  }
}
