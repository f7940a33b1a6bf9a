import { degreesAt, faceOf, MAIN_LAMP, type PictureName } from "@perceptum/core/behaviour";
import type { Robot } from "@perceptum/core/world";
import type { LastRun } from "../model/judging/Mentor";

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
  /** Named lamps that are lit. */
  lamps: { name: string; colour: string }[];
  /** Buttons that are held down. */
  pressed: string[];
  /** The text on the display, or the picture in its place. */
  display: string;
  picture: PictureName | null;
  /** What sounds or is spoken at that time; empty for nothing. */
  sound: string;
  servos: { name: string; degrees: number }[];
}

/** A robot before it has done anything: nothing is lit or shown, its servos stand as they do at first. */
export const atRest = (robot: Robot, { x, y, heading }: Pick<RunMoment, "x" | "y" | "heading">): RunMoment => ({
  x,
  y,
  heading,
  speed: 0,
  slipping: false,
  modeName: "",
  lamp: null,
  lamps: [],
  pressed: [],
  display: "",
  picture: null,
  sound: "",
  servos: robot.servos.map((servo) => ({ name: servo.id, degrees: servo.at })),
});

/** Pose, mode and outputs at time `t` in ms. A lamp that blinks more often than `mostBlinkHz` is lit without a pause. */
export function momentOf(
  { trace, project }: Pick<LastRun, "trace" | "project">,
  t: number,
  mostBlinkHz = Number.POSITIVE_INFINITY,
): RunMoment {
  const i = Math.max(0, Math.min(trace.x.length - 1, Math.floor(t / trace.tickMs)));
  let mode = "";
  for (const note of trace.notes) {
    if (note.t > t) break;
    if (note.kind === "mode") mode = note.mode;
  }
  const face = faceOf(project.robot, trace.outputs, { t, mostBlinkHz });
  const lamps = [...face.lamps].filter(([name]) => name !== MAIN_LAMP);
  return {
    x: trace.x[i],
    y: trace.y[i],
    heading: trace.heading[i],
    speed: trace.speed[i],
    slipping: trace.slipping[i] === 1,
    modeName: project.behaviour.modes.find((m) => m.id === mode)?.name ?? mode,
    lamp: face.lamps.get(MAIN_LAMP) ?? null,
    lamps: lamps.flatMap(([name, colour]) => (colour === null ? [] : [{ name, colour }])),
    pressed: trace.course.presses.flatMap((p) => (t >= p.atMs && t < p.atMs + p.forMs ? [p.button] : [])),
    display: face.display,
    picture: face.picture,
    sound: face.sound,
    servos: [...face.servos].map(([name, servo]) => ({ name, degrees: degreesAt(servo, t) })),
  };
}
