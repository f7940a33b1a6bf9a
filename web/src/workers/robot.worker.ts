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
import { expose } from "comlink";

/** The worker's messages to the page, in the order in which they came. */
export type FromRobot = { say: string } | { readings: ReadingsEvent } | { moment: LiveMoment } | { state: LinkState };

/** The engine where the line is: in the page, behind a serial port that the browser opened. */
class Robot {
  private tell: (message: FromRobot) => void = () => undefined;
  private readonly began = performance.now();
  private readonly gathered = new Gathered();
  private readonly heard = new RobotText(this.gathered, () => performance.now() - this.began);
  private readonly acting = new Acting(
    {
      say: (lines) => this.tell({ say: lines.map((line) => `${line}\n`).join("") }),
      moment: (moment) => this.tell({ moment }),
      state: (state) => this.tell({ state }),
    },
    { watched: true, goOn: "press “Let it act” to go on" },
  );

  /** The worker tells all that it hears to `tell` from now on. */
  begin(tell: (message: FromRobot) => void): void {
    this.tell = tell;
    this.acting.renew(this.began);
    setInterval(() => this.acting.tick(performance.now()), DRIVE_EVERY_MS);
  }

  /** A part of what came over the line. */
  take(part: string): void {
    const text = this.heard.take(part);
    if (text === "") return;
    for (const readings of this.gathered.events()) this.tell({ readings });
    this.acting.take(text, performance.now());
  }

  start(act: string, project: ProjectDocument): void {
    this.acting.start(act, project, performance.now());
  }
  change(act: string, project: ProjectDocument): void {
    this.acting.change(act, project);
  }
  watch(act: string): void {
    this.acting.watch(act, performance.now());
  }
  stop(act: string): void {
    this.acting.stop(act);
  }
}

export type RobotWorker = Robot;
expose(new Robot());
