import { useSyncExternalStore } from "react";

/** A value outside Redux, because it is large or comes from a worker; components subscribe to it. */
export class Published<T> {
  private readonly listeners = new Set<() => void>();
  constructor(private value: T) {}

  readonly get = (): T => this.value;

  set(value: T): void {
    this.value = value;
    for (const listener of this.listeners) listener();
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
}

/** The published value, kept up to date. */
export function usePublished<T>(published: Published<T>): T {
  return useSyncExternalStore(published.subscribe, published.get);
}

/** A part of the published value; only another value (or object) renders anew, so `part` must not make new objects. */
export function usePublishedPart<T, P>(published: Published<T>, part: (value: T) => P): P {
  return useSyncExternalStore(published.subscribe, () => part(published.get()));
}
