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
export class Kinds<E extends { readonly key: string }> {
  private readonly byKey = new Map<string, E>();

  constructor(entries: readonly E[]) {
    for (const entry of entries) this.byKey.set(entry.key, entry);
  }

  get entries(): E[] {
    return [...this.byKey.values()];
  }

  get keys(): E["key"][] {
    return this.entries.map(({ key }) => key);
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
    return () => void this.byKey.delete(entry.key);
  }
}

/** Kinds of which each has a schema: what is kept is checked by them. */
export class Table<E extends Entry> extends Kinds<E> {
  private readonly lists: { of: (schema: z.ZodType) => z.ZodType; schemas: z.ZodType[] }[] = [];
  /** The schemas of all entries. */
  readonly schemas: z.ZodType[];

  constructor(entries: readonly E[]) {
    super(entries);
    this.schemas = this.schemasAs((schema) => schema);
  }

  /** The schemas of all entries, each as `of` makes it: the very list for a union, so that it knows what is added. */
  schemasAs(of: (schema: z.ZodType) => z.ZodType): z.ZodType[] {
    const schemas = this.entries.map((entry) => of(entry.schema));
    this.lists.push({ of, schemas });
    return schemas;
  }

  override add(entry: E): () => void {
    const remove = super.add(entry);
    const undo = this.lists.map(({ of, schemas }) => {
      const schema = of(entry.schema);
      schemas.push(schema);
      return () => schemas.splice(schemas.indexOf(schema), 1);
    });
    return () => {
      remove();
      for (const take of undo) take();
    };
  }
}
