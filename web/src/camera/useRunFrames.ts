import { useEffect, useState } from "react";
import { useSession } from "../hooks/context";
import { CameraWork } from "../model/camera/CameraWork";
import type { LastRun } from "../model/judging/Mentor";

/** The names of the frames of the last run's first camera; none while they are not known. */
export function useRunFrames(run: LastRun | null): readonly string[] {
  const session = useSession();
  const [names, setNames] = useState<{ of: LastRun; names: readonly string[] } | null>(null);
  useEffect(() => {
    if (run === null) return;
    let here = true;
    session
      .service(CameraWork)
      .addRun(run)
      .then((own) => here && setNames({ of: run, names: own?.names ?? NONE }))
      .catch(session.failed("The frames of the run cannot be shown"));
    return () => {
      here = false;
    };
  }, [session, run]);
  return names !== null && names.of === run ? names.names : NONE;
}
const NONE: readonly string[] = [];
