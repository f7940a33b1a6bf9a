import type { CameraSensor } from "@perceptum/core/readings";
import { type RuleSet, ruleSetOf, type Target } from "@perceptum/core/rules";
import { useLayoutEffect, useMemo, useState } from "react";
import { useSession } from "../session/context";
import { LatestOnly } from "../session/LatestOnly";
import { cameraWork } from "./CameraWork";
import type { Looked, Setup, ShownFrame } from "./Vision";

/** A frame with what is found in it. */
export interface SeenFrame {
  name: string;
  shown: ShownFrame;
  looked: Looked;
  /** What it was looked at by; missing where that is always what holds. */
  setup?: Setup;
}

/** What frames of a sensor are looked at by; the same object as long as none of it changes. */
export function useSetup(sensor: CameraSensor, ruleSets: readonly RuleSet[], targets: readonly Target[]): Setup {
  const ruleSet = ruleSetOf({ ruleSets }, sensor);
  return useMemo(() => ({ sensor, ruleSet, targets }), [sensor, ruleSet, targets]);
}

/**
 * A frame by its name, looked at by a setup; with the mask of a label. What was last seen stays until the next is there.
 * `trouble` says why a frame cannot be shown; `isLooked` that what is seen is of this frame by this setup.
 */
export function useFrame(
  name: string | undefined,
  setup: Setup,
  label: number,
): { seen: SeenFrame | null; trouble: string | null; isLooked: boolean } {
  const session = useSession();
  const [state, setState] = useState<{ seen: SeenFrame | null; trouble: string | null }>({ seen: null, trouble: null });
  const looking = useMemo(
    () =>
      new LatestOnly(async ([name, setup, label]: [string, Setup, number]) => {
        const work = cameraWork(session);
        try {
          const [shown, looked] = await Promise.all([work.shown(name, setup), work.look(name, setup, label)]);
          if (session.isOpen) setState({ seen: { name, shown, looked, setup }, trouble: null });
        } catch (error) {
          if (session.isOpen) setState({ seen: null, trouble: (error as Error).message });
        }
      }),
    [session],
  );
  // Before the screen is painted: a bound that is dragged has its mask a frame earlier.
  useLayoutEffect(() => {
    if (name !== undefined) looking.ask([name, setup, label]);
  }, [looking, name, setup, label]);
  const isLooked = state.seen !== null && state.seen.name === name && state.seen.setup === setup;
  return name === undefined ? { seen: null, trouble: null, isLooked: false } : { ...state, isLooked };
}
