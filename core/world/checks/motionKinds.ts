import * as z from "zod";
import { type TargetId, TargetIdSchema } from "../../names";
import { inUnit, lengthIn, type PhraseReader, printLength, takeLength } from "../../phrases";
import { crossingsOf } from "../crossings";
import { shapeTest } from "../floor";
import { type Trace, thingsOf } from "../trace";
import { ended, at as seconds, sentence, thingWords } from "./because";
import type { CheckKind } from "./CheckKind";

const Mm = z.number().positive().max(100_000);
function takeWay(reader: PhraseReader) {
  reader.take("within");
  return takeLength(reader, "a length");
}
const cm = (mm: number) => `${(mm / 10).toFixed(1)} cm`;
const atTick = (trace: Trace, i: number) => ({ t: i * trace.tickMs });

const endsInSchema = z.strictObject({ endsIn: z.string().min(1).max(80) });

/** The run finishes with the axle's middle in a zone. */
export const endsIn: CheckKind<z.infer<typeof endsInSchema>> = {
  key: "endsIn",
  schema: endsInSchema,
  word: "ends in zone …",
  fresh: ({ zones: [first] }) => (first === undefined ? undefined : { endsIn: first }),
  parse(reader) {
    if (!reader.peekNext("ends", "in")) return undefined;
    reader.take("ends");
    reader.take("in");
    return { endsIn: reader.takeText("the zone's name in quotes") };
  },
  print: ({ endsIn }) => `ends in "${endsIn}"`,
  sentence: ({ endsIn }) => `Ends in zone ${endsIn}`,
  named: ({ endsIn }, visit) => ({ endsIn: visit("zone", endsIn, "endsIn") }),
  judge({ endsIn }, trace) {
    if (trace.ending !== "finished")
      return { outcome: "not reached", figure: "—", why: sentence("the behaviour did not finish", ended(trace)) };
    const zone = trace.course.zones.find((z) => z.name === endsIn);
    const t = trace.endMs;
    if (zone === undefined)
      return { outcome: "does not", figure: "no such zone", t, why: sentence(`the course has no zone “${endsIn}”`) };
    const last = trace.x.length - 1;
    const [x, y] = [trace.x[last], trace.y[last]];
    if (shapeTest(zone)(x, y)) return { outcome: "holds", figure: "inside", t };
    const off = Math.sqrt((x - zone.at[0]) ** 2 + (y - zone.at[1]) ** 2);
    const why = sentence(`the axle’s middle ends ${cm(off)} from the middle of ${endsIn}, outside it`);
    return { outcome: "does not", figure: "outside", t, why };
  },
};

/** Slower than this a cart stands, in mm/s. */
const STANDS = 2;

const stopsSchema = z.strictObject({ stopsWithinMm: Mm, in: lengthIn, after: TargetIdSchema });

/** From where the sensor comes over each patch of the target, the cart stands within so much way. */
export const stopsWithin: CheckKind<z.infer<typeof stopsSchema>> = {
  key: "stopsWithinMm",
  schema: stopsSchema,
  word: "stops within … after the edge of …",
  fresh: ({ targets: [first] }) => first && { stopsWithinMm: 50, after: first },
  parse(reader) {
    if (!reader.skip("stops")) return undefined;
    const { mm, in: unit } = takeWay(reader);
    reader.take("after");
    return { stopsWithinMm: mm, ...inUnit(unit), after: reader.takeName("targets") as TargetId };
  },
  print: ({ stopsWithinMm, in: unit, after }) => `stops within ${printLength(stopsWithinMm, unit)} after ${after}`,
  sentence: ({ stopsWithinMm, in: unit, after }, name) =>
    `Stops within ${printLength(stopsWithinMm, unit)} after ${name(after)}’s edge`,
  named: (check, visit) => ({ ...check, after: visit("target", check.after, "after") }),
  judge({ stopsWithinMm, after }, trace, name) {
    const reached = edgesReached(trace, after);
    if (reached.size === 0)
      return { outcome: "not reached", figure: "—", why: sentence(`no ${name(after)} was reached`, ended(trace)) };
    let worst = 0;
    let at = 0;
    for (const [piece, since] of reached) {
      let i = Math.floor(since / trace.tickMs);
      // Of the tick in which it met the edge only what is behind it.
      let way = -(since / trace.tickMs - i) * stepOf(trace, i);
      const thing = () => `${thingWords(trace, piece, name)} was reached at ${seconds(since)}`;
      for (; i < trace.speed.length && Math.abs(trace.speed[i]) > STANDS; i++) {
        way += stepOf(trace, i);
        if (way > stopsWithinMm) {
          const speed = `${(Math.abs(trace.speed[i]) / 10).toFixed(1)} cm/s`;
          const why = sentence(thing(), `${cm(way)} on the robot still went at ${speed}`);
          return { outcome: "does not", figure: `over ${cm(stopsWithinMm)}`, ...atTick(trace, i), why };
        }
      }
      if (i === trace.speed.length && Math.abs(trace.speed[i - 1]) > STANDS)
        return {
          outcome: "not reached",
          figure: "still moving",
          why: sentence(thing(), "it still moved", ended(trace)),
        };
      if (way >= worst) {
        worst = way;
        at = i;
      }
    }
    return { outcome: "holds", figure: cm(worst), ...atTick(trace, at) };
  },
};

/** The robot's way from a tick to the next, in mm. */
function stepOf({ x, y }: Trace, i: number): number {
  return i + 1 < x.length ? Math.sqrt((x[i + 1] - x[i]) ** 2 + (y[i + 1] - y[i]) ** 2) : 0;
}

/** When each thing of a target was reached: as the spot's first point met its edge, where its middle came over it or it was answered. */
function edgesReached(trace: Trace, target: TargetId): Map<number, number> {
  const reached = new Map<number, number>();
  const reach = (piece: number, t: number) => reached.set(piece, Math.min(t, reached.get(piece) ?? Infinity));
  const answers = trace.answers.filter((answer) => answer.target === target && answer.truth === target);
  thingsOf(trace.course).forEach((thing, piece) => {
    if (thing.target !== target) return;
    const answered = answers.filter(({ patch }) => patch === piece);
    for (const eye of trace.listeners.get(target) ?? [0]) {
      const own = trace.eyes.at(eye);
      const crossings = own && crossingsOf(trace, piece, own);
      const first = crossings?.find(
        ({ middle, from, to = trace.endMs }) =>
          middle !== undefined || answered.some((answer) => answer.eye === eye && answer.t >= from && answer.t <= to),
      );
      if (first !== undefined) reach(piece, first.from);
      if (crossings !== undefined) continue;
      for (const { patch, entered, eye: by } of trace.passages)
        if (patch === piece && by === eye) reach(piece, entered);
      for (const { t } of answered) reach(piece, t);
    }
  });
  return reached;
}

const staysSchema = z.strictObject({ staysWithinMm: Mm, in: lengthIn, stays: TargetIdSchema });

/** Once it has come so near to a line of the target, the first sensor stays so near to its middle until the end. */
export const staysWithin: CheckKind<z.infer<typeof staysSchema>> = {
  key: "staysWithinMm",
  schema: staysSchema,
  word: "stays within … of the line …",
  fresh: ({ targets: [first] }) => first && { staysWithinMm: 30, stays: first },
  parse(reader) {
    if (!reader.skip("stays")) return undefined;
    const { mm, in: unit } = takeWay(reader);
    reader.take("of");
    return { staysWithinMm: mm, ...inUnit(unit), stays: reader.takeName("targets") as TargetId };
  },
  print: ({ staysWithinMm, in: unit, stays }) => `stays within ${printLength(staysWithinMm, unit)} of ${stays}`,
  sentence: ({ staysWithinMm, in: unit, stays }, name) =>
    `Stays within ${printLength(staysWithinMm, unit)} of the line of ${name(stays)}`,
  named: (check, visit) => ({ ...check, stays: visit("target", check.stays, "stays") }),
  judge({ staysWithinMm, stays }, trace, name) {
    const segments = trace.course.lines
      .filter((line) => line.target === stays)
      .flatMap(({ points }) => points.slice(1).map((to, i) => [points[i], to] as const));
    if (segments.length === 0)
      return { outcome: "not reached", figure: "no such line", why: sentence(`there is no line of ${name(stays)}`) };
    // A robot that does not see the line cannot follow it: that is the reason then.
    const unseen = (t: number) =>
      trace.notes.some((note) => note.kind === "arrives" && note.target === stays && note.t <= t)
        ? undefined
        : `${name(stays)} was not seen until then`;
    let reached = false;
    let nearest = Number.POSITIVE_INFINITY;
    let worst = 0;
    let at = 0;
    for (let i = 0; i < trace.x.length; i++) {
      let least = Number.POSITIVE_INFINITY;
      for (const [from, to] of segments) least = Math.min(least, offSegment(trace.eyeX[i], trace.eyeY[i], from, to));
      if (!reached) {
        nearest = Math.min(nearest, least);
        reached = least <= staysWithinMm;
        continue;
      }
      if (least > staysWithinMm)
        return {
          outcome: "does not",
          figure: `over ${cm(staysWithinMm)}`,
          ...atTick(trace, i),
          why: sentence(
            `the sensor was ${cm(least)} off the line’s middle at ${seconds(i * trace.tickMs)}`,
            unseen(i * trace.tickMs),
          ),
        };
      if (least >= worst) {
        worst = least;
        at = i;
      }
    }
    if (!reached)
      return {
        outcome: "not reached",
        figure: "—",
        why: sentence(`the sensor came no nearer than ${cm(nearest)}`, ended(trace), unseen(trace.endMs)),
      };
    return { outcome: "holds", figure: `at most ${cm(worst)}`, ...atTick(trace, at) };
  },
};

/** How far a point lies from a segment, in mm. */
function offSegment(x: number, y: number, from: readonly [number, number], to: readonly [number, number]): number {
  const dx = to[0] - from[0];
  const dy = to[1] - from[1];
  const share = ((x - from[0]) * dx + (y - from[1]) * dy) / (dx * dx + dy * dy || 1);
  const along = share < 0 ? 0 : Math.min(share, 1);
  const ox = x - from[0] - along * dx;
  const oy = y - from[1] - along * dy;
  return Math.sqrt(ox * ox + oy * oy);
}

const neverSlipsSchema = z.strictObject({ neverSlips: z.literal(true) });

/** No wheel turns faster than the floor under it. */
export const neverSlips: CheckKind<z.infer<typeof neverSlipsSchema>> = {
  key: "neverSlips",
  schema: neverSlipsSchema,
  word: "never slips",
  fresh: () => ({ neverSlips: true }),
  parse(reader) {
    if (!reader.peekNext("never", "slips")) return undefined;
    reader.take("never");
    reader.take("slips");
    return { neverSlips: true };
  },
  print: () => "never slips",
  sentence: () => "Never slips",
  judge(_, trace) {
    const first = trace.slipping.indexOf(1);
    if (first < 0) return { outcome: "holds", figure: "0 ms", t: trace.endMs };
    const ticks = trace.slipping.reduce((sum, slips) => sum + slips, 0);
    const ms = ticks * trace.tickMs;
    const why = sentence(
      `the wheels ran ahead of the floor for ${ms} ms in all, first at ${seconds(first * trace.tickMs)}`,
    );
    return { outcome: "does not", figure: `${ms} ms`, ...atTick(trace, first), why };
  },
};
