import { type MarkedTape, markedTapes } from "@perceptum/core/teaching";
import { useMemo } from "react";
import { readingStore, useReadingsVersion } from "./readings";
import { useAppSelector } from "./store";

/** Every tape with its marks laid over its features; made again only when tapes, sensors or targets change. */
export function useMarkedTapes(): readonly MarkedTape[] {
  const version = useReadingsVersion();
  const tapes = useAppSelector((state) => state.document.present?.tapes);
  const sensors = useAppSelector((state) => state.document.present?.sensors);
  const targets = useAppSelector((state) => state.document.present?.targets);
  return useMemo(() => {
    void version;
    return tapes && sensors && targets ? markedTapes({ tapes, sensors, targets }, readingStore.all) : [];
  }, [tapes, sensors, targets, version]);
}
