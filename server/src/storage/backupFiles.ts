import { existsSync, mkdirSync, readdirSync, rmSync } from "node:fs";
import { join } from "node:path";

/** Backups of so many days are kept, and so many copies that were made before an update. */
const KEPT = { daily: 7, update: 2 };
const NAME = /^perceptum-(\d{4}-\d{2}-\d{2}(?:-before-update)?)\.sqlite$/;

export const BACKUPS = (data: string) => join(data, "backups");
export const backupFile = (data: string, name: string) => join(BACKUPS(data), `perceptum-${name}.sqlite`);
export const dayOf = (now: Date) => now.toISOString().slice(0, 10);
/** The name of the copy of a day on which the tables were changed. */
export const updateOf = (day: string) => `${day}-before-update`;

/** The names of all backups, the latest first: a day, or a day on which the tables were changed. */
export function backupNames(data: string): string[] {
  if (!existsSync(BACKUPS(data))) return [];
  return readdirSync(BACKUPS(data))
    .flatMap((name) => NAME.exec(name)?.[1] ?? [])
    .sort()
    .reverse();
}

/** Has a new backup written under a name for the time being; it counts once it is whole. */
export function makeFolder(data: string): string {
  mkdirSync(BACKUPS(data), { recursive: true });
  const unfinished = join(BACKUPS(data), "unfinished");
  rmSync(unfinished, { force: true });
  return unfinished;
}

/** Deletes the backups that are too old. */
export function deleteOld(data: string): void {
  const names = backupNames(data);
  const isUpdate = (name: string) => name === updateOf(name.slice(0, 10));
  const old = [
    ...names.filter((name) => !isUpdate(name)).slice(KEPT.daily),
    ...names.filter(isUpdate).slice(KEPT.update),
  ];
  for (const name of old) rmSync(backupFile(data, name));
}
