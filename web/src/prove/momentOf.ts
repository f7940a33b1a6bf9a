import type { PictureName } from "@perceptum/core/behaviour";
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

/** So long a spoken word is shown, in ms. */
const SPOKEN_MS = 1200;

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
  const lamps = new Map<string, string | null>();
  const servos = new Map(project.robot.servos.map((s) => [s.id, { from: s.at, to: s.at, at: 0, speed: 1 }]));
  let display = "";
  let picture: PictureName | null = null;
  let sound = "";
  for (const { t: at, command } of trace.outputs) {
    if (at > t) break;
    if (command.kind === "lamp") {
      const { blinkHz } = command;
      const lit = blinkHz === 0 || blinkHz > mostBlinkHz || Math.floor(((t - at) / 1000) * blinkHz * 2) % 2 === 0;
      lamps.set(command.lamp, lit ? command.colour : null);
    }
    if (command.kind === "show") [display, picture] = [command.text, null];
    if (command.kind === "picture") [display, picture] = ["", command.picture];
    if (command.kind === "tone") sound = t - at < command.ms ? `♪ ${Math.round(command.hertz)} Hz` : "";
    if (command.kind === "tune") sound = noteAt(command.tones, t - at);
    if (command.kind === "say") sound = t - at < SPOKEN_MS ? `“${command.text}”` : "";
    if (command.kind === "servo") {
      const before = servos.get(command.servo);
      const from = before === undefined ? 0 : degreesOf(before, at);
      servos.set(command.servo, { from, to: command.degrees, at, speed: command.degreesPerSecond });
    }
  }
  const main = lamps.get(MAIN) ?? null;
  lamps.delete(MAIN);
  return {
    x: trace.x[i],
    y: trace.y[i],
    heading: trace.heading[i],
    speed: trace.speed[i],
    slipping: trace.slipping[i] === 1,
    modeName: project.behaviour.modes.find((m) => m.id === mode)?.name ?? mode,
    lamp: main,
    lamps: [...lamps].flatMap(([name, colour]) => (colour === null ? [] : [{ name, colour }])),
    pressed: trace.course.presses.flatMap((p) => (t >= p.atMs && t < p.atMs + p.forMs ? [p.button] : [])),
    display,
    picture,
    sound,
    servos: [...servos].map(([name, servo]) => ({ name, degrees: degreesOf(servo, t) })),
  };
}

/** What of a tune sounds so long after it began. */
function noteAt(tones: readonly { hertz: number; ms: number }[], since: number): string {
  let end = 0;
  for (const { hertz, ms } of tones) {
    end += ms;
    if (since < end) return hertz === 0 ? "♪ rest" : `♪ ${Math.round(hertz)} Hz`;
  }
  return "";
}

const MAIN = "main";

/** Where a servo is at time `t`, on its way from one angle to another at its speed. */
function degreesOf(
  { from, to, at, speed }: { from: number; to: number; at: number; speed: number },
  t: number,
): number {
  const way = (Math.max(0, t - at) / 1000) * speed;
  return from < to ? Math.min(to, from + way) : Math.max(to, from - way);
}
