import { accessSync, constants, mkdirSync, renameSync } from "node:fs";
import { join } from "node:path";
import { DataSource } from "typeorm";
import { backupFile, dayOf, deleteOld, makeFolder, updateOf } from "./backupFiles";
import { type Connection, Database } from "./Database";
import { ENTITIES } from "./entities";
import { MIGRATIONS } from "./migrations";

/** The database cannot be used; the message is a whole sentence for the person who started the server. */
export class DatabaseError extends Error {
  /** @param code with which the program ends: 2 where what was asked for cannot be */
  constructor(
    message: string,
    readonly code = 1,
  ) {
    super(message);
  }
}

/** The driver's connection before the tables are looked at. */
interface NewConnection extends Connection {
  prepare(sql: string): { all(): unknown[]; run(...values: unknown[]): unknown };
}

export const DATABASE_FILE = "perceptum.sqlite";

/**
 * Opens (or makes) the database in a folder, looks whether it is whole and of a version that this program knows, and
 * brings it to the present tables. Write-ahead logging with `synchronous = FULL`: what was answered survives a killed
 * process and a lost supply.
 *
 * @param through lets a test stand between the database and its connection.
 * @throws DatabaseError when the file is locked, unreadable, damaged, of a later version or no database.
 */
export async function openDatabase(
  folder: string,
  through: (connection: Connection) => Connection = (connection) => connection,
): Promise<Database> {
  const file = join(folder, DATABASE_FILE);
  let connection: NewConnection | undefined;
  const source = new DataSource({
    type: "better-sqlite3",
    database: file,
    entities: ENTITIES,
    migrations: MIGRATIONS,
    migrationsRun: true,
    timeout: 2000,
    prepareDatabase: (database: NewConnection) => {
      connection = database;
      // Only a file without tables takes this at once; another one takes it when it is next written anew.
      database.pragma("auto_vacuum = INCREMENTAL");
      database.pragma("journal_mode = WAL");
      database.pragma("synchronous = FULL");
      database.pragma("foreign_keys = ON");
      database.pragma("journal_size_limit = 16777216");
      requireKnown(database);
    },
  });
  try {
    mkdirSync(folder, { recursive: true });
    accessSync(folder, constants.R_OK | constants.W_OK);
    await source.initialize();
  } catch (error) {
    if (source.isInitialized) await source.destroy();
    if (error instanceof DatabaseError) throw error;
    throw new DatabaseError(`The database ${file} cannot be used: ${reason(error)} Nothing was changed.`);
  }
  if (connection === undefined) throw new DatabaseError(`The database ${file} could not be opened.`);
  if (connection.pragma("auto_vacuum", { simple: true }) === 0) {
    connection.pragma("auto_vacuum = INCREMENTAL");
    connection.exec("VACUUM");
  }
  return new Database(file, source, through(connection));

  /** Damage is found now and not when a project is opened; tables of a later version are left as they are. */
  function requireKnown(database: NewConnection): void {
    const found = database.pragma("quick_check(1)", { simple: true });
    if (found !== "ok")
      throw new DatabaseError(
        `The database ${file} is damaged (${String(found).replace(/\s+/g, " ")}). Bring back a backup with “perceptum restore”. Nothing was changed.`,
      );
    const tables = database.prepare("SELECT name FROM sqlite_master WHERE name = 'migrations'").all();
    if (tables.length === 0) return;
    const steps = database.prepare("SELECT name FROM migrations").all() as { name: string }[];
    const names = MIGRATIONS.map((step) => new step().name);
    const known = new Set(names);
    if (steps.some(({ name }) => !known.has(name)))
      throw new DatabaseError(
        `The database ${file} was made by a later version of Perceptum. Use that version, or choose another folder with --data. Nothing was changed.`,
      );
    if (steps.length > 0 && steps.length < names.length) copyBeforeUpdate(database);
  }

  /** Keeps the database as it is before its tables are changed. */
  function copyBeforeUpdate(database: NewConnection): void {
    try {
      const unfinished = makeFolder(folder);
      database.prepare("VACUUM INTO ?").run(unfinished);
      renameSync(unfinished, backupFile(folder, updateOf(dayOf(new Date()))));
      deleteOld(folder);
    } catch (error) {
      throw new DatabaseError(
        `The database ${file} has to be updated, and no copy of it could be made before: ${reason(error)} Nothing was changed.`,
      );
    }
  }
}

function reason(error: unknown): string {
  const { code, message } = error as { code?: string; message?: string };
  const text = `${code ?? ""} ${message ?? ""}`;
  if (/SQLITE_BUSY|SQLITE_LOCKED|database is locked/.test(text))
    return "another program holds it locked. Close that program, or choose another folder with --data.";
  if (/SQLITE_NOTADB|SQLITE_CORRUPT|not a database|malformed/.test(text))
    return "it is not a database, or it is damaged. Bring back a backup with “perceptum restore”, or choose another folder with --data.";
  if (/EACCES|EPERM|SQLITE_CANTOPEN|SQLITE_READONLY|EROFS|ENOTDIR|EEXIST|EISDIR/.test(text))
    return "it may not be read and written there. Change its rights, or choose another folder with --data.";
  if (/SQLITE_FULL|SQLITE_IOERR|ENOSPC/.test(text)) return "the disk is full. Free some space, then start again.";
  return `${message ?? String(error)}.`;
}
