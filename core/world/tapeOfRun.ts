import { numbered, type TapeId, type Unlisted } from "../names";
import type { Mark, RawReadings, TapeHead } from "../readings";
import type { EyeTrace, Trace } from "./trace";

/** A run's readings of a sensor, the first where none is named, as a tape that marks itself: wherever the whole spot lay on one target. */
export function tapeOfRun(
  trace: Trace,
  id: TapeId,
  name: string,
  eye: EyeTrace = trace.eyes[0],
): { head: TapeHead; readings: RawReadings } {
  return { head: { id, name, sensor: eye.sensor, origin: "run", marks: marksOf(trace, eye) }, readings: eye.readings };
}

/** Marks of at least two readings, for each stretch of one truth. */
function marksOf(trace: Trace, eye: EyeTrace): Mark[] {
  const marks: Unlisted<Mark>[] = [];
  const { t } = eye.readings;
  for (let from = 0; from < t.length; ) {
    let to = from;
    while (to + 1 < t.length && eye.truth[to + 1] === eye.truth[from]) to++;
    if (eye.truth[from] !== 0 && to > from) {
      marks.push({
        from: t[from],
        to: t[to],
        target: trace.targets[eye.truth[from] - 1],
        light: trace.light,
        height: eye.height,
      });
    }
    from = to + 1;
  }
  return numbered("mark", marks);
}
