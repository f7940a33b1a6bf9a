import { namedBehaviour } from "../behaviour";
import type { SensorId } from "../names";
import { type FindingKind, type FindingPlace, sensorName } from "./finding";
import { placeOf } from "./placeOf";

/** Something goes by a sensor that the robot does not carry: it never holds. */
export const sensorNotMounted: FindingKind = {
  code: "sensor-not-mounted",
  find({ project }) {
    const { behaviour, robot } = project;
    const mounted = new Set<string>(robot.mounts.map((m) => m.sensor));
    const found = new Map<SensorId, FindingPlace>();
    namedBehaviour(behaviour, (path) => (kind, id) => {
      const sensor = id as string as SensorId;
      if (kind === "sensor" && !mounted.has(sensor) && !found.has(sensor)) {
        const place = placeOf(behaviour, path);
        if (place !== undefined) found.set(sensor, place);
      }
      return id;
    });
    return [...found].map(([sensor, place]) => ({
      code: "sensor-not-mounted" as const,
      level: "error" as const,
      title: `${sensorName(project, sensor)} is not on the robot`,
      sentence: `The behaviour goes by it, but ${robot.name} does not carry it, so what waits for it never happens. Mount it in Prove, or name another sensor.`,
      place: { ...place, about: sensor },
    }));
  },
};
