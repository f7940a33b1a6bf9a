import { type Command, outputOf } from "../behaviour";
import { type Driven, type LiveMoment, LiveRobot, linesOf } from "./LiveRobot";
import type { LiveCounts } from "./link";

/** A robot hears that somebody is there so often, in ms. */
export const ALIVE_MS = 500;
/** The line by which a robot brakes. */
export const STOP_LINE = '{"stop":"brake"}';

/** So often a driver wants to be called while nothing comes, in ms. */
export const DRIVE_EVERY_MS = 5;

/**
 * A behaviour that acts on a robot: what comes goes in, commands go out, and the robot hears twice a second that it lives.
 * One that only watches says what it was asked, and commands nothing.
 */
export class Driver {
  private robot: LiveRobot;
  private alive = 0;
  private aliveAt = Number.NEGATIVE_INFINITY;
  private lastAt: number | null = null;
  /** The last command of each output that lasts. */
  private readonly standing = new Map<string, Command>();

  /**
   * @param say sends lines to the robot
   * @param told hears of each moment in which something is commanded or happens
   */
  constructor(
    private project: Driven,
    private readonly say: (lines: readonly string[]) => void,
    private readonly told: (moment: LiveMoment) => void,
    private readonly acts = true,
  ) {
    this.robot = this.behind(project);
  }

  private behind(project: Driven): LiveRobot {
    return new LiveRobot(
      project,
      (moment) => {
        this.told(moment);
        for (const command of moment.commands) {
          const output = outputOf(command).lasts?.(command);
          if (output !== undefined) this.standing.set(output, command);
        }
        if (this.acts && moment.commands.length > 0) this.say(linesOf(moment));
      },
      (line) => this.say([JSON.stringify(line)]),
    );
  }

  get counts(): LiveCounts {
    return this.robot.counts;
  }
  get finished(): boolean {
    return this.robot.finished;
  }
  /** The robot has sensors that report. */
  get listens(): boolean {
    return this.project.robot.mounts.length > 0;
  }

  /** Takes in whole lines; `now` in ms. */
  take(text: string, now: number): void {
    this.lastAt = now;
    this.robot.feed(text, now);
    // A robot writes what belongs to one moment at once.
    this.robot.settle();
  }

  /** The lines are over. */
  end(): void {
    this.robot.end();
  }

  /** Carries time on where nothing comes. */
  tick(now: number): void {
    if (this.lastAt !== null) this.robot.passTime(now - this.lastAt);
    if (!this.acts || now - this.aliveAt < ALIVE_MS) return;
    this.aliveAt = now;
    this.say([JSON.stringify({ alive: ++this.alive })]);
  }

  /**
   * Goes by a changed project from the next reading on. Where only rules and the like changed it goes on as it was; where
   * behaviour, robot or what a sensor reports did, the robot stops and the behaviour begins anew.
   */
  change(project: Driven): void {
    const goesOn = shape(project) === shape(this.project);
    this.project = project;
    if (goesOn) {
      this.robot.change(project);
      return;
    }
    this.stop();
    this.standing.clear();
    this.robot = this.behind(project);
    this.lastAt = null;
  }

  /** The robot brakes. */
  stop(): void {
    if (this.acts) this.say([STOP_LINE]);
  }

  /** Says how each output stands now: the robot did not hear what it was told meanwhile. */
  sayStanding(): void {
    if (!this.acts) return;
    const commands = [...this.standing.values()];
    this.say([...(this.standing.has(WHEELS) ? [] : [STOP_LINE]), ...linesOf({ t: 0, notes: [], commands })]);
  }
}

const WHEELS = "wheels";

/** What an engine's state is of: where it changes, the state means nothing any more. */
const shape = ({ behaviour, robot, sensors, targets }: Driven): string =>
  JSON.stringify([behaviour, robot, sensors.map(({ id, reports }) => [id, reports]), targets.map(({ id }) => id)]);
