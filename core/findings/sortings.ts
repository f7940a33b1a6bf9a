import { answeredBy, factsOf, type Gate, kindOf, type Mode, type Response, type Step } from "../behaviour";
import type { ProjectDocument } from "../project";
import { isCamera, type Sensor } from "../readings";
import { ruleSetOf } from "../rules";
import { type BeltCourse, countOf, machineOf } from "../world";
import { nameOf } from "./finding";
import { fastestOf, unfolded } from "./stepsOf";

/** A response that lets a piece go through a gate: at once by `send`, or by opening it after so many ms. */
export interface Sorting {
  mode: Mode;
  response: Response;
  gate: Gate;
  sensor: Sensor;
  /** Where that sensor looks, in mm from the belt's start. */
  sees: number;
  /** The belt's speed in that mode, in mm/s. */
  speed: number;
  /** Missing where the piece is sent. */
  opensAfterMs?: number;
  /** When it closes the gate again, where it does. */
  closesAfterMs?: number;
  /** How long the whole response takes, as far as that is by time. */
  takesMs: number;
}

/** How long a step takes by itself; what something else ends counts nothing. */
function takes(step: Step): number {
  const end = kindOf(step).endsBy?.(step, { t: 0, travel: { left: 0, right: 0 } }) ?? 0;
  return Number.isFinite(end) ? Math.max(0, end) : 0;
}

/** Every response that sorts by a gate; none where there is no belt. */
export function sortingsOf(project: ProjectDocument): Sorting[] {
  const { behaviour, robot, sensors } = project;
  const { belt, topSpeed } = machineOf(robot);
  if (belt === undefined) return [];
  return behaviour.modes.flatMap((mode) => {
    const speed = fastestOf(behaviour, mode) * topSpeed;
    return mode.responses
      .filter((response) => response.on)
      .flatMap((response): Sorting[] => {
        const [by] = answeredBy(response.when);
        if (by === undefined) return [];
        const eye = robot.mounts.findIndex((mount) => mount.sensor === (by.sensor ?? robot.mounts[0].sensor));
        const sensor = sensors.find((one) => one.id === robot.mounts[eye]?.sensor);
        if (sensor === undefined || isCamera(sensor)) return [];
        const steps = unfolded(behaviour, response.steps);
        const takesMs = steps.reduce((sum, step) => sum + takes(step), 0);
        let waited = 0;
        return steps.flatMap((step, i): Sorting[] => {
          const { moves, sendsTo } = factsOf(step);
          const opensAfterMs = waited;
          waited += takes(step);
          const sees = belt.looksAt[eye];
          const gate = belt.gates.find((g) =>
            moves?.open ? g.id === moves.gate : sendsTo !== belt.end && g.crate === sendsTo && g.atMm > sees,
          );
          if (gate === undefined || (moves === undefined && sendsTo === undefined)) return [];
          const base = { mode, response, gate, sensor, sees, speed, takesMs };
          if (moves === undefined) return [base];
          let until = opensAfterMs;
          const closing = steps.slice(i + 1).find((later) => {
            until += takes(later);
            const { moves: then } = factsOf(later);
            return then?.gate === gate.id && !then.open;
          });
          return [{ ...base, opensAfterMs, ...(closing !== undefined && { closesAfterMs: until }) }];
        });
      });
  });
}

/** How long after the first reading of a piece it is seen at the latest, in ms. */
export const seenWithin = (project: ProjectDocument, sensor: Sensor): number =>
  ruleSetOf(project, sensor).steady.hits * sensor.periodMs;

/** The belts on which at least two pieces follow each other. */
export const beltsOf = (project: ProjectDocument): BeltCourse[] =>
  project.courses.filter((course): course is BeltCourse => "pieces" in course && countOf(course.pieces) > 1);

/** What a response that sorts answers, as people call it. */
export function sortedBy(project: ProjectDocument, { response }: Sorting): string {
  const target = answeredBy(response.when)[0]?.target;
  return target === undefined ? "its pieces" : nameOf(project, target);
}

/** A belt's speed as a share of its top speed: `at 40 %`. */
export const atShare = (project: ProjectDocument, speed: number): string =>
  `at ${Math.round((100 * speed) / machineOf(project.robot).topSpeed)} %`;

/** A length as people read it. */
export const cm = (mm: number): string => `${(mm / 10).toFixed(1)} cm`;
/** The least length that people read so and that is enough. */
export const cmAbove = (mm: number): string => `${(Math.ceil(mm) / 10).toFixed(1)} cm`;
/** A share of top speed, rounded down so that what is promised holds. */
export const percentBelow = (share: number): number => Math.floor(share * 100);
