import * as z from "zod";
import { type CourseId, Name, numbered, type TargetId, TargetIdSchema, ThingIdSchema } from "../../names";
import { type Chance, chance } from "../chance";
import { bareCourse } from "./bareCourse";
import type { CourseKind } from "./CourseKind";
import type { DrawnCourse } from "./DrawnCourse";
import { onAnyCourse } from "./parts";
import { Line, Painted, Patch, Sign } from "./shapes";

const Positive = z.number().positive();

/** A run on a belt that never gets rid of its pieces is ended after this long, and kept. */
const BELT_LIMIT_MS = 300_000;
/** More pieces than this nobody lays. */
const MOST_PIECES = 1000;
/** Farther behind the belt's start no piece can lie, in mm. */
const LONGEST = 200_000;

/**
 * The pieces that come along the belt, the first one first: each named, or drawn by shares. Their middles follow each
 * other every so many mm, each up to `jitterMm` off its place and `offsetMm` off the belt's middle.
 */
export const Pieces = z.strictObject({
  order: z.union([
    z.array(Painted).max(MOST_PIECES),
    z.strictObject({
      draw: z
        .array(z.strictObject({ target: TargetIdSchema, weight: Positive.max(1000) }))
        .min(1)
        .max(20),
      count: z.number().int().min(1).max(MOST_PIECES),
    }),
  ]),
  every: Positive.max(10_000),
  jitterMm: z.number().min(0).max(5000),
  size: z.union([
    z.strictObject({ disc: Positive.max(1000) }),
    z.strictObject({ rect: z.tuple([Positive.max(1000), Positive.max(1000)]) }),
  ]),
  offsetMm: z.number().min(0).max(1000),
});
export type Pieces = z.infer<typeof Pieces>;

/** A belt: `size` is its length and its width. */
export const BeltCourse = z
  .strictObject({
    ...onAnyCourse,
    kind: z.literal("belt"),
    patches: z.array(Patch).max(0, "a belt has no patches").default([]),
    lines: z.array(Line).max(0, "a belt has no lines").default([]),
    signs: z.array(Sign).max(0, "a belt has no signs").default([]),
    pieces: Pieces,
    starts: z.array(z.strictObject({ id: ThingIdSchema, name: Name })).length(1),
  })
  .superRefine(({ pieces }, context) => {
    const long = countOf(pieces) * pieces.every;
    if (long > LONGEST)
      context.addIssue({
        code: "custom",
        path: ["pieces", "every"],
        message: `the pieces reach ${Math.round(long / 1000)} m back; a belt is fed from at most ${LONGEST / 1000} m`,
      });
  });
export type BeltCourse = z.infer<typeof BeltCourse>;

/** How many pieces come. */
export const countOf = ({ order }: Pieces): number => (Array.isArray(order) ? order.length : order.count);

/** How long a piece is along the belt, in mm. */
export const lengthOf = ({ size }: Pick<Pieces, "size">): number => ("disc" in size ? size.disc : size.rect[0]);

/** The least and the greatest gap between the edges of two pieces that follow each other, in mm. */
export const leastGap = ({ every, jitterMm, size }: Pieces): number =>
  Math.max(0, every - 2 * jitterMm - lengthOf({ size }));

/** A belt for a sorter. */
export const belt: CourseKind<BeltCourse> = {
  key: "belt",
  schema: BeltCourse,
  fresh: (id: CourseId, name: string, ground: TargetId) => ({
    ...bareCourse(id, name, ground),
    kind: "belt",
    size: [1200, 120],
    pieces: { order: [], every: 150, jitterMm: 10, size: { disc: 50 }, offsetMm: 4 },
    starts: numbered("start", [{ name: "Feed" }]),
  }),
  limitMs: () => BELT_LIMIT_MS,
  // The belt's own place is that of its start, so that what is laid onto it lies behind that.
  begins: ({ size }) => ({ x: 0, y: size[1] / 2, heading: 0 }),
  lays: ({ pieces, size }, draw, seed) => ({ patches: laidPieces(pieces, size[1] / 2, draw, seed), lines: [] }),
  repainted(course, visit) {
    const { order } = course.pieces;
    const made = Array.isArray(order)
      ? order.map((target, i) => visit(target, "pieces", "order", i))
      : {
          ...order,
          draw: order.draw.map((share, i) => ({
            ...share,
            target: visit(share.target, "pieces", "order", "draw", i, "target"),
          })),
        };
    return { ...course, pieces: { ...course.pieces, order: made } };
  },
  own: { part: "pieces", one: "piece", count: ({ pieces }) => countOf(pieces) },
  ends: (_, { empty }) => (empty ? "the belt is empty" : undefined),
  hasFloor: false,
  ownSize: true,
  parts: ["zones", "shade", "cards", "presses"],
  axes: ["light", "speed", "height", "noise"],
};

type BeltPatch = DrawnCourse["patches"][number];

/** Every piece where it lies when a run begins; without a seed each at its place, with all that it may be painted with. */
function laidPieces(
  pieces: Pieces,
  middle: number,
  draw: Parameters<NonNullable<CourseKind["lays"]>>[1],
  seed?: number,
): BeltPatch[] {
  const { order, every, jitterMm, size, offsetMm } = pieces;
  const long = lengthOf(pieces);
  const painted = Array.isArray(order)
    ? order.map((target) => ({ target })).map(draw<{ target: Painted }>("piece"))
    : drawnByShares(order, seed).map((target) => ({ target: target as TargetId }));
  let last = Number.POSITIVE_INFINITY;
  return painted.map(({ target }, i) => {
    const own: Chance | undefined = seed === undefined ? undefined : chance(seed, `place of piece ${i}`);
    const off = (most: number) => (own === undefined ? 0 : most * (2 * own.uniform() - 1));
    // Two pieces never lie on each other.
    const x = Math.min(-i * every - long / 2 + off(jitterMm), last - long);
    last = x;
    return { as: "piece", shape: size, target, at: [x, middle + off(offsetMm)], angle: 0 };
  });
}

/** Each piece's target, drawn by shares; without a seed each is all that may come. */
function drawnByShares({ draw, count }: Exclude<Pieces["order"], unknown[]>, seed?: number): Painted[] {
  const all = draw.map(({ target }) => target);
  if (seed === undefined) return Array(count).fill(all.length === 1 ? all[0] : { oneOf: all });
  const sum = draw.reduce((total, { weight }) => total + weight, 0);
  return Array.from({ length: count }, (_, i) => {
    let at = chance(seed, `piece ${i}`).uniform() * sum;
    for (const { target, weight } of draw) {
      if (at < weight) return target;
      at -= weight;
    }
    return draw[0].target;
  });
}
