import type { TapeId } from "@perceptum/core/names";
import { type EyeTrace, tapeOfRun } from "@perceptum/core/world";
import type { LastRun } from "../judging/Mentor";
import type { NewTape } from "../session/ProjectSession";
import { eyeName } from "./runEye";

/** Names a tape of the run: the tape of the first sensor has the run's own name. */
export function nameOfTape({ trace, project }: LastRun, eye: EyeTrace): string {
  const light = project.lights.find((l) => l.id === trace.light)?.name ?? trace.light;
  const name = `Run on ${trace.course.name}, ${light.toLowerCase()}, seed ${trace.seed}`;
  return eye === trace.eyes[0] ? name : `${name}, ${eyeName({ project }, eye.sensor)}`;
}

/** The readings of each sensor of a run that is no camera, as tapes. */
export const readingsOf = (run: LastRun): NewTape[] =>
  run.trace.eyes
    .filter((eye) => eye.frames === undefined)
    .map((eye) => {
      const { head, readings } = tapeOfRun(run.trace, "run" as TapeId, nameOfTape(run, eye), eye);
      const { id: _, ...rest } = head;
      return { ...rest, readings };
    });
