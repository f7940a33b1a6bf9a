import { sinCos } from "../../arithmetic";

/** One section of a rail: so many mm straight on, or a bend by so many degrees (left positive) of a radius in mm. */
export type RailSection = { straight: number } | { arc: number; radius: number };

/** A rail: where it begins, in which direction, and its sections one after the other. */
export interface Rail {
  from: readonly [number, number];
  /** Degrees counter-clockwise from east. */
  heading: number;
  /** Whether its end meets its beginning. */
  closed: boolean;
  way: readonly RailSection[];
}

/** A place on a rail: mm from its beginning to where, in mm, and in which direction it leads there. */
export interface OnRail {
  x: number;
  y: number;
  heading: number;
  sin: number;
  cos: number;
}

/** How long a section is, in mm. */
export const lengthOf = (section: RailSection): number =>
  "straight" in section ? section.straight : Math.abs(section.arc) * DEGREE * section.radius;

export const DEGREE = Math.PI / 180;

/** A section with where it lies along the rail, in mm, and the place where it begins. */
export interface LaidPiece {
  section: RailSection;
  from: number;
  to: number;
  start: OnRail;
}

/** A rail made ready to be asked where a way along it leads. */
export class RailWay {
  readonly length: number;
  readonly closed: boolean;
  /** Where the last section ends. */
  readonly end: OnRail;
  readonly sections: readonly LaidPiece[];
  /** The section that was asked for last: one mostly asks about the same one again. */
  private last = 0;

  /** @param rail with at least one section */
  constructor({ from, heading, closed, way }: Rail) {
    let at: OnRail = { x: from[0], y: from[1], heading, ...sinCos(heading) };
    let length = 0;
    const sections: LaidPiece[] = [];
    for (const section of way) {
      const to = length + lengthOf(section);
      sections.push({ section, from: length, to, start: at });
      at = along(at, section, to - length);
      length = to;
    }
    this.sections = sections;
    this.length = length;
    this.closed = closed;
    this.end = at;
  }

  /** The place so many mm from the beginning; a closed rail goes on around, an open one straight on beyond its ends. */
  at(mm: number): OnRail {
    const { length, sections } = this;
    const way = this.wrapped(mm);
    let i = this.last;
    while (i > 0 && way < sections[i].from) i--;
    while (i < sections.length - 1 && way > sections[i].to) i++;
    this.last = i;
    const { section, from, start } = sections[i];
    if (way > sections[i].to) return along(this.end, STRAIGHT, way - length);
    return way < 0 ? along(start, STRAIGHT, way) : along(start, section, way - from);
  }

  /** The section on which all from `half` mm before a place to `half` mm behind it lies; undefined where none does. */
  sectionAround(mm: number, half: number): LaidPiece | undefined {
    const way = this.wrapped(mm);
    return this.sections.find(({ from, to }) => way - half >= from && way + half <= to);
  }

  /** The same place as mm from the beginning, without the rounds of a closed rail. */
  wrapped(mm: number): number {
    if (!this.closed) return mm;
    const way = mm % this.length;
    return way < 0 ? way + this.length : way;
  }

  /** The sections that bend, with where they lie along the rail and their radius in mm. */
  get bends(): readonly { from: number; to: number; radius: number; left: boolean }[] {
    return this.sections.flatMap(({ section, from, to }) =>
      "arc" in section ? [{ from, to, radius: section.radius, left: section.arc > 0 }] : [],
    );
  }
}

const STRAIGHT: RailSection = { straight: 0 };

/** So many mm along a section from where it begins. */
function along(start: OnRail, section: RailSection, mm: number): OnRail {
  if ("straight" in section) return { ...start, x: start.x + mm * start.cos, y: start.y + mm * start.sin };
  const side = section.arc < 0 ? -1 : 1;
  const heading = start.heading + (side * mm) / (section.radius * DEGREE);
  const turned = sinCos(heading);
  // Around the bend's middle, which lies a radius to the side.
  return {
    x: start.x + side * section.radius * (turned.sin - start.sin),
    y: start.y - side * section.radius * (turned.cos - start.cos),
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
