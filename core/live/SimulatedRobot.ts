import { obey } from "../behaviour";
import { REPORT_KINDS } from "../readings";
import { poseLine, pressedAt, type RunChoice, type Simulated, type Stage, stageOf, type Trace } from "../world";
import { commandOf, PROTOCOL_VERSION, type RobotLine, type ToRobotLine } from "./protocol";

/**
 * The robot of a project on a course, as it is from outside: it says what a real one would say, and does what it is told.
 * Of rules and behaviour it knows nothing. The same choice and the same answers give the same world as a run.
 */
export class SimulatedRobot {
  private readonly stage: Stage;
  private tick = 0;
  private told = { left: Number.NaN, right: Number.NaN };
  private held: readonly string[] = [];
  private commands: ToRobotLine[] = [];
  private raw: { sensor: string; [channel: string]: unknown }[] = [];
  private readonly kept: string[] = [];
  private ending: Trace["ending"] | null = null;

  /** @throws RunError where it cannot start */
  constructor(
    private readonly project: Simulated,
    choice: RunChoice,
  ) {
    this.stage = stageOf(project, choice);
    const { course, start, light, seed, tickMs } = this.stage;
    this.kept.push(JSON.stringify({ course: course.id, start: start.name, light: light.id, seed, tick_ms: tickMs }));
  }

  /** The robot's time in ms. */
  get t(): number {
    return this.tick * this.stage.tickMs;
  }

  /** What it says first. */
  hello(): RobotLine {
    const { robot } = this.project;
    const { program } = this.stage;
    return {
      hello: "perceptum",
      version: PROTOCOL_VERSION,
      robot: robot.name,
      sensors: Object.fromEntries(program.eyes.map(({ id, sensor }) => [id, sensor.reports])),
      outputs: [...program.can, "lamp", ...robot.servos.map(({ id }) => id)],
    };
  }

  /** Looks at the world at this tick; gives what there is to say of it. */
  look(): RobotLine[] {
    const { t } = this;
    const { body, spots, cameras, course, program } = this.stage;
    const lines: RobotLine[] = [];
    this.raw = [];
    const held = pressedAt(course, t);
    for (const button of held) if (!this.held.includes(button)) lines.push({ button, down: true, t });
    for (const button of this.held) if (!held.includes(button)) lines.push({ button, down: false, t });
    this.held = held;
    const { left, right } = body.travel;
    if (left !== this.told.left || right !== this.told.right) {
      this.told = { left, right };
      lines.push({ e: [left, right], t });
    }
    for (const spot of spots) {
      if (t <= spot.looksAfter) continue;
      const raw = spot.look(t, body);
      if (raw === undefined) continue;
      const { id, sensor } = program.eyes[spot.index];
      const v = [...raw];
      lines.push({ s: id, t, v });
      const channels = Object.fromEntries(
        REPORT_KINDS.get(sensor.reports).channels.map((channel, i) => [channel, v[i]]),
      );
      this.raw.push({ sensor: id, ...channels });
    }
    for (const camera of cameras) {
      if (t <= camera.looksAfter) continue;
      camera.look(t, body);
      const blobs = camera.foundLast();
      lines.push({ s: camera.sensor, t, blobs });
      this.raw.push({ sensor: camera.sensor, blobs });
    }
    return lines;
  }

  /** Hears a line: what commands it is done from the next tick on. */
  hear(line: ToRobotLine): void {
    const command = commandOf(line);
    if (command === undefined) return;
    this.commands.push(line);
    obey(this.stage.body, command);
  }

  /** Stops by itself. */
  brake(): void {
    obey(this.stage.body, { kind: "stop", how: "brake" });
  }

  /** Goes one tick on. Gives how it ended, where it did; one whose behaviour has finished ends there. */
  step(finished = false): Trace["ending"] | null {
    const { body, place, course, ticks } = this.stage;
    const { raw, commands } = this;
    this.kept.push(
      JSON.stringify({
        ...poseLine(this.t, body),
        ...(raw.length > 0 && { readings: raw }),
        ...(commands.length > 0 && { commands }),
      }),
    );
    this.commands = [];
    this.ending = finished ? "finished" : (place.ends(course, body) ?? null);
    if (this.ending !== null) return this.ending;
    body.step();
    if (body.landed !== undefined) body.landed = [];
    if (this.tick + 1 >= ticks) this.ending = "time is over";
    else this.tick++;
    return this.ending;
  }

  /** Where it was, what it read and what it was told at every tick, as JSON lines. */
  trace(): string {
    return `${[...this.kept, JSON.stringify({ ending: this.ending, end_ms: this.t })].join("\n")}\n`;
  }
}
