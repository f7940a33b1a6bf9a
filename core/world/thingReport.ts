import type { NameOf } from "../behaviour";
import type { TargetId } from "../names";
import { reportPieces, whySorted } from "./belt/pieceReport";
import { at, besideWords, wayBetween } from "./checks/because";
import { passagesOver } from "./crossings";
import { type Thing, type Trace, thingsOf } from "./trace";

/** How a run dealt with one patch, sign, card or line. */
export interface ThingReport {
  /** Its place among the course's things. */
  piece: number;
  kind: Thing["kind"];
  target: TargetId;
  /** When a sensor that is listened to first came over it, or it was answered, in ms; undefined where neither was. */
  at: number | undefined;
  /** Mean speed while over it, mm/s. */
  speed: number;
  /** How many readings fell on it. */
  readings: number;
  /** From the first reading on it to the arrival, in ms and in mm of way; undefined where it never arrived. */
  delay: { ms: number; mm: number } | undefined;
  /** How often a response answered it. */
  answers: number;
  /** The robot's sensors that saw what was answered, from 0. */
  answeredBy: number[];
  /** Other things that it was taken for, with how often. */
  takenFor: { target: TargetId; times: number }[];
}

/** For every patch, sign, card and line: how it was passed, and what was made of it. */
export function reportThings(trace: Trace): ThingReport[] {
  return thingsOf(trace.course).map(({ kind, target }, piece) => {
    const listen = trace.listeners.get(target) ?? new Set([0]);
    const passages = passagesOver(trace, piece, listen);
    const [first] = passages;
    const read = trace.passages.find((p) => p.patch === piece && listen.has(p.eye));
    const answers = trace.answers.filter((a) => a.patch === piece);
    const wrong = new Map<TargetId, number>();
    for (const answer of answers)
      if (answer.target !== target) wrong.set(answer.target, (wrong.get(answer.target) ?? 0) + 1);
    let readings = 0;
    let way = 0;
    let time = 0;
    for (const { eye, entered, left = trace.endMs } of passages) {
      const { t } = trace.eyes[eye].readings;
      for (let k = 0; k < t.length; k++) if (t[k] >= entered && t[k] < left) readings++;
      way += wayBetween(trace, entered, left);
      time += left - entered;
    }
    return {
      piece,
      kind,
      target,
      at: whenFirst(first?.entered, answers[0]?.t),
      speed: time > 0 ? (way / time) * 1000 : 0,
      readings,
      delay: read && delayOf(trace, read.entered, read.left ?? trace.endMs, target),
      answers: answers.filter((a) => a.target === target).length,
      answeredBy: [...new Set(answers.filter((a) => a.target === target).map((a) => a.eye))],
      takenFor: [...wrong].map(([taken, times]) => ({ target: taken, times })),
    };
  });
}

/** What else became of a thing: in which crate a piece ended or why not in its own, where the spot passed a plate. */
export function fateWords(trace: Trace, { piece, kind, answers }: ThingReport, name: NameOf): string | undefined {
  if (kind !== "piece") return answers === 0 ? besideWords(trace, piece) : undefined;
  const report = reportPieces(trace).find((one) => one.piece === piece);
  if (report?.t === undefined) return "still on the belt";
  return whySorted(trace, report, name) ?? `in ${name(report.wanted)} at ${at(report.t)}`;
}

/** The earlier of two times, where there are any: what is answered at its edge need not have been come over. */
const whenFirst = (entered: number | undefined, answered: number | undefined): number | undefined =>
  entered === undefined || answered === undefined ? (entered ?? answered) : Math.min(entered, answered);

/** How late after its edge a target arrives, as long as the sensor is not much farther than its end. */
function delayOf(trace: Trace, entered: number, left: number, target: TargetId): ThingReport["delay"] {
  const arrival = trace.notes.find(
    (n) => n.kind === "arrives" && n.target === target && n.t >= entered && n.t <= left + 200,
  );
  return arrival && { ms: arrival.t - entered, mm: wayBetween(trace, entered, arrival.t) };
}
