import { useEffect, useMemo } from "react";
import { useStore } from "react-redux";
import { useSession } from "../hooks/context";
import { currentBlock, playheadOn } from "../hooks/source";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { SHOWN_MS } from "../model/live/live";
import type { AppState } from "../model/store/store";
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
function windowOf(chosen: TapeWindow | undefined, source: Source | undefined, length: number): TapeWindow {
  if (chosen !== undefined) return fittedWindow(chosen, length);
  return { from: source === "live" ? Math.max(0, length - SHOWN_MS) : 0, to: length };
}

/** The part of a source that is shown, kept up to date. */
export function useTapeWindow(source: Source | undefined, length: number): TapeWindow {
  const chosen = useAppSelector((state) => (source === undefined ? undefined : state.view.windows[source]));
  return useMemo(() => windowOf(chosen, source, length), [source, chosen, length]);
}

/** Has the part that is shown follow the playhead while it plays. */
export function useFollowing(source: Source | undefined, part: TapeWindow, length: number, t: number): void {
  const playing = useAppSelector((state) => state.view.playing);
  const dispatch = useAppDispatch();
  useEffect(() => {
    if (!playing || source === undefined || (t >= part.from && t <= part.to)) return;
    const span = part.to - part.from;
    dispatch(windowChosen({ source, ...fittedWindow({ from: t - 0.05 * span, to: t + 0.95 * span }, length) }));
  }, [playing, source, t, part, length, dispatch]);
}

/** Ways to change what is shown of what lies below: the same as long as the project is open. */
export interface TapeZoom {
  /** So many times as much, around a time: that of the playhead where it is shown. */
  zoom(factor: number, around?: number): void;
  /** On by a share of what is shown. */
  pan(share: number): void;
  whole(): void;
}

export function useTapeZoom(): TapeZoom {
  const session = useSession();
  const dispatch = useAppDispatch();
  const store = useStore<AppState>();
  return useMemo(() => {
    const show = (next: (part: TapeWindow, length: number, t: number) => TapeWindow) => {
      const state = store.getState();
      const below = currentBlock(session, state);
      if (below === null) return;
      const { source, length } = below;
      const part = windowOf(state.view.windows[source], source, length);
      const shown = next(part, length, playheadOn(source, session, state));
      dispatch(windowChosen(shown.to - shown.from >= length ? { source } : { source, ...shown }));
    };
    return {
      zoom: (factor, around) =>
        show((part, length, t) => {
          const middle = t >= part.from && t <= part.to ? t : (part.from + part.to) / 2;
          return zoomed(part, around ?? middle, factor, length);
        }),
      pan: (share) =>
        show((part, length) => {
          const by = share * (part.to - part.from);
          return fittedWindow({ from: part.from + by, to: part.to + by }, length);
        }),
      whole: () => show((_, length) => ({ from: 0, to: length })),
    };
  }, [session, dispatch, store]);
}
