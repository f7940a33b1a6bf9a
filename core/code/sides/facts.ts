import { OUTPUTS } from "../../behaviour";

/** What the robot's side of a written behaviour goes by. */
export interface SideFacts {
  sensors: readonly {
    /** What its functions are called by. */
    own: string;
    id: string;
    name: string;
    /** How many values a reading has; 0 for a camera. */
    channels: number;
    /** Of a camera: where its targets stand among what is steadied, its set point and half its width, in px. */
    camera?: { first: number; setPoint: number; halfFrame: number };
  }[];
  /** Whether the program finds a camera's blobs itself. */
  looks: boolean;
  /** Which of the robot's functions the behaviour calls. */
  fns: ReadonlySet<string>;
}

/** What is said of cameras: where the robot finds their blobs, and where the program does. */
export const OF_CAMERAS = [
  "Before a camera's frame is taken, its largest blobs stand in blobs: area, width, height, x, y, error, half the width.",
  "Before a camera's frame is taken, put its bytes into frame_bytes (frameBytes) and call its look function.",
];

/** Functions that are called, in a language: those of outputs, and `more`. */
export const called = (language: string, more: Readonly<Record<string, string>>, { fns }: SideFacts): string[] =>
  [...OUTPUTS.entries.map(({ key, on }) => [`robot_${key}`, on[language]]), ...Object.entries(more)].flatMap(
    ([fn, text]) => (fns.has(fn) ? [text] : []),
  );
