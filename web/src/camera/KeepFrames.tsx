import { numbered, type Unlisted } from "@perceptum/core/names";
import type { Box } from "@perceptum/core/readings";
import { MAX_FRAMES } from "@perceptum/core/readings";
import type { EyeTrace } from "@perceptum/core/world";
import { useEffect, useRef, useState } from "react";
import { useSession } from "../hooks/context";
import { CameraWork } from "../model/camera/CameraWork";
import type { LastRun } from "../model/judging/Mentor";
import { nameOfTape, readingsOf } from "../model/runs/runTapes";
import type { NewTape } from "../model/session/ProjectSession";
import { Button } from "../ui/Button";
import { ProgressBar } from "../ui/ProgressBar";

/** A tape of frames, with their bytes. */
interface PackedTape {
  tape: NewTape;
  frames: { name: string; bytes: Uint8Array<ArrayBuffer> }[];
}

/** Of a run's frames so many are boxed with what is in truth on them. */
const BOXED = 24;

/** Keeps what a run's sensors read as tapes: of its cameras the frames, which are already boxed. */
export function KeepFrames({ run, kept, onKept }: { run: LastRun; kept: boolean; onKept: () => void }) {
  const session = useSession();
  const work = session.service(CameraWork);
  const [progress, setProgress] = useState<{ share: number; began: number } | null>(null);
  const cancelled = useRef(false);
  useEffect(
    () => () => {
      cancelled.current = true;
    },
    [],
  );
  const cameras = run.trace.eyes.filter((eye) => eye.frames !== undefined);
  const longest = Math.max(...cameras.map((eye) => eye.readings.t.length));
  const all = cameras.reduce((sum, eye) => sum + eye.readings.t.length, 0);

  /** Packs the frames of a camera; null where that was cancelled. */
  const tapeOf = async (eye: EyeTrace, told: () => void): Promise<PackedTape | null> => {
    const { readings, sensor } = eye;
    const times = readings.t;
    const frames: PackedTape["frames"] = [];
    const boxes: Unlisted<Box>[] = [];
    const own = await work.addRun(run, eye);
    if (own === null) return null;
    for (let k = 0; k < times.length; k++) {
      const packed = await work.packOfRun(own, k);
      if (cancelled.current || !session.isOpen) return null;
      frames.push(packed);
      if (Math.floor((k * BOXED) / times.length) !== Math.floor(((k - 1) * BOXED) / times.length))
        for (const box of packed.boxes) boxes.push({ t: times[k], ...box, light: run.trace.light });
      told();
    }
    const names = frames.map((frame) => frame.name);
    return {
      frames,
      tape: {
        name: nameOfTape(run, eye),
        sensor,
        origin: "run",
        marks: [],
        readings,
        frames: names,
        boxes: numbered("box", boxes),
      },
    };
  };
  const keep = async () => {
    const began = performance.now();
    cancelled.current = false;
    setProgress({ share: 0, began });
    const tapes: PackedTape[] = [];
    let done = 0;
    try {
      for (const eye of cameras) {
        const made = await tapeOf(eye, () => setProgress({ share: ++done / all, began }));
        if (made === null) return setProgress(null);
        tapes.push(made);
      }
    } catch (error) {
      session.notice.set(`The run was not kept as a tape: ${(error as Error).message}. Run it again, then keep it.`);
      return setProgress(null);
    }
    setProgress(null);
    for (const { frames } of tapes) for (const { name, bytes } of frames) session.frames.add(name, bytes);
    session.changeTapes({
      did: "run kept as tapes",
      made: [...tapes.map(({ tape }) => tape), ...readingsOf(run)],
      chosen: 0,
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
          ? "This run is kept already."
          : longest > MAX_FRAMES && `It has ${longest} frames; a tape holds at most ${MAX_FRAMES}.`
      }
      onPress={() => void keep()}
    >
      {kept ? "Kept as a tape" : "Keep as a tape"}
    </Button>
  );
}
