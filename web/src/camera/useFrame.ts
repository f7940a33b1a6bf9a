import { type CameraSensor, isCamera } from "@perceptum/core/readings";
import type { RuleSet, Target } from "@perceptum/core/rules";
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { useSession } from "../hooks/context";
import { CameraWork } from "../model/camera/CameraWork";
import { LatestOnly } from "../model/LatestOnly";
import type { Looked, Setup, ShownFrame } from "../workers/Vision";

/** A frame with what is found in it. */
export interface SeenFrame {
  name: string;
  shown: ShownFrame;
  looked: Looked;
  /** What it was looked at by; missing where that is always what holds. */
  setup?: Setup;
}

interface FrameState {
  seen: SeenFrame | null;
  trouble: string | null;
  looks: number;
}
const NOTHING_SEEN: FrameState = { seen: null, trouble: null, looks: 0 };

/** What frames of a sensor are looked at by; the same object as long as none of it changes. */
export function useSetup(sensor: CameraSensor, ruleSets: readonly RuleSet[], targets: readonly Target[]): Setup {
  const work = useSession().service(CameraWork);
  return useMemo(() => work.setupOf(sensor, ruleSets, targets), [work, sensor, ruleSets, targets]);
}

/**
 * A frame by its name, looked at by a setup; with the mask of a label. What was last seen stays until the next is there.
 * `trouble` says why a frame cannot be shown; `isLooked` that what is seen is of this frame by this setup; `looks`
 * counts what was seen. With `ahead` it is looked at by what a drag has changed before that is drawn.
 */
export function useFrame(
  name: string | undefined,
  setup: Setup,
  label: number,
  ahead = false,
): FrameState & { isLooked: boolean } {
  const session = useSession();
  const [state, setState] = useState<FrameState>(NOTHING_SEEN);
  const drawToo = useRef<(() => void) | null>(null);
  /** Draws what a drag has changed in the same breath, where that waits for the frame. */
  const show = useCallback(
    (next: (state: FrameState) => FrameState) => {
      const draw = drawToo.current;
      drawToo.current = null;
      if (draw === null) return session.isOpen ? setState(next) : undefined;
      flushSync(() => {
        if (session.isOpen) setState(next);
        draw();
      });
    },
    [session],
  );
  useEffect(() => () => drawToo.current?.(), []);
  const looking = useMemo(
    () =>
      new LatestOnly(async ([name, setup, label]: [string, Setup, number]) => {
        const work = session.service(CameraWork);
        try {
          const [shown, looked] = await Promise.all([work.shown(name, setup), work.look(name, setup, label)]);
          show(({ looks }) => ({ seen: { name, shown, looked, setup }, trouble: null, looks: looks + 1 }));
        } catch (error) {
          show(({ looks }) => ({ seen: null, trouble: (error as Error).message, looks }));
        }
      }, session.failed("The frame could not be looked at")),
    [session, show],
  );
  // Before the screen is painted: a bound that is dragged has its mask a frame earlier.
  const asked = useRef<{ name: string; setup: Setup; label: number } | null>(null);
  const ask = useCallback(
    (name: string, setup: Setup, label: number) => {
      const last = asked.current;
      if (last?.name === name && last.setup === setup && last.label === label) return;
      asked.current = { name, setup, label };
      looking.ask([name, setup, label]);
    },
    [looking],
  );
  useLayoutEffect(() => {
    if (name !== undefined) ask(name, setup, label);
  }, [ask, name, setup, label]);
  useEffect(() => {
    if (!ahead || name === undefined) return;
    const unsubscribe = session.ahead.subscribe(() => {
      const project = session.ahead.get();
      const sensor = project?.sensors.find(({ id }) => id === setup.sensor.id);
      if (project === null || sensor === undefined || !isCamera(sensor)) return;
      drawToo.current ??= session.store.holdMore();
      ask(name, session.service(CameraWork).setupOf(sensor, project.ruleSets, project.targets), label);
    });
    return () => void unsubscribe();
  }, [session, ask, ahead, name, setup, label]);
  const isLooked = state.seen !== null && state.seen.name === name && state.seen.setup === setup;
  return name === undefined ? { ...NOTHING_SEEN, isLooked: false } : { ...state, isLooked };
}
