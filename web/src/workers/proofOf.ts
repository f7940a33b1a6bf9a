import { classifyName } from "@perceptum/core/code";
import type { ProjectDocument } from "@perceptum/core/project";
import { isCamera, type RawReadings, REPORT_KINDS, ReadingBlock, type Sensor } from "@perceptum/core/readings";
import { classifyBlock, ruleSetOf, steadyBlock } from "@perceptum/core/rules";

/** Where a file differs from the core: the place, and what each says. */
export interface Other {
  where: string;
  file: string;
  core: string;
}

/** What came of running a file beside the core over all tapes of its sensors. */
export interface Proof {
  tapes: number;
  readings: number;
  /** The first reading that the file takes otherwise; null where it takes none so. */
  other: Other | null;
}

/** The module that a file in JavaScript is, as far as it is run here. */
interface Rules {
  seen: number[];
  steady(eye: number, label: number, t: number): void;
  forget(): void;
  calls: ((...raw: number[]) => number)[];
}

/** Makes the module of a file: its functions, those of the sensors in their order. @throws whatever the file throws */
function moduleOf(source: string, sensors: readonly Sensor[]): Rules {
  const calls = sensors.map((sensor) => classifyName(sensor)).join(", ");
  const body = `${source.replace(/^export /gm, "")}\nreturn { seen, steady, forget, calls: [${calls}] };`;
  return new Function(body)() as Rules;
}

/**
 * Runs a file in JavaScript over every reading of the tapes of its sensors, and compares label and seen with the core's.
 * A camera's tapes are left out: they hold no readings.
 */
export function proofOf(
  source: string,
  project: ProjectDocument,
  sensors: readonly Sensor[],
  readings: ReadonlyMap<string, RawReadings>,
): Proof {
  const rules = moduleOf(source, sensors);
  const names = ["unknown", ...project.targets.map(({ name }) => name)];
  const proof: Proof = { tapes: 0, readings: 0, other: null };
  for (const tape of project.tapes) {
    const raw = readings.get(tape.id);
    const eye = sensors.findIndex(({ id }) => id === tape.sensor);
    if (raw === undefined || eye < 0 || isCamera(sensors[eye])) continue;
    proof.tapes++;
    proof.readings += raw.t.length;
    const other = firstOther(rules, project, sensors[eye], eye, raw);
    if (other !== undefined && proof.other === null)
      proof.other = {
        where: `at reading ${other.index + 1} of ${tape.name}`,
        file: `${names[other.file[0]]}, seen ${names[other.file[1]]}`,
        core: `${names[other.core[0]]}, seen ${names[other.core[1]]}`,
      };
  }
  return proof;
}

/** The first reading of a tape that the file takes otherwise, with label and seen of both; undefined where there is none. */
function firstOther(
  { calls, steady, seen, forget }: Rules,
  project: ProjectDocument,
  sensor: Sensor,
  eye: number,
  raw: RawReadings,
): { index: number; file: [number, number]; core: [number, number] } | undefined {
  const ruleSet = ruleSetOf(project, sensor);
  const targets = project.targets.map(({ id }) => id);
  const labels = classifyBlock(ruleSet, new ReadingBlock(raw, sensor), targets);
  const steadied = steadyBlock(labels, ruleSet.steady);
  const columns = REPORT_KINDS.get(sensor.reports).channels.map(
    (channel) => raw.channels[channel] ?? new Float64Array(),
  );
  forget();
  for (let i = 0; i < raw.t.length; i++) {
    const label = calls[eye](...columns.map((column) => column[i]));
    steady(eye, label, raw.t[i]);
    if (label !== labels[i] || seen[eye] !== steadied[i])
      return { index: i, file: [label, seen[eye]], core: [labels[i], steadied[i]] };
  }
  return undefined;
}
