import type { ProjectDocument, TapeId } from "@perceptum/core/project";
import { blockOf, type RawReadings } from "@perceptum/core/readings";
import {
  type JudgedTape,
  judgeTapes,
  type MarkedTape,
  markOfEach,
  type Score,
  truthOfEach,
} from "@perceptum/core/teaching";
import { expose, transfer } from "comlink";

/** What judging needs of a project. */
export type Judgeable = Pick<ProjectDocument, "sensors" | "ruleSets" | "targets" | "tapes">;

/** A judgement as it comes back from the worker. */
export interface Answer {
  tapes: [TapeId, JudgedTape][];
  score: Score;
}

const raw = new Map<TapeId, RawReadings>();
const made = new Map<TapeId, { from: unknown[]; tape: MarkedTape }>();

/** The tape with features and truth, made again only when what it is made from has changed. */
function markedTape(project: Judgeable, head: Judgeable["tapes"][number]): MarkedTape | undefined {
  const readings = raw.get(head.id);
  const sensor = project.sensors.find((s) => s.id === head.sensor);
  if (readings === undefined || sensor === undefined) return undefined;
  const from = [
    readings,
    JSON.stringify([sensor.scale, sensor.order, sensor.reference, head.marks, project.targets.map((t) => t.id)]),
  ];
  const known = made.get(head.id);
  if (known !== undefined && from.every((part, i) => part === known.from[i])) return { ...known.tape, head };
  const block = blockOf(readings, sensor);
  const mark = markOfEach(block, head.marks);
  const tape = {
    head,
    block,
    mark,
    truth: truthOfEach(
      mark,
      head.marks,
      project.targets.map((t) => t.id),
    ),
  };
  made.set(head.id, { from, tape });
  return tape;
}

const worker = {
  /** Takes over all readings of a project; what is not named is forgotten. */
  hold(readings: [TapeId, RawReadings][]): void {
    raw.clear();
    for (const [tape, values] of readings) raw.set(tape, values);
  },

  judge(project: Judgeable): Answer {
    const tapes = project.tapes.flatMap((head) => markedTape(project, head) ?? []);
    const { tapes: judged, score } = judgeTapes(project, tapes);
    const answer: Answer = { tapes: [...judged], score };
    return transfer(
      answer,
      answer.tapes.flatMap(([, tape]) => [tape.labels.buffer, tape.seen.buffer]),
    );
  },
};

export type JudgeWorker = typeof worker;
expose(worker);
