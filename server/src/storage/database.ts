import { accessSync, constants, mkdirSync } from "node:fs";
import { join } from "node:path";
import { DataSource } from "typeorm";
import { ProjectEntity, TapeChunkEntity } from "./entities";
import { MIGRATIONS } from "./migrations";

/** The database cannot be used; the message is a whole sentence for the person who started the server. */
export class DatabaseError extends Error {}

/** What the pragma calls of the driver need of it. */
interface Pragmas {
  pragma(source: string): unknown;
}

/**
 * Opens (or makes) the database in a folder and brings it to the present tables. Write-ahead logging with
 * `synchronous = FULL`: what was answered survives a killed process and a lost supply.
 *
 * @throws DatabaseError when the file is locked, unreadable or no database.
 */
export async function openDatabase(folder: string): Promise<DataSource> {
  const file = join(folder, "perceptum.sqlite");
  const source = new DataSource({
    type: "better-sqlite3",
    database: file,
    entities: [ProjectEntity, TapeChunkEntity],
    migrations: MIGRATIONS,
    migrationsRun: true,
    timeout: 2000,
    prepareDatabase: (database: Pragmas) => {
      database.pragma("journal_mode = WAL");
      database.pragma("synchronous = FULL");
      database.pragma("foreign_keys = ON");
    },
  });
  try {
    mkdirSync(folder, { recursive: true });
    accessSync(folder, constants.R_OK | constants.W_OK);
    await source.initialize();
  } catch (error) {
    throw new DatabaseError(`The database ${file} cannot be used: ${reason(error)} Nothing was changed.`);
  }
  return source;
}

function reason(error: unknown): string {
  const { code, message } = error as { code?: string; message?: string };
  const text = `${code ?? ""} ${message ?? ""}`;
  if (/SQLITE_BUSY|SQLITE_LOCKED|database is locked/.test(text))
    return "another program holds it locked. Close that program, or choose another folder with --data.";
  if (/SQLITE_NOTADB|SQLITE_CORRUPT|not a database/.test(text))
    return "it is not a database, or it is damaged. Move it away, or choose another folder with --data.";
  if (/EACCES|EPERM|SQLITE_CANTOPEN|SQLITE_READONLY|ENOTDIR|EEXIST|EISDIR/.test(text))
    return "it may not be read and written there. Change its rights, or choose another folder with --data.";
  return `${message ?? String(error)}.`;
}
