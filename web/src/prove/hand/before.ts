import type { Sensor } from "@perceptum/core/readings";
import type { Target } from "@perceptum/core/rules";
import type { Course, DrawnCourse, Mount, Robot } from "@perceptum/core/world";
import type { Before } from "./SensorSide";

/** The height at which a card is held that says none: the best of the sensor that it is held before, in mm. */
export function bestOf(course: Course | DrawnCourse, robot: Robot, sensors: readonly Sensor[]) {
  return (index: number): number => {
    const id = course.cards[index].sensor ?? robot.mounts[0].sensor;
    return sensors.find((sensor) => sensor.id === id)?.optics.bestMm ?? 0;
  };
}

/** What a sensor has before it while no card is there: the ground, if it looks down. */
export const groundBefore = (mount: Mount, ground: Target | undefined): Before | null =>
  mount.looks === "down" ? { target: ground, mm: mount.z } : null;

/** How far a drawing of what is held before sensors reaches, in mm: to what is farthest and a little on. */
export function reachOf(heights: readonly number[]): number {
  return 20 * Math.ceil((Math.max(40, ...heights) + 10) / 20);
}
