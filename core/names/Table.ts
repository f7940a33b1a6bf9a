import type * as z from "zod";

/** What every entry of a table has: its key, and the schema of what is kept of its kind. */
export interface Entry {
  readonly key: string;
  readonly schema: z.ZodType;
}

/**
 * All kinds of one thing: steps, conditions, robots. Everything that the program knows of a kind stands in its entry;
 * a new kind is one more entry.
 */
export class Table<E extends Entry> {
  private readonly byKey = new Map<string, E>();
  /** The schemas of all entries: the very list that a union of them is made of, so that it knows what is added. */
  readonly schemas: z.ZodType[];

  constructor(entries: readonly E[]) {
    this.schemas = entries.map((entry) => entry.schema);
    for (const entry of entries) this.byKey.set(entry.key, entry);
  }

  get entries(): E[] {
    return [...this.byKey.values()];
  }

  find(key: string): E | undefined {
    return this.byKey.get(key);
  }

  /** The entry of a key. @throws Error where there is none: what is kept was checked by the schema */
  get(key: string): E {
    const entry = this.byKey.get(key);
    if (entry === undefined) throw new Error(`there is no kind “${key}” here`);
    return entry;
  }

  /** Adds an entry; gives what takes it away again. */
  add(entry: E): () => void {
    this.byKey.set(entry.key, entry);
    this.schemas.push(entry.schema);
    return () => {
      this.byKey.delete(entry.key);
      this.schemas.splice(this.schemas.indexOf(entry.schema), 1);
    };
  }
}
