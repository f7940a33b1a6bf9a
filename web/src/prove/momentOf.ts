import type { LastRun } from "../state/judged";

/** What the robot shows at one time of a run. */
export interface RunMoment {
  x: number;
  y: number;
  heading: number;
  speed: number;
  slipping: boolean;
  modeName: string;
  /** The main lamp's colour, null for off. */
  lamp: string | null;
  display: string;
}

/** Pose, mode and outputs at time `t` in ms. */
export function momentOf({ trace, project }: LastRun, t: number): RunMoment {
  const i = Math.max(0, Math.min(trace.x.length - 1, Math.floor(t / trace.tickMs)));
  let mode = "";
  for (const note of trace.notes) {
    if (note.t > t) break;
    if (note.kind === "mode") mode = note.mode;
  }
  let lamp: string | null = null;
  let display = "";
  for (const { t: at, command } of trace.outputs) {
    if (at > t) break;
    if (command.kind === "lamp") {
      const lit = command.blinkHz === 0 || Math.floor(((t - at) / 1000) * command.blinkHz * 2) % 2 === 0;
      lamp = lit ? command.colour : null;
    }
    if (command.kind === "show") display = command.text;
  }
  return {
    x: trace.x[i],
    y: trace.y[i],
    heading: trace.heading[i],
    speed: trace.speed[i],
    slipping: trace.slipping[i] === 1,
    modeName: project.behaviour.modes.find((m) => m.id === mode)?.name ?? mode,
    lamp,
    display,
  };
}
