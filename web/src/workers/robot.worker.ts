import {
  Acting,
  DRIVE_EVERY_MS,
  Gathered,
  type LinkState,
  type LiveMoment,
  type ReadingsEvent,
  RobotText,
} from "@perceptum/core/live";
import type { ProjectDocument } from "@perceptum/core/project";

/** What the page says to the worker. */
export type ToRobotWorker =
  | { text: string }
  | { begin: string; project: ProjectDocument }
  | { alter: string; project: ProjectDocument }
  | { watch: string }
  | { halt: string };
/** What the page hears of it. */
export type FromRobotWorker =
  | { say: string }
  | { readings: ReadingsEvent }
  | { moment: LiveMoment }
  | { state: LinkState };

const tell = (message: FromRobotWorker) => self.postMessage(message);
const began = performance.now();

const acting = new Acting(
  {
    say: (lines) => tell({ say: lines.map((line) => `${line}\n`).join("") }),
    moment: (moment) => tell({ moment }),
    state: (state) => tell({ state }),
  },
  { watched: true, goOn: "press “Let it act” to go on" },
);
acting.renew(began);
setInterval(() => acting.tick(performance.now()), DRIVE_EVERY_MS);

const gathered = new Gathered();
const heard = new RobotText(gathered, () => performance.now() - began);

function take(part: string): void {
  const text = heard.take(part);
  if (text === "") return;
  for (const readings of gathered.events()) tell({ readings });
  acting.take(text, performance.now());
}

/** The engine where the line is: in the page, behind a serial port that the browser opened. */
self.onmessage = ({ data }: MessageEvent<ToRobotWorker>) => {
  if ("begin" in data) acting.start(data.begin, data.project, performance.now());
  else if ("alter" in data) acting.change(data.alter, data.project);
  else if ("watch" in data) acting.watch(data.watch, performance.now());
  else if ("halt" in data) acting.stop(data.halt);
  else take(data.text);
};
