import * as z from "zod";
import { visitedSensor } from "../../behaviour";
import { SensorIdSchema, type TargetId, TargetIdSchema } from "../../names";
import { reportPieces } from "../belt/pieceReport";
import { shapeTest } from "../floor";
import type { Trace } from "../trace";
import { arrivalsAt, bySensor, ended, at as seconds, sentence, times, toldBySensor, unmet } from "./because";
import type { CheckKind } from "./CheckKind";

const MOST_TIMES = 1000;
const Times = z.number().int().min(1).max(MOST_TIMES);

const visitsSchema = z.strictObject({ visits: z.string().min(1).max(80), times: Times });

/** The robot's middle, or on a belt that of so many pieces, comes into a zone so often, and no oftener. */
export const visits: CheckKind<z.infer<typeof visitsSchema>> = {
  key: "visits",
  schema: visitsSchema,
  courses: ["floor", "rail", "belt"],
  word: "visits zone … times",
  fresh: ({ zones: [first] }) => (first === undefined ? undefined : { visits: first, times: 1 }),
  parse(reader) {
    if (!reader.skip("visits")) return undefined;
    const zone = reader.takeText("the zone's name in quotes");
    const count = reader.takeCount("a number of times", MOST_TIMES);
    reader.take("times");
    return { visits: zone, times: count };
  },
  print: ({ visits, times }) => `visits "${visits}" ${times} times`,
  sentence: ({ visits, times: n }) => `Visits ${visits} ${times(n)}`,
  named: (check, visit) => ({ ...check, visits: visit("zone", check.visits, "visits") }),
  judge({ visits, times: wanted }, trace) {
    const zone = trace.course.zones.find((z) => z.name === visits);
    if (zone === undefined)
      return {
        outcome: "does not",
        figure: "no such zone",
        t: 0,
        why: sentence(`the course has no zone “${visits}”`),
      };
    const entries = trace.belt === undefined ? robotInto(trace, zone) : piecesInto(trace, zone);
    const who = trace.belt === undefined ? "it" : "a piece";
    const figure = `${entries.length}/${wanted}`;
    if (entries.length > wanted)
      return {
        outcome: "does not",
        figure,
        t: entries[wanted],
        why: sentence(`${who} comes into ${visits} again at ${seconds(entries[wanted])}`),
      };
    if (entries.length === wanted) return { outcome: "holds", figure, t: entries[wanted - 1] };
    return unmet(trace, figure, sentence(`${who} came into ${visits} ${times(entries.length)}`, ended(trace)));
  },
};

type ZoneOf = Trace["course"]["zones"][number];

/** When the robot's middle came into a zone, in ms. */
function robotInto(trace: Trace, zone: ZoneOf): number[] {
  const holds = shapeTest(zone);
  let inside = false;
  const entries: number[] = [];
  for (let i = 0; i < trace.x.length; i++) {
    const now = holds(trace.x[i], trace.y[i]);
    if (now && !inside) entries.push(i * trace.tickMs);
    inside = now;
  }
  return entries;
}

/** When each piece's middle first came into a zone along the belt before it left the belt, in ms; the earliest first. */
function piecesInto(trace: Trace, zone: ZoneOf): number[] {
  const holds = shapeTest(zone);
  return reportPieces(trace)
    .flatMap(({ piece, t = trace.endMs }): number[] => {
      const [x, y] = trace.course.patches[piece].at;
      const last = Math.min(trace.x.length, Math.ceil(t / trace.tickMs));
      for (let i = 0; i < last; i++) if (holds(x - trace.x[i], y)) return [i * trace.tickMs];
      return [];
    })
    .sort((a, b) => a - b);
}

const neverHitsSchema = z.strictObject({ neverHitsEnd: z.literal(true) });

/** The robot does not run into the end of its rail. */
export const neverHitsEnd: CheckKind<z.infer<typeof neverHitsSchema>> = {
  key: "neverHitsEnd",
  schema: neverHitsSchema,
  courses: ["rail"],
  word: "never hits the end",
  fresh: () => ({ neverHitsEnd: true }),
  parse(reader) {
    if (!reader.peekNext("never", "hits")) return undefined;
    for (const word of ["never", "hits", "the", "end"]) reader.take(word);
    return { neverHitsEnd: true };
  },
  print: () => "never hits the end",
  sentence: () => "Never hits the end",
  judge: (_, trace) =>
    trace.ending === "ran into the end"
      ? { outcome: "does not", figure: "1 time", t: trace.endMs, why: sentence(ended(trace)) }
      : { outcome: "holds", figure: "0 times", t: trace.endMs },
};

const shuttlesSchema = z.strictObject({
  shuttlesBetween: z.tuple([TargetIdSchema, TargetIdSchema]),
  times: Times,
  sensor: SensorIdSchema.optional(),
});

/** The robot goes from one target to another and back so often: there and back is once. */
export const shuttles: CheckKind<z.infer<typeof shuttlesSchema>> = {
  key: "shuttlesBetween",
  schema: shuttlesSchema,
  bySensor: true,
  courses: ["floor", "rail"],
  word: "shuttles between … and … times",
  fresh: ({ targets: [one, other] }) =>
    one === undefined || other === undefined ? undefined : { shuttlesBetween: [one, other], times: 1 },
  parse(reader) {
    if (!reader.skip("shuttles")) return undefined;
    reader.take("between");
    const one = reader.takeName("targets") as TargetId;
    reader.take("and");
    const other = reader.takeName("targets") as TargetId;
    const count = reader.takeCount("a number of times", MOST_TIMES);
    reader.take("times");
    return { shuttlesBetween: [one, other], times: count };
  },
  print: ({ shuttlesBetween: [one, other], times, sensor }) =>
    `${bySensor(sensor)}shuttles between ${one} and ${other} ${times} times`,
  sentence: ({ shuttlesBetween: [one, other], times: n, sensor }, name) =>
    `Shuttles between ${name(one)} and ${name(other)} ${times(n)}${toldBySensor(sensor, name)}`,
  named: ({ shuttlesBetween: [one, other], times, sensor }, visit) => ({
    ...visitedSensor(sensor, visit),
    shuttlesBetween: [visit("target", one, "shuttlesBetween"), visit("target", other, "shuttlesBetween")],
    times,
  }),
  judge({ shuttlesBetween: [one, other], times: wanted, sensor }, trace, name) {
    // Each change from one to the other is half of a way there and back.
    let last: TargetId | undefined;
    const ways: number[] = [];
    for (const { t, target } of arrivalsAt(trace, sensor)) {
      if (target !== one && target !== other) continue;
      if (last !== undefined && target !== last) ways.push(t);
      last = target;
    }
    const figure = `${Math.floor(ways.length / 2)}/${wanted}`;
    if (ways.length >= 2 * wanted) return { outcome: "holds", figure, t: ways[2 * wanted - 1] };
    const why = sentence(
      `it went between ${name(one)} and ${name(other)} ${ways.length} of ${2 * wanted} ways`,
      ended(trace),
    );
    return unmet(trace, figure, why);
  },
};
