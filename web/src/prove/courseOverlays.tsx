import type { LastRun } from "../model/judging/Mentor";

/** A dot at every third reading, in the paint of what was seen. */
export function drawDots(
  context: CanvasRenderingContext2D,
  run: LastRun,
  spots: Trail,
  t: number,
  scale: number,
  h: number,
): void {
  const paints = run.project.targets.map((target) => target.paint);
  context.strokeStyle = "#fff";
  context.lineWidth = 0.8;
  for (let k = 0; k < spots.t.length && spots.t[k] <= t; k++) {
    const seen = spots.seen[k];
    if (k % 3 !== 0) continue;
    context.fillStyle = seen === 0 ? "#9aa0a8" : paints[seen - 1];
    context.beginPath();
    context.arc(spots.x[k] * scale, h - spots.y[k] * scale, seen === 0 ? 1.6 : 3, 0, 7);
    context.fill();
    if (seen !== 0) context.stroke();
  }
  drawEvents(context, run, t, scale, h);
}

/** A diamond on the way wherever a response fired or the mode changed. */
function drawEvents(context: CanvasRenderingContext2D, run: LastRun, t: number, scale: number, h: number): void {
  const { trace } = run;
  context.fillStyle = "#fff";
  context.strokeStyle = "#161616";
  context.lineWidth = 1.2;
  for (const note of trace.notes) {
    if (note.t > t) break;
    if (note.kind !== "fires" && note.kind !== "mode") continue;
    const i = Math.min(trace.x.length - 1, Math.round(note.t / trace.tickMs));
    const [x, y] = [trace.x[i] * scale, h - trace.y[i] * scale];
    context.beginPath();
    context.moveTo(x, y - EVENT);
    context.lineTo(x + EVENT, y);
    context.lineTo(x, y + EVENT);
    context.lineTo(x - EVENT, y);
    context.closePath();
    context.fill();
    context.stroke();
  }
}

/** Half the width of an event's sign, in CSS pixels. */
const EVENT = 4.5;

/** The way of the run that is kept to compare with, as a thin line. */
export function drawLine(
  context: CanvasRenderingContext2D,
  spots: Trail,
  t: number,
  scale: number,
  h: number,
  ink: string,
): void {
  context.strokeStyle = ink;
  context.lineWidth = 1;
  context.setLineDash([4, 3]);
  context.beginPath();
  for (let k = 0; k < spots.t.length && spots.t[k] <= t; k++)
    context[k === 0 ? "moveTo" : "lineTo"](spots.x[k] * scale, h - spots.y[k] * scale);
  context.stroke();
  context.setLineDash([]);
}

/** The places of the first sensor at each of its readings, in mm, and what was seen then. */
export interface Trail {
  t: Float64Array;
  x: Float64Array;
  y: Float64Array;
  seen: Uint8Array;
}

export function trailOf({ trace }: LastRun): Trail {
  const [eye] = trace.eyes;
  const { t } = eye.readings;
  const tick = (at: number) => Math.round(at / trace.tickMs);
  return {
    t,
    x: t.map((at) => trace.eyeX[tick(at)]),
    y: t.map((at) => trace.eyeY[tick(at)]),
    seen: eye.seen,
  };
}

export function HoverRing({ trail, t }: { trail: Trail; t: number }) {
  const k = trail.t.findLastIndex((at) => at <= t);
  return k < 0 ? null : (
    <circle cx={trail.x[k]} cy={trail.y[k]} r="22" fill="none" stroke="var(--on-ground, #fff)" strokeWidth="6" />
  );
}
