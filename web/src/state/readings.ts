import type { TapeId } from "@perceptum/core/project";
import { decodeReadings, encodeReadings, type RawReadings } from "@perceptum/core/readings";
import { useSyncExternalStore } from "react";
import { problemOf } from "./api";

/**
 * Raw readings by tape. They are large and stay out of Redux; components subscribe to the version, which counts up
 * whenever a tape comes or goes.
 */
class ReadingStore {
  private readonly tapes = new Map<TapeId, RawReadings>();
  private readonly listeners = new Set<() => void>();
  private version = 0;
  private project = "";

  get all(): ReadonlyMap<TapeId, RawReadings> {
    return this.tapes;
  }

  get(tape: TapeId): RawReadings | undefined {
    return this.tapes.get(tape);
  }

  /** Fetches the readings of tapes that are not here yet. @throws Error with a sentence */
  async load(project: string, tapes: readonly TapeId[]): Promise<void> {
    if (project !== this.project) {
      this.project = project;
      this.tapes.clear();
    }
    await Promise.all(
      tapes
        .filter((tape) => !this.tapes.has(tape))
        .map(async (tape) => {
          const response = await fetch(`/api/projects/${project}/tapes/${tape}/readings`);
          if (!response.ok) throw new Error(await problemOf(response));
          this.tapes.set(tape, decodeReadings(new Uint8Array(await response.arrayBuffer())));
        }),
    );
    this.changed();
  }

  /** Keeps readings at the server, then here. @throws Error with a sentence */
  async keep(project: string, tape: TapeId, readings: RawReadings): Promise<void> {
    const response = await fetch(`/api/projects/${project}/tapes/${tape}/readings`, {
      method: "PUT",
      headers: { "Content-Type": "application/octet-stream" },
      body: encodeReadings(readings),
    });
    if (!response.ok) throw new Error(await problemOf(response));
    this.tapes.set(tape, readings);
    this.changed();
  }

  private changed(): void {
    this.version++;
    for (const listener of this.listeners) listener();
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly getVersion = () => this.version;
}

export const readingStore = new ReadingStore();

/** Re-renders when readings come or go; gives the count of such changes. */
export function useReadingsVersion(): number {
  return useSyncExternalStore(readingStore.subscribe, readingStore.getVersion);
}
