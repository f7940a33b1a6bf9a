import { type MarkedTape, markedTapes } from "@perceptum/core/teaching";
import { useMemo } from "react";
import { useProject } from "./project";
import { readingStore, useReadingsVersion } from "./readings";

/** Every tape with its marks laid over its features; made again only when tapes, sensors or targets change. */
export function useMarkedTapes(): readonly MarkedTape[] {
  const project = useProject();
  const version = useReadingsVersion();
  const { tapes, sensors, targets } = project;
  return useMemo(() => {
    void version;
    return markedTapes(project, readingStore.all);
  }, [tapes, sensors, targets, version]);
}
