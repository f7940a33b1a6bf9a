import { useEffect, useMemo } from "react";
import { useStore } from "react-redux";
import { type SourceView, useSource } from "../state/source";
import { type AppState, useAppDispatch, useAppSelector } from "../state/store";
import { playheadMoved, playingSet } from "../state/view";

export interface Transport {
  playing: boolean;
  play(): void;
  /** So many readings on or back. */
  step(readings: number): void;
  /** To the arrival or departure after (1) or before (−1) the playhead. */
  toEvent(direction: 1 | -1): void;
  seek(t: number): void;
}

/** Times at which what is seen changes. */
function eventTimes({ spans, block }: SourceView): number[] {
  return spans.flatMap(({ from, to }) => [block.t[from], block.t[Math.min(to + 1, block.length - 1)]]);
}

/** Moves the playhead of what lies below. */
export function useTransport(): Transport {
  const source = useSource();
  const playing = useAppSelector((state) => state.view.playing);
  const dispatch = useAppDispatch();
  const store = useStore<AppState>();

  return useMemo(() => {
    const now = () => (source === null ? 0 : (store.getState().view.playheads[source.source] ?? 0));
    const seek = (t: number) => {
      if (source !== null)
        dispatch(playheadMoved({ source: source.source, t: Math.max(0, Math.min(source.length, t)) }));
    };
    return {
      playing,
      seek,
      play() {
        if (source === null) return;
        if (now() >= source.length) seek(0);
        dispatch(playingSet(true));
      },
      step(readings) {
        if (source === null || source.block.length === 0) return;
        const { block } = source;
        const next = Math.max(0, Math.min(block.length - 1, block.indexAt(now()) + readings));
        dispatch(playingSet(false));
        seek(block.t[next]);
      },
      toEvent(direction) {
        if (source === null) return;
        const times = eventTimes(source);
        const next = direction === 1 ? times.find((t) => t > now()) : times.findLast((t) => t < now());
        dispatch(playingSet(false));
        if (next !== undefined) seek(next);
      },
    };
  }, [source, playing, dispatch, store]);
}

/** Carries the playhead on while it plays; one place on the page does this. */
export function usePlaying(): void {
  const source = useSource();
  const playing = useAppSelector((state) => state.view.playing);
  const speed = useAppSelector((state) => state.view.speed);
  const dispatch = useAppDispatch();
  const store = useStore<AppState>();
  const id = source?.source;
  const length = source?.length ?? 0;

  useEffect(() => {
    if (!playing || id === undefined) return;
    let last = performance.now();
    let frame = requestAnimationFrame(function tick(time) {
      const t = (store.getState().view.playheads[id] ?? 0) + Math.max(0, time - last) * speed;
      last = time;
      dispatch(playheadMoved({ source: id, t: Math.min(length, t) }));
      if (t >= length) dispatch(playingSet(false));
      else frame = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, id, length, speed, dispatch, store]);
}
