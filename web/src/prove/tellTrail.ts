import type { SensorId } from "@perceptum/core/names";
import type { LastRun } from "../model/judging/Mentor";
import { eyeName } from "../model/runs/runEye";

/** The trail up to time t in words: where it leads and what was seen on it. */
export function tellTrail(run: Pick<LastRun, "trace" | "project">, t: number): string {
  const { trace, project } = run;
  const i = Math.max(0, Math.min(trace.x.length - 1, Math.floor(t / trace.tickMs)));
  const cm = (mm: number) => Math.round(mm / 10);
  const name = (id: string) => project.targets.find((target) => target.id === id)?.name ?? id;
  const by = (sensor: SensorId) => (trace.eyes.length < 2 ? "" : ` by ${eyeName(run, sensor)}`);
  const seen = trace.notes.flatMap((note) =>
    note.kind === "arrives" && note.t <= t
      ? [`${name(note.target)} at ${(note.t / 1000).toFixed(1)} s${by(note.sensor)}`]
      : [],
  );
  return (
    `The trail goes from ${cm(trace.x[0])}, ${cm(trace.y[0])} cm to ${cm(trace.x[i])}, ${cm(trace.y[i])} cm` +
    (seen.length === 0 ? "; nothing was seen on it." : `; seen on it: ${seen.join(", ")}.`)
  );
}
