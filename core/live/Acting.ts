import { Driver, STOP_LINE } from "./Driver";
import type { Driven, LiveMoment } from "./LiveRobot";
import type { LinkState, LiveCounts } from "./link";
import { SILENCE_MS } from "./protocol";

/** Who hears of a robot that may be acted on. */
export interface ActingListener {
  /** Lines for the robot. */
  say(lines: readonly string[]): void;
  /** A moment's commands and what happened. */
  moment(moment: LiveMoment): void;
  state(state: LinkState): void;
}

/** A robot that says nothing for so long is said to be silent, in ms. */
const SILENT_MS = 2000;
/** Nothing acts on one that was silent for so long. */
const GIVEN_UP_MS = 5000;
/** Whoever watches has to say so at least this often, or nothing acts. */
export const WATCHED_MS = 1500;
/** A behaviour that acts says how it stands after so many ticks. */
const TICKS_TOLD = 100;
/** Remembers so many stopped acts: a late request of one of them starts nothing. */
const MOST_STOPPED = 100;

const seconds = (ms: number) => `${ms / 1000} s`;

/**
 * A behaviour that acts on one robot, from the start that a person asks for until it ends. Whoever has the line only
 * carries: what comes in, that it is away, that it is lost, and the time. Each act has an id of its own; one that was
 * stopped never acts again, however late its requests come.
 */
export class Acting {
  private driver: Driver | null = null;
  private act: string | null = null;
  private readonly stopped = new Set<string>();
  private trouble: string | null = null;
  /** Why nothing acts any more, where that was not wanted; until it is let act again. */
  private why: string | null = null;
  private heardAt: number | null = null;
  private watchedAt = 0;
  private tickedAt: number | null = null;
  private awayAt: number | null = null;
  private ticks = 0;
  /** The robot was commanded since the line was opened: after a break it is told where it stands. */
  private commanded = false;
  /** The behaviour came to its end. */
  finished = false;

  /**
   * @param options whether somebody has to say again and again that they watch, how one goes on after a stop, and
   *   whether the robot is commanded: otherwise it is only told what the behaviour would do, and that never rests
   */
  constructor(
    private readonly hears: ActingListener,
    private readonly options: { watched: boolean; goOn: string; commands?: boolean },
  ) {}

  private get commands(): boolean {
    return this.options.commands ?? true;
  }

  get isActing(): boolean {
    return this.driver !== null;
  }

  get counts(): LiveCounts | null {
    return this.driver?.counts ?? null;
  }

  /** Lets a behaviour act. False where this act was stopped already: its stop came first. */
  start(act: string, project: Driven, now: number): boolean {
    if (this.stopped.has(act)) return false;
    if (this.act === act) return this.change(act, project);
    this.rest(null);
    this.act = act;
    this.commanded = this.commands;
    this.finished = false;
    this.why = null;
    this.watchedAt = now;
    this.tickedAt = now;
    this.heardAt = now;
    this.driver = new Driver(
      project,
      (lines) => this.hears.say(lines),
      (moment) => this.hears.moment(moment),
      this.commands,
    );
    this.tell(null);
    return true;
  }

  /** Goes by a changed project from the next reading on. False where this act does not act now: nothing is started. */
  change(act: string, project: Driven): boolean {
    if (this.driver === null || this.act !== act) return false;
    this.driver.change(project);
    return true;
  }

  /** The robot stops, whatever acts. */
  stop(act?: string): void {
    if (act !== undefined) {
      this.stopped.add(act);
      for (const old of this.stopped) if (this.stopped.size > MOST_STOPPED) this.stopped.delete(old);
    }
    this.rest(null);
  }

  /** Whoever watches is there. */
  watch(act: string, now: number): void {
    if (act === this.act) this.watchedAt = now;
  }

  /** Takes in whole lines of the robot. */
  take(text: string, now: number): void {
    this.requireTime(now);
    this.hear(now);
    this.driver?.take(text, now);
  }

  /** Something was heard of the robot, if no line: a picture. */
  hear(now: number): void {
    const wasSilent = this.heardAt !== null && now - this.heardAt > SILENT_MS;
    this.heardAt = now;
    if (wasSilent && this.awayAt === null) this.tell(this.why);
  }

  /** Carries time on; to be called every `DRIVE_EVERY_MS` while it acts, and now and then while it does not. */
  tick(now: number): void {
    this.requireTime(now);
    const { goOn } = this.options;
    const silent = this.heardAt === null ? 0 : now - this.heardAt;
    if (this.driver !== null && !this.commands) this.driver.tick(now);
    else if (this.driver !== null) {
      if (this.options.watched && now - this.watchedAt > WATCHED_MS)
        this.rest(`the page did not answer for ${seconds(WATCHED_MS)}, so the robot was stopped; ${goOn}`);
      else if (silent > GIVEN_UP_MS && this.driver.listens)
        this.rest(`nothing was heard from the robot for ${seconds(GIVEN_UP_MS)}, so it was stopped; ${goOn}`);
      else this.driver.tick(now);
    }
    if (this.driver?.finished && this.commands) {
      this.finished = true;
      this.rest("the behaviour has finished");
    }
    if (silent > SILENT_MS && this.trouble === null)
      this.tell(`nothing has been heard from the robot for ${seconds(SILENT_MS)}`);
    if (this.driver !== null && ++this.ticks % TICKS_TOLD === 0) this.tell(this.trouble);
  }

  /** A robot that was told nothing for as long as it waits has stopped by itself: what acted does not go on as if it had not. */
  private requireTime(now: number): void {
    const { tickedAt, awayAt } = this;
    const { goOn } = this.options;
    this.tickedAt = now;
    if (this.driver === null || !this.commands) return;
    if (awayAt !== null && now - awayAt > SILENCE_MS)
      this.rest(`${this.trouble ?? "the line was away"}: the robot has stopped by itself; ${goOn}`);
    else if (tickedAt !== null && now - tickedAt > SILENCE_MS)
      this.rest(`the program was held up for ${seconds(SILENCE_MS)}, so the robot has stopped by itself; ${goOn}`);
  }

  /** The line is away for a while; `why` begins a sentence. */
  away(why: string, now: number): void {
    this.awayAt ??= now;
    this.tell(why);
  }

  /** The line is there again: the robot is told where it stands now, not what it missed. */
  back(now: number): void {
    this.requireTime(now);
    this.awayAt = null;
    this.heardAt = now;
    if (this.driver !== null) this.driver.sayStanding();
    else if (this.commanded) this.hears.say([STOP_LINE]);
    this.tell(this.why);
  }

  /** The line is over. */
  lost(why: string): void {
    const { driver } = this;
    driver?.end();
    if (driver?.finished) this.finished = true;
    this.driver = null;
    this.heardAt = null;
    this.commanded = false;
    this.awayAt = null;
    this.tell(why, true, driver?.counts ?? null);
    this.act = null;
  }

  /** A line is opened, perhaps in the place of another. */
  renew(now: number): void {
    this.rest(null);
    this.why = null;
    this.commanded = false;
    this.awayAt = null;
    this.heardAt = now;
  }

  /** Says what is wrong, or null that it no longer is. */
  say(trouble: string | null): void {
    this.tell(trouble);
  }

  private rest(trouble: string | null): void {
    const { driver } = this;
    if (driver === null) return;
    this.driver = null;
    this.why = trouble;
    driver.stop();
    this.tell(trouble, false, driver.counts);
    this.act = null;
  }

  private tell(trouble: string | null, over = false, counts = this.counts): void {
    this.trouble = trouble;
    this.hears.state({ act: this.act, acting: this.isActing, trouble, over, counts });
  }
}
