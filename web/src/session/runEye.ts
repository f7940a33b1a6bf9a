import type { SensorId } from "@perceptum/core/names";
import type { EyeTrace } from "@perceptum/core/world";
import type { LastRun } from "./Mentor";

/** Of a run the sensor that is looked through: the chosen one, else the first. */
export const eyeOfRun = ({ trace: { eyes } }: LastRun, chosen: SensorId | null): EyeTrace =>
  eyes.find(({ sensor }) => sensor === chosen) ?? eyes[0];

/** What a sensor of a run's robot is called. */
export const eyeName = ({ project }: LastRun, { sensor }: EyeTrace): string =>
  project.sensors.find((s) => s.id === sensor)?.name ?? sensor;
