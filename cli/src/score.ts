import { clusterInterval } from "@perceptum/core/arithmetic";
import type { TapeId, TargetId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import type { ReadingsByTape, Sensor } from "@perceptum/core/readings";
import { judgeTapes, type MarkedTape, markedTapes, marksOfLabels, type Score } from "@perceptum/core/teaching";
import { cameraTapes, type FrameScore, frameScore } from "@perceptum/core/vision";
import { openReadings } from "./classify";
import { factsOfTape, openTaught } from "./frames";
import { chooseSensor, InputError } from "./input";

/** How good the rules are: truth from the tapes' marks, or from the column `label` of a readings file. */
export function scoreCommand(
  projectFile: string,
  readingsFile?: string,
  options: { json?: boolean; sensor?: string; format?: string } = {},
): string {
  const opened = openTaught(projectFile);
  const { project: document, readings } = opened.taught;
  const tapes =
    readingsFile === undefined
      ? tapesOf(document, readings, options.sensor)
      : labelledTape(document, chooseSensor(document, options.sensor), readingsFile, options.format);
  const { score } = judgeTapes(document, tapes);
  if (score.marked === 0)
    throw new InputError(
      readingsFile === undefined
        ? `${projectFile}: no reading is marked, so there is nothing to score`
        : `${readingsFile}: no label names a target of the project, so there is nothing to score`,
    );
  const frames = readingsFile === undefined ? framesScore(opened, tapes) : [];
  return options.json
    ? `${JSON.stringify({ ...figures(document, score), ...(frames.length > 0 && { frames }) }, null, 2)}\n`
    : text(document, score) + frames.map((score) => frameLine(document, score)).join("");
}

/** How many frames have each target rightly, over all tapes of cameras that are scored. */
function framesScore(opened: ReturnType<typeof openTaught>, scored: readonly MarkedTape[]): FrameScore[] {
  const { document } = opened;
  const sums = new Map<TargetId, FrameScore>();
  const tapes = cameraTapes(document).filter(({ tape }) => scored.some(({ head }) => head.id === tape.id));
  for (const { tape, sensor } of tapes) {
    for (const score of frameScore(tape, document.targets, factsOfTape(opened, tape, sensor))) {
      const sum = sums.get(score.target) ?? { target: score.target, shown: 0, right: 0, wrong: 0 };
      sum.shown += score.shown;
      sum.right += score.right;
      sum.wrong += score.wrong;
      sums.set(score.target, sum);
    }
  }
  return [...sums.values()];
}

const frameLine = ({ targets }: ProjectDocument, { target, shown, right, wrong }: FrameScore) =>
  `${targets.find((t) => t.id === target)?.name ?? target}: in ${right} of ${shown} frames that show it, and in ${wrong} on something else\n`;

function tapesOf(document: ProjectDocument, readings: ReadingsByTape, sensor: string | undefined): MarkedTape[] {
  const tapes = markedTapes(document, readings);
  if (sensor === undefined) return tapes;
  const { id } = chooseSensor(document, sensor);
  return tapes.filter((tape) => tape.sensor.id === id);
}

function labelledTape(document: ProjectDocument, sensor: Sensor, file: string, format?: string): MarkedTape[] {
  const { readings, labels, lights, heights } = openReadings(file, sensor.reports, format);
  if (labels === undefined)
    throw new InputError(`${file}: there is no column label, which says what each reading is of`);
  const { marks, unknown } = marksOfLabels(readings.t, labels, document.targets, document.lights, {
    ...(lights && { lights }),
    ...(heights && { heights }),
  });
  for (const { word, count } of unknown)
    process.stderr.write(`perceptum: ${file}: ${count} readings have the label “${word}”, which names no target\n`);
  const id = "labelled" as TapeId;
  const head = { id, name: file, sensor: sensor.id, origin: "import" as const, marks };
  return markedTapes({ ...document, tapes: [head] }, new Map([[id, readings]]));
}

/** The score as numbers: shares 0..1, the 95 % interval over visits, which are independent as readings are not. */
function figures({ targets, lights }: ProjectDocument, { counts, marked, right, visits, byLight }: Score) {
  const names = ["unknown", ...targets.map((t) => t.id as string)];
  const share = right / marked;
  return {
    marked,
    right,
    share,
    interval: clusterInterval(visits),
    visits: visits.length,
    targets: targets.map((target, t) => {
      const of = counts[t].reduce((a, b) => a + b, 0);
      const wrong = counts.reduce((sum, row, k) => sum + (k === t ? 0 : row[t + 1]), 0);
      return { target: target.id, kind: target.kind, marked: of, found: counts[t][t + 1], wrong };
    }),
    lights: byLight.map(({ light, ...rest }) => ({
      light: lights.find((l) => l.id === light)?.id ?? null,
      ...rest,
      share: rest.right / rest.marked,
    })),
    confusion: Object.fromEntries(
      targets.map((target, t) => [target.id, Object.fromEntries(counts[t].map((n, label) => [names[label], n]))]),
    ),
  };
}

const percent = (x: number) => `${(100 * x).toFixed(1)} %`;

function text(document: ProjectDocument, score: Score): string {
  const { share, interval, visits, marked, right, targets, lights } = figures(document, score);
  const name = (id: string) => document.targets.find((t) => t.id === id)?.name ?? id;
  const lines = [
    `${right} of ${marked} readings right, ${percent(share)}; 95 % interval ${percent(interval[0])} to ${percent(interval[1])}, as it rests on ${visits} visits`,
    ...lights.map(
      (l) =>
        `${document.lights.find((x) => x.id === l.light)?.name ?? "light not noted"}: ${percent(l.share)} of ${l.marked}, ${l.taken} of ${l.grounds} background readings taken for a target`,
    ),
    ...targets
      .filter((t) => t.marked > 0 || t.wrong > 0)
      .map((t) =>
        t.kind === "background"
          ? `${name(t.target)}: ${t.marked} readings`
          : `${name(t.target)}: ${t.found} of ${t.marked} found, ${t.wrong} false matches`,
      ),
  ];
  return `${lines.join("\n")}\n`;
}
