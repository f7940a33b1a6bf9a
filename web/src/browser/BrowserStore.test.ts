import "fake-indexeddb/auto";
import { emptyProject } from "@perceptum/core/project";
import { IDBFactory } from "fake-indexeddb";
import { deleteDB, openDB } from "idb";
import { beforeEach, describe, expect, it } from "vitest";
import type { KeptChange } from "../model/session/kept";
import { BrowserStore } from "./BrowserStore";

beforeEach(() => {
  globalThis.indexedDB = new IDBFactory();
});

const change = (base = emptyProject("Bed one"), edits: KeptChange["edits"] = []): KeptChange => ({
  project: "p",
  window: "w",
  revision: 3,
  at: 5,
  base,
  edits,
});
const renamed = (name: string) => [{ edit: "renameProject" as const, args: { name } }];

describe("a change that is kept", () => {
  it("is told with what it was made on, however often it is kept anew", async () => {
    const store = new BrowserStore();
    const base = emptyProject("Bed one");
    for (const name of ["a", "ab", "abc"]) await store.keep(change(base, renamed(name)));
    expect(await store.changes("p")).toEqual([change(base, renamed("abc"))]);
    expect(await store.changes("q")).toEqual([]);
    await store.forget("p", "w");
    expect(await store.changes()).toEqual([]);
  });

  it("keeps what it was made on, though it was forgotten while it was being kept and comes once more", async () => {
    const store = new BrowserStore();
    const base = emptyProject("Bed one");
    await store.changes();
    const first = store.keep(change(base, renamed("a")));
    const gone = store.forget("p", "w");
    const again = store.keep(change(base, renamed("b")));
    await Promise.all([first, gone, again]);
    expect(await store.changes("p")).toEqual([change(base, renamed("b"))]);
    await Promise.all([store.keep(change(base, renamed("c"))), store.forget("p", "w")]);
    await store.keep(change(base, renamed("d")));
    expect(await store.changes("p")).toEqual([change(base, renamed("d"))]);
  });
});

describe("what an older page kept", () => {
  it("is read as a change without edits: from the first version", async () => {
    const project = emptyProject("Old bed");
    const old = await openDB("perceptum", 1, {
      upgrade: (db) => void db.createObjectStore("unsent", { keyPath: "id" }),
    });
    await old.put("unsent", { id: "p", revision: 2, project, at: 7 });
    old.close();
    const store = new BrowserStore();
    expect(await store.changes()).toEqual([
      { project: "p", window: "first", revision: 2, at: 7, base: project, edits: [] },
    ]);
    await store.keepFrame("p", "f", new Uint8Array([1, 2]));
    expect(await store.frame("p", "f")).toEqual(new Uint8Array([1, 2]));
  });

  it("is read as a change without edits: from the one before this, and its recordings stay", async () => {
    const document = emptyProject("Old bed");
    const old = await openDB("perceptum", 4, {
      upgrade(db) {
        db.createObjectStore("unsent", { keyPath: ["project", "window"] });
        db.createObjectStore("readings", { keyPath: ["project", "tape"] });
        db.createObjectStore("frames", { keyPath: ["project", "name"] });
        db.createObjectStore("recordings", { keyPath: ["project", "window", "part"] });
      },
    });
    await old.put("unsent", { project: "p", window: "w", revision: 3, at: 5, document });
    await old.put("recordings", { project: "p", window: "w", part: 0 });
    old.close();
    const store = new BrowserStore();
    expect(await store.changes("p")).toEqual([change(document)]);
    expect(await store.recordings("p")).toHaveLength(1);
    await deleteDB("perceptum", { blocked: () => undefined });
  });
});
