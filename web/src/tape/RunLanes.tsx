import { isCamera } from "@perceptum/core/readings";
import { useEffect, useState } from "react";
import { useSession } from "../hooks/context";
import type { SourceView } from "../hooks/source";
import { usePublished } from "../hooks/usePublished";
import { cameraWork } from "../model/camera/CameraWork";
import type { LastRun } from "../model/judging/Mentor";
import { FrameLanes } from "./FrameLanes";
import type { TapeWindow } from "./useTapeWindow";

/** The names of the frames of the last run's first camera; none while they are not known. */
export function useRunFrames(run: LastRun | null): readonly string[] {
  const session = useSession();
  const [names, setNames] = useState<{ of: LastRun; names: readonly string[] } | null>(null);
  useEffect(() => {
    if (run === null) return;
    let here = true;
    cameraWork(session)
      .standRun(run)
      .then((own) => here && setNames({ of: run, names: own?.names ?? NONE }))
      .catch(() => undefined);
    return () => {
      here = false;
    };
  }, [session, run]);
  return names !== null && names.of === run ? names.names : NONE;
}
const NONE: readonly string[] = [];

/** The lanes of a run's camera: small frames, and a row for each target of when it was seen. */
export function RunLanes({ source, part, width }: { source: SourceView; part: TapeWindow; width: number }) {
  const run = usePublished(useSession().mentor.lastRun);
  const names = useRunFrames(run);
  const { sensor } = source;
  const rows = run?.trace.eyes.find((eye) => eye.sensor === sensor.id)?.frames?.seen;
  if (run === null || rows === undefined || names.length === 0 || !isCamera(sensor)) return null;
  return (
    <FrameLanes
      tape={{ id: "run" as never, name: source.name, frames: names as string[], boxes: [] }}
      sensor={sensor}
      source={source}
      part={part}
      width={width}
      made={{ project: run.project, rows }}
    />
  );
}
