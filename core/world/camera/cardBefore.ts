import { displayToLinear, hexToRgb } from "../../colour";
import type { SensorId } from "../../names";
import type { Sensor } from "../../readings";
import type { Target } from "../../rules";
import type { DrawnCourse } from "../courses/DrawnCourse";
import { cardsNow, heldAtMm } from "../heldCards";
import type { HeldBefore } from "./Camera";

/** The card that is held before a camera at time `t`, the one that was held up last; undefined where none is. */
export function cardBefore(
  course: DrawnCourse,
  targets: readonly Target[],
  seed: number,
  sensor: Sensor,
  first: string,
  t: number,
): HeldBefore | undefined {
  if (course.cards.length === 0) return undefined;
  const at = cardsNow(course, t, sensor.id, first as SensorId).at(-1);
  if (at === undefined) return undefined;
  const paint = targets.find(({ id }) => id === course.cards[at].target)?.paint ?? "#000000";
  return {
    thing: course.patches.length + course.signs.length + at,
    paint: hexToRgb(paint).map(displayToLinear),
    distance: heldAtMm(course, at, seed, sensor.optics.bestMm),
  };
}
