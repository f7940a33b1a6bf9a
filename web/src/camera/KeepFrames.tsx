import type { Box } from "@perceptum/core/readings";
import { MAX_FRAMES } from "@perceptum/core/readings";
import { useEffect, useRef, useState } from "react";
import { useSession } from "../session/context";
import type { LastRun } from "../session/Mentor";
import { Button } from "../ui/Button";
import { ProgressBar } from "../ui/ProgressBar";
import { cameraWork } from "./CameraWork";

/** Of a run's frames so many are boxed with what is in truth on them. */
const BOXED = 24;

/** Keeps the frames of a run's camera as a tape that is already boxed. */
export function KeepFrames({
  run,
  name,
  kept,
  onKept,
}: {
  run: LastRun;
  name: string;
  kept: boolean;
  onKept: () => void;
}) {
  const session = useSession();
  const work = cameraWork(session);
  const [progress, setProgress] = useState<{ share: number; began: number } | null>(null);
  const cancelled = useRef(false);
  useEffect(
    () => () => {
      cancelled.current = true;
    },
    [],
  );
  const { trace } = run;
  const [eye] = trace.eyes;
  const times = eye.readings.t;
  const keep = async () => {
    const began = performance.now();
    cancelled.current = false;
    setProgress({ share: 0, began });
    const frames: { name: string; bytes: Uint8Array<ArrayBuffer> }[] = [];
    const boxes: Box[] = [];
    try {
      await work.standRun(run);
      for (let k = 0; k < times.length; k++) {
        const packed = await work.packOfRun(k);
        if (cancelled.current || !session.isOpen) return setProgress(null);
        frames.push(packed);
        if (Math.floor((k * BOXED) / times.length) !== Math.floor(((k - 1) * BOXED) / times.length))
          for (const box of packed.boxes) boxes.push({ t: times[k], ...box, light: trace.light });
        setProgress({ share: (k + 1) / times.length, began });
      }
    } catch (error) {
      session.notice.set(`The run was not kept as a tape: ${(error as Error).message}. Run it again, then keep it.`);
      return setProgress(null);
    }
    setProgress(null);
    for (const { name: frame, bytes } of frames) session.frames.add(frame, bytes);
    session.changeTapes({
      what: "keeping a run as a tape",
      made: [
        {
          name,
          sensor: eye.sensor,
          origin: "run",
          marks: [],
          readings: eye.readings,
          frames: frames.map((frame) => frame.name),
          boxes,
        },
      ],
    });
    onKept();
  };
  if (progress !== null)
    return (
      <ProgressBar
        label="Frames kept"
        share={progress.share}
        began={progress.began}
        onCancel={() => {
          cancelled.current = true;
        }}
      />
    );
  return (
    <Button
      why={
        kept
          ? "This run is kept as a tape already."
          : times.length > MAX_FRAMES && `It has ${times.length} frames; a tape holds at most ${MAX_FRAMES}.`
      }
      onPress={() => void keep()}
    >
      {kept ? "Kept as a tape" : "Keep as a tape"}
    </Button>
  );
}
