import type { SensorId } from "@perceptum/core/names";
import type { EyeTrace } from "@perceptum/core/world";
import type { LastRun } from "../judging/Mentor";

/** Finds the sensor through which a run is looked at: the chosen one, else the first. */
export const eyeOfRun = ({ trace: { eyes } }: LastRun, chosen: SensorId | null): EyeTrace =>
  eyes.find(({ sensor }) => sensor === chosen) ?? eyes[0];

/** Names a sensor of the project that a run was made of. */
export const eyeName = ({ project }: Pick<LastRun, "project">, sensor: SensorId): string =>
  project.sensors.find((s) => s.id === sensor)?.name ?? sensor;
