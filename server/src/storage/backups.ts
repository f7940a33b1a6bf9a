import { copyFileSync, existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from "node:fs";
import { join } from "node:path";
import SqliteDatabase from "better-sqlite3";
import type { Database } from "./Database";
import { DATABASE_FILE, DatabaseError } from "./openDatabase";

/** Backups of so many days are kept. */
const KEPT = 7;
const NAME = /^perceptum-(\d{4}-\d{2}-\d{2})\.sqlite$/;

const folderOf = (data: string) => join(data, "backups");
const fileOf = (data: string, day: string) => join(folderOf(data), `perceptum-${day}.sqlite`);
const dayOf = (now: Date) => now.toISOString().slice(0, 10);

/** The days of which there is a backup, the latest first. */
export function backupDays(data: string): string[] {
  const folder = folderOf(data);
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .flatMap((name) => NAME.exec(name)?.[1] ?? [])
    .sort()
    .reverse();
}

/** Makes the backup of the day, if it is not there yet, and deletes those that are too old. */
export async function backUp(database: Database, data: string, now: Date): Promise<void> {
  const day = dayOf(now);
  if (existsSync(fileOf(data, day))) return;
  mkdirSync(folderOf(data), { recursive: true });
  const unfinished = join(folderOf(data), "unfinished");
  rmSync(unfinished, { force: true });
  await database.copyTo(unfinished);
  renameSync(unfinished, fileOf(data, day));
  for (const old of backupDays(data).slice(KEPT)) rmSync(fileOf(data, old));
}

/** What there is to restore, in lines for the terminal. */
export function tellBackups(data: string): string {
  const days = backupDays(data);
  if (days.length === 0) return `There is no backup in ${folderOf(data)} yet.\n`;
  const lines = days.map((day) => `  ${day}  ${(statSync(fileOf(data, day)).size / 1_048_576).toFixed(1)} MB`);
  return `Backups in ${folderOf(data)}:\n${lines.join("\n")}\nBring one back with: perceptum restore ${days[0]}\n`;
}

/**
 * Puts the backup of a day in the place of the database, which is kept beside it under another name. A server that
 * still runs notices it and writes nothing more.
 *
 * @returns where the database that was in its place is now, or undefined where there was none.
 * @throws DatabaseError when there is no such backup, or it is damaged.
 */
export function restore(data: string, day: string, now: Date): string | undefined {
  const backup = fileOf(data, day);
  if (!existsSync(backup)) {
    const days = backupDays(data);
    throw new DatabaseError(
      `there is no backup of ${day}; ${days.length > 0 ? `there is ${days.join(", ")}` : "there is none at all"}. Nothing was changed.`,
    );
  }
  const copy = join(data, "perceptum-restoring.sqlite");
  copyFileSync(backup, copy);
  if (!isWhole(copy)) {
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
