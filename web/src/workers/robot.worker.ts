import {
  DRIVE_EVERY_MS,
  Driver,
  Gathered,
  LineSplitter,
  type LinkState,
  type LiveMoment,
  type ReadingsEvent,
  readRobotLine,
} from "@perceptum/core/live";
import type { ProjectDocument } from "@perceptum/core/project";

/** What the page says to the worker. */
export type ToRobotWorker = { text: string } | { act: ProjectDocument } | { stop: true };
/** What the page hears of it. */
export type FromRobotWorker =
  | { say: string }
  | { readings: ReadingsEvent }
  | { moment: LiveMoment }
  | { state: LinkState };

/** After so many ticks of what acts the page hears how it stands. */
const TICKS_TOLD = 100;

const tell = (message: FromRobotWorker) => self.postMessage(message);
const began = performance.now();

let driver: Driver | null = null;
let timer: ReturnType<typeof setInterval> | undefined;
const gathered = new Gathered();
let lines: string[] = [];
const splitter = new LineSplitter((line) => {
  if (line === null) return;
  lines.push(line);
  const read = readRobotLine(line);
  if ("message" in read) gathered.take(read.message, Math.round(performance.now() - began));
});

const state = (trouble: string | null) =>
  tell({ state: { acting: driver !== null, trouble, over: false, counts: driver?.counts ?? null } });

function rest(trouble: string | null): void {
  if (driver === null) return;
  clearInterval(timer);
  driver.stop();
  driver = null;
  state(trouble);
}

function act(project: ProjectDocument): void {
  if (driver !== null) {
    driver.change(project);
    return;
  }
  const own = new Driver(
    project,
    (said) => tell({ say: said.map((line) => `${line}\n`).join("") }),
    (moment) => tell({ moment }),
  );
  driver = own;
  let ticks = 0;
  timer = setInterval(() => {
    own.tick(performance.now());
    if (own.finished) rest("the behaviour has finished");
    else if (++ticks % TICKS_TOLD === 0) state(null);
  }, DRIVE_EVERY_MS);
  state(null);
}

/** The engine where the line is: in the page, behind a serial port that the browser opened. */
self.onmessage = ({ data }: MessageEvent<ToRobotWorker>) => {
  if ("act" in data) act(data.act);
  else if ("stop" in data) rest(null);
  else {
    splitter.feed(data.text);
    const whole = lines;
    lines = [];
    if (whole.length === 0) return;
    for (const readings of gathered.events()) tell({ readings });
    driver?.take(`${whole.join("\n")}\n`, performance.now());
  }
};
