/** What can be wrong with the storage, the codes of SQLite and of the system that mean it, and how it is said. */
const WORDS = {
  full: {
    status: 507,
    title: "No room left",
    codes: /^(SQLITE_FULL|SQLITE_IOERR_WRITE|SQLITE_IOERR_TRUNCATE|SQLITE_IOERR_FSYNC|ENOSPC|EFBIG|EDQUOT)$/,
    text: "the disk of the server is full, or its limit is reached; nothing was changed. Free some space, then try again",
  },
  busy: {
    status: 503,
    title: "Busy",
    codes: /^SQLITE_(BUSY|LOCKED|PROTOCOL)/,
    text: "another program holds the database locked; nothing was changed. Close that program, then try again",
  },
  readOnly: {
    status: 503,
    title: "Read only",
    codes: /^(SQLITE_READONLY|SQLITE_CANTOPEN|SQLITE_PERM|EROFS|EACCES|EPERM)/,
    text: "the database may only be read; nothing was changed. Change the rights of the data folder, then try again",
  },
  damaged: {
    status: 503,
    title: "Damaged",
    codes: /^(SQLITE_CORRUPT|SQLITE_NOTADB)/,
    text: "the database is damaged. Stop the server and bring back a backup with “perceptum restore”",
  },
  replaced: {
    status: 503,
    title: "Database gone",
    codes: /^REPLACED$/,
    text: "the database file was moved, deleted or replaced while the server runs; nothing was changed. Start the server again",
  },
  open: {
    status: 503,
    title: "Not ready",
    codes: /^OPEN$/,
    text: "an earlier change could not be taken back; nothing is written until it is. Start the server again",
  },
  failing: {
    status: 503,
    title: "Disk trouble",
    codes: /^(SQLITE_IOERR|EIO)/,
    text: "the disk of the server could not be read or written; nothing was changed. Try again",
  },
} as const;

export type ErrorCode = keyof typeof WORDS;

/** The database could not do it; nothing of the request was kept. The message is a whole sentence. */
export class StorageError extends Error {
  constructor(
    readonly code: ErrorCode,
    options?: ErrorOptions,
  ) {
    super(WORDS[code].text, options);
  }

  get status(): number {
    return WORDS[this.code].status;
  }

  get title(): string {
    return WORDS[this.code].title;
  }
}

/** What a failed statement or file operation means; undefined where it is none of the storage's own troubles. */
export function storageErrorOf(error: unknown): StorageError | undefined {
  if (error instanceof StorageError) return error;
  const { code, driverError } = error as { code?: unknown; driverError?: { code?: unknown } };
  const name = String(driverError?.code ?? code ?? "");
  const found = (Object.keys(WORDS) as ErrorCode[]).find((key) => WORDS[key].codes.test(name));
  return found === undefined ? undefined : new StorageError(found, { cause: error });
}
