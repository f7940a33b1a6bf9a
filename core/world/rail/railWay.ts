import { sinCos } from "../../arithmetic";

/** One piece of a rail: so many mm straight on, or a bend by so many degrees (left positive) of a radius in mm. */
export type RailPiece = { straight: number } | { arc: number; radius: number };

/** A rail: where it begins, in which direction, and its pieces one after the other. */
export interface Rail {
  from: readonly [number, number];
  /** Degrees counter-clockwise from east. */
  heading: number;
  /** Whether its end meets its beginning. */
  closed: boolean;
  way: readonly RailPiece[];
}

/** A place on a rail: mm from its beginning to where, in mm, and in which direction it leads there. */
export interface OnRail {
  x: number;
  y: number;
  heading: number;
  sin: number;
  cos: number;
}

/** How long a piece is, in mm. */
export const lengthOf = (piece: RailPiece): number =>
  "straight" in piece ? piece.straight : Math.abs(piece.arc) * DEGREE * piece.radius;

export const DEGREE = Math.PI / 180;

/** A piece with where it lies along the rail, in mm, and the place where it begins. */
export interface LaidPiece {
  piece: RailPiece;
  from: number;
  to: number;
  start: OnRail;
}

/** A rail made ready to be asked where a way along it leads. */
export class RailWay {
  readonly length: number;
  readonly closed: boolean;
  /** Where the last piece ends. */
  readonly end: OnRail;
  readonly pieces: readonly LaidPiece[];
  /** The piece that was asked for last: one mostly asks about the same one again. */
  private last = 0;

  /** @param rail with at least one piece */
  constructor({ from, heading, closed, way }: Rail) {
    let at: OnRail = { x: from[0], y: from[1], heading, ...sinCos(heading) };
    let length = 0;
    const pieces: LaidPiece[] = [];
    for (const piece of way) {
      const to = length + lengthOf(piece);
      pieces.push({ piece, from: length, to, start: at });
      at = along(at, piece, to - length);
      length = to;
    }
    this.pieces = pieces;
    this.length = length;
    this.closed = closed;
    this.end = at;
  }

  /** The place so many mm from the beginning; a closed rail goes on around, an open one straight on beyond its ends. */
  at(mm: number): OnRail {
    const { length, pieces } = this;
    const way = this.wrapped(mm);
    let i = this.last;
    while (i > 0 && way < pieces[i].from) i--;
    while (i < pieces.length - 1 && way > pieces[i].to) i++;
    this.last = i;
    const { piece, from, start } = pieces[i];
    if (way > pieces[i].to) return along(this.end, STRAIGHT, way - length);
    return way < 0 ? along(start, STRAIGHT, way) : along(start, piece, way - from);
  }

  /** The piece on which all from `half` mm before a place to `half` mm behind it lies; undefined where none does. */
  pieceAround(mm: number, half: number): LaidPiece | undefined {
    const way = this.wrapped(mm);
    return this.pieces.find(({ from, to }) => way - half >= from && way + half <= to);
  }

  /** The same place as mm from the beginning, without the rounds of a closed rail. */
  wrapped(mm: number): number {
    if (!this.closed) return mm;
    const way = mm % this.length;
    return way < 0 ? way + this.length : way;
  }

  /** The pieces that bend, with where they lie along the rail and their radius in mm. */
  get bends(): readonly { from: number; to: number; radius: number; left: boolean }[] {
    return this.pieces.flatMap(({ piece, from, to }) =>
      "arc" in piece ? [{ from, to, radius: piece.radius, left: piece.arc > 0 }] : [],
    );
  }
}

const STRAIGHT: RailPiece = { straight: 0 };

/** So many mm along a piece from where it begins. */
function along(start: OnRail, piece: RailPiece, mm: number): OnRail {
  if ("straight" in piece) return { ...start, x: start.x + mm * start.cos, y: start.y + mm * start.sin };
  const side = piece.arc < 0 ? -1 : 1;
  const heading = start.heading + (side * mm) / (piece.radius * DEGREE);
  const turned = sinCos(heading);
  // Around the bend's middle, which lies a radius to the side.
  return {
    x: start.x + side * piece.radius * (turned.sin - start.sin),
    y: start.y - side * piece.radius * (turned.cos - start.cos),
    heading,
    ...turned,
  };
}

/** How far a rail's end is from its beginning, in mm, and by how many degrees it leads elsewhere, −180..180. */
export function railGap(rail: Rail): { mm: number; degrees: number } {
  const { end } = new RailWay(rail);
  const [x, y] = rail.from;
  return { mm: Math.sqrt((end.x - x) ** 2 + (end.y - y) ** 2), degrees: turnBetween(rail.heading, end.heading) };
}

/** The turn from one direction to another by the shorter way, −180..180 degrees. */
export const turnBetween = (from: number, to: number): number => ((((to - from + 180) % 360) + 360) % 360) - 180;

/** A closed rail has to close to within this. */
export const MOST_GAP = { mm: 1, degrees: 0.1 };

/** Whether a rail's end meets its beginning. */
export function meetsItself(rail: Rail): boolean {
  const { mm, degrees } = railGap(rail);
  return mm <= MOST_GAP.mm && Math.abs(degrees) <= MOST_GAP.degrees;
}

/**
 * How far the middle between two bogies lies inside a bend, in mm: bogies `bogieMm` apart both run on a rail of radius
 * `radius`, and the body is the chord between them: R − √(R² − (b/2)²).
 */
export const chordInside = (radius: number, bogieMm: number): number =>
  radius - Math.sqrt(radius * radius - (bogieMm / 2) ** 2);
