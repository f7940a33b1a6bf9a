import { useEffect, useMemo } from "react";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { SHOWN_MS } from "../model/live/live";
import { type Source, windowChosen } from "../model/store/view";

/** The part of a tape that the lanes show, in ms. */
export interface TapeWindow {
  from: number;
  to: number;
}

/** No part shorter than this is shown, in ms. */
const LEAST_MS = 100;

/** A part moved and stretched so that it lies on the tape. */
export function fittedWindow({ from, to }: TapeWindow, length: number): TapeWindow {
  const span = Math.min(length, Math.max(Math.min(LEAST_MS, length), to - from));
  const start = Math.max(0, Math.min(length - span, from));
  return { from: start, to: start + span };
}

/** A part made `factor` times as long around a time that keeps its place. */
export function zoomed({ from, to }: TapeWindow, around: number, factor: number, length: number): TapeWindow {
  const span = Math.min(length, Math.max(Math.min(LEAST_MS, length), (to - from) * factor));
  const share = to === from ? 0.5 : (around - from) / (to - from);
  return fittedWindow({ from: around - share * span, to: around + (1 - share) * span }, length);
}

/** The part of a source that is shown: what was chosen, or all of it; of a recording its last seconds. */
export function useTapeWindow(source: Source | undefined, length: number): TapeWindow {
  const chosen = useAppSelector((state) => (source === undefined ? undefined : state.view.windows[source]));
  return useMemo(
    () =>
      chosen === undefined
        ? { from: source === "live" ? Math.max(0, length - SHOWN_MS) : 0, to: length }
        : fittedWindow(chosen, length),
    [source, chosen, length],
  );
}

/** Ways to change what is shown; while it plays, the part follows the playhead. */
export function useTapeZoom(source: Source | undefined, length: number, t: number) {
  const part = useTapeWindow(source, length);
  const playing = useAppSelector((state) => state.view.playing);
  const dispatch = useAppDispatch();
  const show = (next: TapeWindow) => {
    if (source === undefined) return;
    dispatch(windowChosen(next.to - next.from >= length ? { source } : { source, ...next }));
  };
  useEffect(() => {
    if (!playing || source === undefined || (t >= part.from && t <= part.to)) return;
    const span = part.to - part.from;
    dispatch(windowChosen({ source, ...fittedWindow({ from: t - 0.05 * span, to: t + 0.95 * span }, length) }));
  }, [playing, source, t, part, length, dispatch]);
  return {
    part,
    isWhole: part.to - part.from >= length,
    zoom: (factor: number, around = t >= part.from && t <= part.to ? t : (part.from + part.to) / 2) =>
      show(zoomed(part, around, factor, length)),
    pan: (share: number) => {
      const by = share * (part.to - part.from);
      show(fittedWindow({ from: part.from + by, to: part.to + by }, length));
    },
    whole: () => show({ from: 0, to: length }),
  };
}
