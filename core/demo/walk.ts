import { type CourseId, numbered, type TargetId, type Unlisted } from "../names";
import { type Light, type Mark, type RawReadings, REPORT_KINDS, type Sensor } from "../readings";
import type { Target } from "../rules";
import { chance, type DrawnCourse, drawn, emptyCourse, Floor, SensorOptics } from "../world";

/** A stretch of the walk: so many mm of one target. */
export interface Stretch {
  target: TargetId;
  mm: number;
}

const SPEED_MM_S = 110;
const HEIGHT_MM = 14;

/**
 * A sensor carried along an aisle in a hand that is not quite steady: the readings, and marks wherever the whole spot
 * lay on one target.
 */
export function walk(
  sensor: Sensor,
  light: Light,
  targets: readonly Target[],
  stretches: readonly Stretch[],
  seed: number,
): { readings: RawReadings; marks: Mark[] } {
  const length = stretches.reduce((sum, s) => sum + s.mm, 0);
  const floor = new Floor(aisleOf(stretches, length), targets);
  const optics = new SensorOptics(sensor, light, targets);
  const noise = chance(seed, "noise");
  const hand = chance(seed, "hand");
  const n = Math.floor((length / SPEED_MM_S) * (1000 / sensor.periodMs));
  const t = Float64Array.from({ length: n }, (_, i) => i * sensor.periodMs);
  const names = REPORT_KINDS.get(sensor.reports).channels;
  const columns = names.map(() => new Float64Array(n));
  const reflectance = new Float64Array(3);
  const signal = new Float64Array(3);
  const marks: Unlisted<Mark>[] = [];
  let open: Unlisted<Mark> | undefined;
  let drift = 0;
  for (let i = 0; i < n; i++) {
    // The hand wanders a little about its height and is drawn back to it.
    drift = 0.985 * drift + 0.3 * hand.normal();
    const x = (t[i] / 1000) * SPEED_MM_S;
    const piece = floor.spotAt(x, 0, sensor.optics.spotMm, reflectance);
    optics.signal(reflectance, HEIGHT_MM + drift, signal);
    optics.measure(signal, noise).forEach((raw, c) => {
      columns[c][i] = raw;
    });
    const target = piece === undefined ? undefined : stretches[piece].target;
    if (open !== undefined && open.target === target) open.to = t[i];
    else open = undefined;
    if (open === undefined && target !== undefined) {
      open = { from: t[i], to: t[i], target, light: light.id, height: HEIGHT_MM };
      marks.push(open);
    }
  }
  return {
    readings: { t, channels: Object.fromEntries(names.map((name, c) => [name, columns[c]])) },
    marks: numbered("mark", marks),
  };
}

/** The walk as a floor: one patch a stretch. */
function aisleOf(stretches: readonly Stretch[], length: number): DrawnCourse {
  let x = 0;
  const patches = stretches.map(({ target, mm }) => {
    x += mm;
    return {
      shape: { rect: [mm, 400] as [number, number] },
      target,
      at: [x - mm / 2, 0] as [number, number],
      angle: 0,
    };
  });
  const bare = emptyCourse("walk" as CourseId, "Walk", stretches[0].target);
  return drawn({ ...bare, size: [length, 400], patches: numbered("patch", patches) }, 1);
}
