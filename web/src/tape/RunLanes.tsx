import { isCamera } from "@perceptum/core/readings";
import { useRunFrames } from "../camera/useRunFrames";
import { useSession } from "../hooks/context";
import type { SourceView } from "../hooks/source";
import { usePublished } from "../hooks/usePublished";
import { FrameLanes } from "./FrameLanes";
import type { TapeWindow } from "./useTapeWindow";

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
