import type { Body, Landed } from "../body";
import type { Chance } from "../chance";
import type { DrawnCourse } from "../courses/DrawnCourse";
import type { Floor } from "../floor";
import type { SorterRobot } from "../robots/sorterSchema";
import { newWheel, tellWheel, turnWheel, type Wheel } from "../wheel";

/** A piece while it rides: its middle where it lay when the run began, and half its length along the belt. */
interface Riding {
  piece: number;
  x: number;
  half: number;
}

interface Flap {
  id: string;
  crate: string;
  from: number;
  to: number;
  travelMs: number;
  open: boolean;
  /** For how long it has been opening: from 0 when it is closed to `travelMs` when it is open. */
  openMs: number;
  /** Told to move since the last tick. */
  told: boolean;
}

/**
 * A belt with gates, looked at from the belt itself: its pieces lie still, and sensors and gates go back along it. A gate
 * that is open takes what lies wholly within its reach; one that moves jams whatever lies within it, even in part.
 */
export class Belt implements Body {
  x = 0;
  readonly heading = 0;
  readonly sin = 0;
  readonly cos = 1;
  readonly slipping = false;
  readonly travel = { left: 0, right: 0 };
  /** How far the belt has gone, in mm. */
  rolled = 0;
  landed: Landed[] = [];
  private readonly wheel: Wheel;
  private readonly flaps: readonly Flap[];
  private riding: Riding[];
  private readonly long: number;
  private readonly full: boolean;
  private readonly end: string;
  private readonly floor: Pick<Floor, "lift">;

  constructor(
    robot: SorterRobot,
    readonly y: number,
    { course, floor }: { course: Pick<DrawnCourse, "patches" | "size">; floor: Pick<Floor, "lift"> },
    chance: Chance,
    private readonly tickMs: number,
  ) {
    this.wheel = newWheel(robot.belt, chance, tickMs);
    this.flaps = robot.gates.map(({ id, crate, atMm, reachMm, travelMs }) => ({
      id,
      crate,
      from: atMm - reachMm / 2,
      to: atMm + reachMm / 2,
      travelMs,
      open: false,
      openMs: 0,
      told: false,
    }));
    this.end = robot.end;
    this.floor = floor;
    this.long = course.size[0];
    // The foremost first.
    this.riding = course.patches
      .flatMap(({ as, at, shape }, piece): Riding[] =>
        as === "piece" ? [{ piece, x: at[0], half: halfOf(shape) }] : [],
      )
      .sort((a, b) => b.x - a.x);
    this.full = this.riding.length > 0;
  }
  /** Both say the same to a machine with one motor: their mean. */
  command(left: number | null, right: number | null): void {
    tellWheel(this.wheel, left === null || right === null ? null : (left + right) / 2);
  }

  gate(id: string, open: boolean): void {
    const flap = this.flaps.find((f) => f.id === id);
    if (flap === undefined || flap.open === open) return;
    flap.open = open;
    flap.told = true;
  }

  get speed(): number {
    return this.wheel.ground;
  }

  /** Whether all that was laid onto it has left it. */
  get empty(): boolean {
    return this.full && this.riding.length === 0;
  }

  step(): void {
    const { wheel } = this;
    turnWheel(wheel, this.tickMs / 1000, Number.POSITIVE_INFINITY);
    this.travel.left = wheel.travel;
    this.travel.right = wheel.travel;
    this.rolled += (wheel.ground * this.tickMs) / 1000;
    this.x = -this.rolled;
    for (let i = 0; i < this.flaps.length; i++) this.work(this.flaps[i]);
    while (this.riding.length > 0 && this.riding[0].x + this.rolled > this.long) this.lands(this.riding[0], this.end);
  }

  /** One tick of a gate, and what it does to the pieces within its reach. */
  private work(flap: Flap): void {
    if (!flap.open && !flap.told && flap.openMs === 0) return;
    const before = flap.openMs;
    flap.openMs = flap.open ? Math.min(flap.travelMs, before + this.tickMs) : Math.max(0, before - this.tickMs);
    const moves = flap.told || flap.openMs !== before;
    flap.told = false;
    for (const riding of this.riding.slice()) {
      const at = riding.x + this.rolled;
      if (at + riding.half <= flap.from) break;
      if (at - riding.half >= flap.to) continue;
      if (moves) this.lands(riding, null, flap.id);
      else if (at - riding.half >= flap.from && at + riding.half <= flap.to) this.lands(riding, flap.crate, flap.id);
    }
  }

  private lands(riding: Riding, into: string | null, gate?: string): void {
    this.riding.splice(this.riding.indexOf(riding), 1);
    this.floor.lift(riding.piece);
    this.landed.push({ piece: riding.piece, into, ...(gate !== undefined && { gate }) });
  }
}

const halfOf = (shape: DrawnCourse["patches"][number]["shape"]): number =>
  "disc" in shape ? shape.disc / 2 : "rect" in shape ? shape.rect[0] / 2 : 0;
