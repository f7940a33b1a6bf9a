import type { DidSpan } from "@perceptum/core/behaviour";
import type { SensorId, TapeId } from "@perceptum/core/names";
import type { Mark, ReadingBlock } from "@perceptum/core/readings";
import { type SeenSpan, spansOf } from "@perceptum/core/rules";
import { tapeOfRun } from "@perceptum/core/world";
import { useEffect, useMemo } from "react";
import { useStore } from "react-redux";
import { useSession } from "../hooks/context";
import { currentBlock, playheadOn, type SourceBlock, useCurrentBlock } from "../hooks/source";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { eyeOfRun } from "../model/runs/runEye";
import type { ProjectSession } from "../model/session/ProjectSession";
import type { AppState } from "../model/store/store";
import { playheadMoved, playingSet, type Source } from "../model/store/view";
import type { Told } from "./tellMoment";

export interface Transport {
  playing: boolean;
  play(): void;
  /** So many readings on or back. */
  step(readings: number): void;
  /** To the arrival or departure after (1) or before (−1) the playhead. */
  toEvent(direction: 1 | -1): void;
  seek(t: number): void;
  /** What lies below as it is judged now, to be told. */
  below(): Told;
}

/** What is seen on a source, as it is judged now. */
function seenNow({ judging, mentor }: ProjectSession, source: Source, runEye: SensorId | null): readonly SeenSpan[] {
  if (source === "run") {
    const run = mentor.lastRun.get();
    return run === null ? [] : spansOf(eyeOfRun(run, runEye).seen);
  }
  if (source === "live") return [];
  const { project, tapes } = judging.judged.get();
  if (project?.tapes.find((tape) => tape.id === source)?.frames !== undefined) return [];
  return tapes.get(source)?.spans ?? [];
}

/** What is true on a source. */
function marksNow({ mentor, bench }: ProjectSession, source: Source, { document, view }: AppState): readonly Mark[] {
  if (source === "live") return bench.live.get().recording?.marks ?? [];
  if (source !== "run") return document.present?.tapes.find((tape) => tape.id === source)?.marks ?? [];
  const run = mentor.lastRun.get();
  return run === null ? [] : tapeOfRun(run.trace, "run" as TapeId, "run", eyeOfRun(run, view.runEye)).head.marks;
}

/** What was done on a source. */
function didNow({ mentor }: ProjectSession, source: Source): readonly DidSpan[] {
  if (source === "run") return mentor.lastRun.get()?.did ?? [];
  const { tape, spans } = mentor.did.get();
  return tape === source ? spans : [];
}

/** Times at which what is seen changes. */
function eventTimes(block: ReadingBlock, spans: readonly SeenSpan[]): number[] {
  return spans.flatMap(({ from, to }) => [block.t[from], block.t[Math.min(to + 1, block.length - 1)]]);
}

/** Moves the playhead of what lies below. Only `playing` renders anew; what lies there is asked when it is moved. */
export function useTransport(): Transport {
  const session = useSession();
  const playing = useAppSelector((state) => state.view.playing);
  const dispatch = useAppDispatch();
  const store = useStore<AppState>();

  return useMemo(() => {
    const current = () => currentBlock(session, store.getState());
    const now = ({ source }: SourceBlock) => playheadOn(source, session, store.getState());
    const seekIn = ({ source, length }: SourceBlock, t: number) =>
      dispatch(playheadMoved({ source, t: Math.max(0, Math.min(length, t)) }));
    return {
      playing,
      seek(t) {
        const below = current();
        if (below !== null) seekIn(below, t);
      },
      below() {
        const below = current();
        const targets = store.getState().document.present?.targets ?? [];
        if (below === null) return { indexAt: () => -1, targets, marks: [], spans: [], did: [] };
        const { source, block } = below;
        const marks = marksNow(session, source, store.getState());
        const [spans, did] = [seenNow(session, source, store.getState().view.runEye), didNow(session, source)];
        return { indexAt: (t) => block.indexAt(t), targets, marks, spans, did };
      },
      play() {
        const below = current();
        if (below === null) return;
        if (now(below) >= below.length) seekIn(below, 0);
        dispatch(playingSet(true));
      },
      step(readings) {
        const below = current();
        if (below === null || below.block.length === 0) return;
        const { block } = below;
        const next = Math.max(0, Math.min(block.length - 1, block.indexAt(now(below)) + readings));
        dispatch(playingSet(false));
        seekIn(below, block.t[next]);
      },
      toEvent(direction) {
        const below = current();
        if (below === null) return;
        const times = eventTimes(below.block, seenNow(session, below.source, store.getState().view.runEye));
        const from = now(below);
        const next = direction === 1 ? times.find((t) => t > from) : times.findLast((t) => t < from);
        dispatch(playingSet(false));
        if (next !== undefined) seekIn(below, next);
      },
    };
  }, [session, playing, dispatch, store]);
}

/** Carries the playhead on while it plays; one place on the page does this. */
export function usePlaying(): void {
  const current = useCurrentBlock();
  const playing = useAppSelector((state) => state.view.playing);
  const speed = useAppSelector((state) => state.view.speed);
  const dispatch = useAppDispatch();
  const store = useStore<AppState>();
  const id = current?.source;
  const length = current?.length ?? 0;

  useEffect(() => {
    if (!playing || id === undefined) return;
    let last = performance.now();
    let frame = requestAnimationFrame(function tick(time) {
      // A pause or a step holds from where it was made, though this loop only hears of it after the next picture.
      if (!store.getState().view.playing) return;
      const t = (store.getState().view.playheads[id] ?? 0) + Math.max(0, time - last) * speed;
      last = time;
      dispatch(playheadMoved({ source: id, t: Math.min(length, t) }));
      if (t >= length) dispatch(playingSet(false));
      else frame = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, id, length, speed, dispatch, store]);
}
