import { answeredBy, type Mode } from "../behaviour";
import type { ProjectDocument } from "../project";
import { isCamera, type Sensor } from "../readings";
import { ruleSetOf } from "../rules";
import { machineOf } from "../world";
import { type FindingKind, nameOf } from "./finding";
import { extentOf, patchesOf } from "./patchSize";
import { fastestOf } from "./stepsOf";

/** At the speed at which a mode drives, too few whole readings fall on a patch that it answers to. */
export const tooFast: FindingKind = {
  code: "too-fast",
  find({ project }) {
    const { behaviour, robot } = project;
    const top = machineOf(robot).topSpeed;
    if (top === 0) return [];
    return behaviour.modes.flatMap((mode) => {
      const fastest = fastestOf(behaviour, mode);
      if (fastest === 0) return [];
      // Of all that is missed the worst is told: the speed that would do there does everywhere.
      const missed = answered(mode).flatMap(({ target, sensor: id }) => {
        const sensor = project.sensors.find((s) => s.id === (id ?? robot.mounts[0].sensor));
        const least = Math.min(...patchesOf(project, target).map(({ shape }) => extentOf(shape).least));
        // A camera sees things from afar.
        if (sensor === undefined || least === Infinity || isCamera(sensor)) return [];
        const most = speedThatDoes(project, sensor, least) / top;
        return fastest > most ? [{ target, sensor, least, most }] : [];
      });
      const [worst] = missed.sort((a, b) => a.most - b.most);
      if (worst === undefined) return [];
      const { target, sensor, least } = worst;
      const speed = Math.floor(worst.most * 100) / 100;
      const { hits } = ruleSetOf(project, sensor).steady;
      const fall = readingsOn(sensor, least, fastest * top);
      return [
        {
          code: "too-fast" as const,
          level: "error" as const,
          title: `${mode.name} is too fast for ${nameOf(project, target)}`,
          sentence: `At ${Math.round(fastest * 100)} % (${Math.round((fastest * top) / 10)} cm/s) as few as ${fall} whole ${fall === 1 ? "reading falls" : "readings fall"} on ${least / 10} cm of it, and ${hits} are needed. ${speed >= 0.01 ? `Up to ${Math.round(speed * 100)} % would do.` : "No speed would do: make the patch larger or ask for fewer readings."}`,
          place: { stage: "act" as const, mode: mode.id, target },
          ...(speed >= 0.01 && {
            fix: { label: `Slow down to ${Math.round(speed * 100)} %`, change: { slowDown: mode.id, most: speed } },
          }),
        },
      ];
    });
  },
};

/** The targets that a mode answers when they come, with the sensor that it listens to. */
const answered = (mode: Mode) => mode.responses.filter((r) => r.on).flatMap(({ when }) => answeredBy(when));

/** How long a patch of `least` mm holds the whole spot, in mm of way. */
const room = (sensor: Sensor, least: number) => Math.max(0, least - sensor.optics.spotMm);

/** How many whole readings fall on it at the least, at a speed in mm/s. */
function readingsOn(sensor: Sensor, least: number, speed: number): number {
  return Math.floor(Math.max(0, (room(sensor, least) / speed) * 1000 - sensor.optics.integrationMs) / sensor.periodMs);
}

/** The greatest speed in mm/s at which as many readings as steadying asks for fall on it for sure. */
function speedThatDoes(project: ProjectDocument, sensor: Sensor, least: number): number {
  const { hits } = ruleSetOf(project, sensor).steady;
  return (room(sensor, least) * 1000) / (hits * sensor.periodMs + sensor.optics.integrationMs);
}
