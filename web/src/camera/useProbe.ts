import type { CameraSensor } from "@perceptum/core/readings";
import { useEffect, useMemo, useRef } from "react";
import { useSession } from "../hooks/context";
import { probed } from "./probed";
import type { SeenFrame } from "./useFrame";

type Pixel = { column: number; row: number };

/** Lets a pixel be looked at: the one under the pointer, else the one that was pressed last, on this frame or the next. */
export function useProbe(seen: Pick<SeenFrame, "shown"> | null, sensor: CameraSensor) {
  const { probe } = useSession();
  const pinned = useRef<Pixel | null>(null);
  const now = useRef({ seen, sensor });
  now.current = { seen, sensor };
  const look = useMemo(() => {
    const show = (pixel: Pixel | null) => {
      const { seen, sensor } = now.current;
      const { width = 0, height = 0 } = seen?.shown ?? {};
      const within = pixel !== null && pixel.column < width && pixel.row < height;
      probe.set(seen !== null && within ? probed(seen, sensor, pixel) : null);
    };
    return {
      over: (pixel: Pixel | null) => show(pixel ?? pinned.current),
      pin(pixel: Pixel) {
        pinned.current = pixel;
        show(pixel);
      },
      again: () => show(pinned.current),
    };
  }, [probe]);
  useEffect(() => {
    void seen;
    look.again();
  }, [look, seen]);
  useEffect(() => () => probe.set(null), [probe]);
  return look;
}
