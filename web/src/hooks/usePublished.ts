import { useSyncExternalStore } from "react";
import type { Published } from "../model/Published";

/** The published value, kept up to date. */
export function usePublished<T>(published: Published<T>): T {
  return useSyncExternalStore(published.subscribe, published.get);
}

/** A part of the published value; only another value (or object) renders anew, so `part` must not make new objects. */
export function usePublishedPart<T, P>(published: Published<T>, part: (value: T) => P): P {
  return useSyncExternalStore(published.subscribe, () => part(published.get()));
}
