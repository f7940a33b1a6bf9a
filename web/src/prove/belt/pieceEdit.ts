import type { TargetId } from "@perceptum/core/names";
import { type BeltCourse, countOf, type Painted, type Pieces, paintsOf } from "@perceptum/core/world";

const withOrder = (course: BeltCourse, order: Pieces["order"]): BeltCourse => ({
  ...course,
  pieces: { ...course.pieces, order },
});

/** The pieces one by one; drawn by shares there is no such row. */
export const rowOf = ({ pieces: { order } }: BeltCourse): readonly Painted[] | null =>
  Array.isArray(order) ? order : null;

/** The course with another piece behind one of the row, or at its end. */
export function pieceAdded(
  course: BeltCourse,
  target: TargetId,
  after: number | null,
): { course: BeltCourse; at: number } {
  const row = rowOf(course) ?? [];
  const at = after === null ? row.length : after + 1;
  return { course: withOrder(course, row.toSpliced(at, 0, target)), at };
}

/** The course without one piece of its row. */
export const pieceRemoved = (course: BeltCourse, at: number): BeltCourse =>
  withOrder(course, (rowOf(course) ?? []).toSpliced(at, 1));

/** The course with one piece of its row somewhere else in it. */
export function pieceMoved(course: BeltCourse, from: number, to: number): BeltCourse {
  const row = [...(rowOf(course) ?? [])];
  const [piece] = row.splice(from, 1);
  return piece === undefined
    ? course
    : withOrder(course, row.toSpliced(Math.max(0, Math.min(row.length, to)), 0, piece));
}

export const pieceRepainted = (course: BeltCourse, at: number, paint: Painted): BeltCourse =>
  withOrder(
    course,
    (rowOf(course) ?? []).map((piece, i) => (i === at ? paint : piece)),
  );

/** How many pieces are drawn where none came one by one. */
const USUAL = 20;

/** The course with its pieces drawn by shares: of each target in the row as often as it stood there. */
export function byShares(course: BeltCourse, first: TargetId): BeltCourse {
  const row = rowOf(course);
  if (row === null) return course;
  const weights = new Map<TargetId, number>();
  for (const piece of row) {
    const [target] = paintsOf(piece);
    weights.set(target, (weights.get(target) ?? 0) + 1);
  }
  if (weights.size === 0) weights.set(first, 1);
  const draw = [...weights].map(([target, weight]) => ({ target, weight }));
  return withOrder(course, { draw, count: countOf(course.pieces) || USUAL });
}

/** The course with its pieces one by one: as many of each in turn as the shares say. */
export function inOrder(course: BeltCourse): BeltCourse {
  const { order } = course.pieces;
  if (Array.isArray(order)) return course;
  const sum = order.draw.reduce((total, { weight }) => total + weight, 0);
  const row: TargetId[] = [];
  const given = order.draw.map(() => 0);
  // Each place goes to what is farthest behind its share.
  for (let i = 0; i < order.count; i++) {
    const behind = order.draw.map(({ weight }, k) => (weight / sum) * (i + 1) - given[k]);
    const k = behind.indexOf(Math.max(...behind));
    given[k]++;
    row.push(order.draw[k].target);
  }
  return withOrder(course, row);
}
