import type { ProjectDocument } from "@perceptum/core/project";

/** A change that the server has not answered for: kept in the browser until it has. */
export interface Unsent {
  id: string;
  revision: number;
  project: ProjectDocument;
  at: number;
}

const STORE = "unsent";

function database(): Promise<IDBDatabase> {
  return new Promise((resolve, reject) => {
    const request = indexedDB.open("perceptum", 1);
    request.onupgradeneeded = () => request.result.createObjectStore(STORE, { keyPath: "id" });
    request.onsuccess = () => resolve(request.result);
    request.onerror = () => reject(request.error);
  });
}

async function within<T>(mode: IDBTransactionMode, work: (store: IDBObjectStore) => IDBRequest<T>): Promise<T> {
  const db = await database();
  try {
    return await new Promise((resolve, reject) => {
      const request = work(db.transaction(STORE, mode).objectStore(STORE));
      request.onsuccess = () => resolve(request.result);
      request.onerror = () => reject(request.error);
    });
  } finally {
    db.close();
  }
}

export const keepUnsent = (unsent: Unsent) => within("readwrite", (store) => store.put(unsent)).then(() => undefined);
export const readUnsent = (id: string) => within<Unsent | undefined>("readonly", (store) => store.get(id));
export const forgetUnsent = (id: string) => within("readwrite", (store) => store.delete(id)).then(() => undefined);
