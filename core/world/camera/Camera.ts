import { normalQuantile, sinCos } from "../../arithmetic";
import { displayToLinear, hexToRgb } from "../../colour";
import type { TargetId } from "../../names";
import type { CameraSensor, Light } from "../../readings";
import type { Target } from "../../rules";
import { type Frame, formOf, type PixelPlaces, placesIn } from "../../vision";
import type { Body } from "../body";
import { chance } from "../chance";
import type { DrawnCourse } from "../courses/DrawnCourse";
import { lampReturn, roomLeak } from "../optics";
import type { Mount } from "../robots";
import { type Thing, thingsOf } from "../trace";
import { Exposure, type PaintRun } from "./Exposure";
import { type Footprint, footprints, polygonIn } from "./footprint";
import { type TruthRun, truthRuns } from "./truth";
import { type Standpoint, View } from "./View";

/** What a pixel shows: the place of a thing among those of the course, or one of these. */
export const BARE_GROUND = -1;
/** The horizon, and the back of a sign. */
export const FAR_OFF = -2;

/** The id of the target that the horizon is, where a project has one. */
export const FAR_TARGET = "far";
/** The reflectance of the horizon where it has none. */
const FAR_PAINT = [0.2, 0.2, 0.2];
/** A card that is held before a camera is a square with sides of so many mm. */
const CARD_MM = 80;
/** Nearer than this to a camera nothing is drawn, in mm. */
const NEAREST_MM = 5;

/** Values of the standard normal distribution, each as likely as the others: a pixel's noise is one of them. */
const NOISE_BITS = 10;
const NORMAL = Float64Array.from({ length: 1 << NOISE_BITS }, (_, k) => normalQuantile((k + 0.5) / (1 << NOISE_BITS)));
const NOISE_MASK = (1 << NOISE_BITS) - 1;

/** A card held before the camera, by its place among the things of the course. */
export interface HeldBefore {
  thing: number;
  paint: ArrayLike<number>;
  /** In mm. */
  distance: number;
}

/** What lies where at the moment of a frame, beside the course. */
export interface Around {
  /** Patches that are there no more. */
  gone?: ReadonlySet<number>;
  card?: HeldBefore | undefined;
}

interface Board {
  thing: number;
  x: number;
  y: number;
  normal: { sin: number; cos: number };
  half: number;
  height: number;
}

/**
 * A camera on a course, in one light. Each frame is taken from a place: a row at a time, of which the floor's shapes and
 * the signs take stretches, each painted by the optics of any sensor with a fall-off toward the corners, noise and 8 bit.
 * The same seed and number give the same frame.
 */
export class Camera {
  readonly view: View;
  /** The frame that was taken last, as it comes over the wire; the next one overwrites it. */
  readonly frame: Frame;
  /** What each pixel of it shows, upright, row after row: its truth. */
  readonly shows: Int32Array<ArrayBuffer>;
  private readonly data: Uint8Array<ArrayBuffer>;
  private readonly places: PixelPlaces;
  /** For each row: how far ahead it looks, mm a px there, and what the lamp and the room give there; a row at or above the horizon has none. */
  private readonly ahead: Float64Array;
  private readonly perPx: Float64Array;
  private readonly lamp: Float64Array;
  private readonly room: Float64Array;
  /** The first row that looks at the floor, and the first behind the last that does. */
  private readonly floorFrom: number;
  private readonly floorTo: number;
  /** What is left of the light toward the corners, for each pixel. */
  private readonly fall: Float64Array;
  private readonly level: Float64Array;
  private readonly exposure: Exposure;
  private readonly shapes: readonly Footprint[];
  private readonly boards: readonly Board[];
  private readonly things: readonly Thing[];
  /** The target that the horizon is, where the project has one. */
  private readonly far: TargetId | undefined;
  private readonly paints: readonly ArrayLike<number>[];
  private readonly farPaint: ArrayLike<number>;
  private readonly groundPaint: ArrayLike<number>;
  /** Crossings of a row with the outline of a shape. */
  private readonly crossings = new Float64Array(512);
  private readonly middle: { column: number; row: number };
  /** The random bits of the pixel that was exposed last (xorshift, Marsaglia 2003). */
  private word = 1;

  constructor(
    private readonly sensor: CameraSensor,
    mount: Mount,
    private readonly light: Light,
    private readonly course: DrawnCourse,
    targets: readonly Target[],
    private readonly seed: number,
  ) {
    const { width, height } = sensor.frame;
    this.view = new View(sensor, mount);
    this.data = new Uint8Array(width * height * 3);
    this.frame = { width, height, channels: 3, data: this.data };
    this.places = placesIn(this.frame, formOf(sensor));
    this.shows = new Int32Array(width * height);
    this.middle = { column: (width - 1) / 2, row: (height - 1) / 2 };
    this.level = new Float64Array(width).fill(1);
    this.ahead = new Float64Array(height);
    this.perPx = new Float64Array(height);
    this.lamp = new Float64Array(height);
    this.room = new Float64Array(height);
    this.fall = new Float64Array(width * height);
    const { focal } = this.view;
    let [floorFrom, floorTo] = [height, 0];
    for (let row = height - 1; row >= 0; row--) {
      const v = (row - this.middle.row) / focal;
      for (let column = 0; column < width; column++) {
        const u = (column - this.middle.column) / focal;
        const slant = 1 + u * u + v * v;
        this.fall[row * width + column] = 1 / (slant * slant);
      }
      const floor = this.view.floorAt(v);
      if (floor === undefined) continue;
      floorFrom = row;
      floorTo = Math.max(floorTo, row + 1);
      this.ahead[row] = floor.ahead;
      this.perPx[row] = floor.perPx;
      [this.lamp[row], this.room[row]] = this.litAt(floor.distance);
    }
    this.exposure = new Exposure(sensor, this.fall);
    this.floorFrom = floorFrom;
    this.floorTo = Math.max(floorFrom, floorTo);
    const paintOf = (id: string) => {
      const paint = targets.find((t) => t.id === id)?.paint;
      return paint === undefined ? undefined : Float64Array.from(hexToRgb(paint), displayToLinear);
    };
    this.shapes = footprints(course);
    this.things = thingsOf(course);
    this.far = targets.find(({ id }) => id === FAR_TARGET)?.id;
    this.paints = this.things.map(({ target }) => paintOf(target) ?? FAR_PAINT);
    this.groundPaint = paintOf(course.ground) ?? FAR_PAINT;
    this.farPaint = paintOf(FAR_TARGET) ?? FAR_PAINT;
    this.boards = boardsOf(course);
  }

  /** The shares of the sensor's own lamp and of the room's light that come back from so many mm. */
  private litAt(distance: number): [lamp: number, room: number] {
    const { optics } = this.sensor;
    return [lampReturn(distance, optics), this.light.level * roomLeak(distance, optics.leakPerMm)];
  }

  /** The target of what a pixel shows; undefined where it is none. */
  targetOf(thing: number): TargetId | undefined {
    if (thing >= 0) return this.things[thing].target;
    return thing === BARE_GROUND ? this.course.ground : this.far;
  }

  /** What is in truth on the frame that was taken last, as runs of pixels. */
  get truth(): TruthRun[] {
    return truthRuns(this.shows, this.frame.width, (thing) => this.targetOf(thing));
  }

  /** Takes frame `number` from where a body stands. */
  take(body: Pick<Body, "x" | "y" | "sin" | "cos">, number: number, { gone, card }: Around = {}): Frame {
    const at = this.view.from(body);
    const { width } = this.frame;
    this.shows.fill(FAR_OFF);
    this.shows.fill(BARE_GROUND, this.floorFrom * width, this.floorTo * width);
    for (const shape of this.shapes) if (gone === undefined || !gone.has(shape.thing)) this.lay(shape, at);
    const distances = this.stand(at);
    if (card !== undefined) this.hold(card, distances);
    this.expose(at, number, distances);
    return this.frame;
  }

  /** Lays a shape of the floor over the rows that it reaches. */
  private lay(shape: Footprint, at: Standpoint): void {
    const { x, y, reach } = shape;
    const east = x - at.x;
    const north = y - at.y;
    const ahead = east * at.cos + north * at.sin;
    const { view, middle, floorFrom, floorTo } = this;
    const first = Math.max(floorFrom, Math.ceil(view.rowOf(ahead + reach) * view.focal + middle.row));
    const last = Math.min(floorTo - 1, Math.floor(view.rowOf(ahead - reach) * view.focal + middle.row));
    if (first > last) return;
    // Wholly to the left or to the right of what the rows see.
    const left = north * at.cos - east * at.sin;
    const widest = Math.max(this.perPx[first], this.perPx[last]) * (middle.column + 1);
    if (left - reach > widest || left + reach < -widest) return;
    shape.turnTo(at);
    for (let row = first; row <= last; row++) this.layRow(shape, row);
  }

  private layRow(shape: Footprint, row: number): void {
    const { crossings, middle } = this;
    const ahead = this.ahead[row];
    const perPx = this.perPx[row];
    const base = row * this.frame.width;
    const found = shape.crossings(ahead, crossings);
    for (let k = 0; k + 1 < found; k += 2)
      this.paint(base, middle.column - crossings[k + 1] / perPx, middle.column - crossings[k] / perPx, shape.thing);
  }

  /** Marks the pixels of a row whose middles lie from one column to another. */
  private paint(base: number, from: number, to: number, thing: number): void {
    const first = Math.max(0, Math.ceil(from));
    const last = Math.min(this.frame.width - 1, Math.floor(to));
    if (first <= last) this.shows.fill(thing, base + first, base + last + 1);
  }

  /** Stands the signs up, the farthest first; gives how far each thing of them is, in mm. */
  private stand(at: Standpoint): Map<number, number> {
    const distances = new Map<number, number>();
    const standing = this.boards
      .map((board) => {
        const east = board.x - at.x;
        const north = board.y - at.y;
        return { board, east, north, distance: Math.sqrt(east * east + north * north + this.view.z ** 2) };
      })
      .sort((a, b) => b.distance - a.distance);
    for (const { board, east, north, distance } of standing) {
      const { normal, half, height } = board;
      const ahead = east * at.cos + north * at.sin;
      const left = north * at.cos - east * at.sin;
      // Along the board, as the camera has ahead and left.
      const along = normal.cos * at.sin - normal.sin * at.cos;
      const aside = normal.cos * at.cos + normal.sin * at.sin;
      const corner = (side: number, up: number) =>
        this.view.sight(ahead + side * half * along, left + side * half * aside, up);
      const corners = [corner(-1, 0), corner(1, 0), corner(1, height), corner(-1, height)];
      const faces = east * normal.cos + north * normal.sin < 0;
      distances.set(board.thing, distance);
      this.paintPolygon(corners, faces ? board.thing : FAR_OFF);
    }
    return distances;
  }

  /** Marks the pixels within an outline, whose corners are given as they are seen. */
  private paintPolygon(corners: readonly (readonly [number, number, number])[], thing: number): void {
    const { view, middle, crossings } = this;
    const seen = polygonIn(corners, NEAREST_MM).map(([depth, across, down]): [number, number] => [
      middle.column + (across / depth) * view.focal,
      middle.row + (down / depth) * view.focal,
    ]);
    if (seen.length < 3) return;
    const rows = seen.map(([, row]) => row);
    const first = Math.max(0, Math.ceil(Math.min(...rows)));
    const last = Math.min(this.frame.height - 1, Math.floor(Math.max(...rows)));
    for (let row = first; row <= last; row++) {
      let found = 0;
      for (let i = 0, j = seen.length - 1; i < seen.length; j = i++) {
        const [c, r] = seen[i];
        const [d, s] = seen[j];
        if (r > row !== s > row) crossings[found++] = c + ((row - r) / (s - r)) * (d - c);
      }
      if (found < 2) continue;
      const [from, to] = crossings[0] < crossings[1] ? crossings : [crossings[1], crossings[0]];
      this.paint(row * this.frame.width, from, to, thing);
    }
  }

  /** Holds a card before the middle. */
  private hold({ thing, distance }: HeldBefore, distances: Map<number, number>): void {
    const { middle, view } = this;
    const half = ((CARD_MM / 2) * view.focal) / distance;
    const first = Math.max(0, Math.ceil(middle.row - half));
    const last = Math.min(this.frame.height - 1, Math.floor(middle.row + half));
    for (let row = first; row <= last; row++)
      this.paint(row * this.frame.width, middle.column - half, middle.column + half, thing);
    distances.set(thing, distance);
  }

  /** Works out how strong the room's light is along a row, where a course has shade. Says whether it is the same all along. */
  private shadeRow(at: Standpoint, row: number): boolean {
    const { level, middle } = this;
    level.fill(1);
    if (row < this.floorFrom || row >= this.floorTo) return true;
    const ahead = this.ahead[row];
    const perPx = this.perPx[row];
    const [x, y] = [at.x + ahead * at.cos, at.y + ahead * at.sin];
    let same = true;
    for (const { from, to, level: here } of this.course.shade) {
      // Where the row's line on the floor runs within the rectangle, as mm to the left of its middle.
      let [low, high] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
      const clip = (start: number, slope: number, one: number, other: number) => {
        const [least, most] = one < other ? [one, other] : [other, one];
        if (slope === 0) {
          if (start < least || start > most) high = Number.NEGATIVE_INFINITY;
          return;
        }
        const [a, b] = [(least - start) / slope, (most - start) / slope];
        low = Math.max(low, Math.min(a, b));
        high = Math.min(high, Math.max(a, b));
      };
      clip(x, -at.sin, from[0], to[0]);
      clip(y, at.cos, from[1], to[1]);
      const first = Math.max(0, Math.ceil(middle.column - high / perPx));
      const last = Math.min(level.length - 1, Math.floor(middle.column - low / perPx));
      for (let column = first; column <= last; column++) level[column] *= here;
      if (first <= last) same = false;
    }
    return same;
  }

  /** Turns what each pixel shows into light, noise and bytes. */
  private expose(at: Standpoint, number: number, distances: ReadonlyMap<number, number>): void {
    const { shows, level, sensor, floorFrom, floorTo } = this;
    const { width, height } = this.frame;
    const shaded = this.course.shade.length > 0;
    const { lampRgb } = sensor.optics;
    const { rgb } = this.light;
    const [farLamp, farRoom] = this.litAt(FAR_MM);
    this.word = firstWord(this.seed, sensor.id, number);
    const runs: PaintRun[] = [];
    for (let row = 0; row < height; row++) {
      const start = row * width;
      const same = !shaded || this.shadeRow(at, row);
      for (let column = 0; column < width; ) {
        const thing = shows[start + column];
        const from = column;
        while (column < width && shows[start + column] === thing && (same || level[column] === level[from])) column++;
        let [lamp, room] = [this.lamp[row], this.room[row]];
        const away = thing >= 0 ? distances.get(thing) : undefined;
        if (away !== undefined) [lamp, room] = this.litAt(away);
        else if (thing === FAR_OFF || row < floorFrom || row >= floorTo) [lamp, room] = [farLamp, farRoom];
        else if (!same) room *= level[from];
        const paint = thing >= 0 ? this.paints[thing] : thing === BARE_GROUND ? this.groundPaint : this.farPaint;
        const lit = (c: number) => sensor.optics.gain[c] * paint[c] * (lampRgb[c] * lamp + rgb[c] * room);
        runs.push({ row, from, to: column, k: [lit(0), lit(1), lit(2)] });
      }
    }
    const by = this.exposure.of(runs);
    for (const run of runs) this.exposeRun(run, by);
  }

  /** The bytes of pixels of one paint in one light, exposed so many times as long. */
  private exposeRun({ row, from, to, k }: PaintRun, by: number): void {
    const { data, places, fall, sensor } = this;
    const { bytes } = this.exposure;
    const levels = bytes.length - 1;
    const { gain, glare, read, shot } = sensor.optics;
    const [kr, kg, kb] = [k[0] * by, k[1] * by, k[2] * by];
    const [gr, gg, gb] = [gain[0] * glare[0], gain[1] * glare[1], gain[2] * glare[2]];
    const [readSquare, shotSquare] = [read * read, shot * shot];
    const { red, green, blue } = places;
    const base = row * this.frame.width;
    let at = places.rowStart(row) + from * 3;
    let { word } = this;
    for (let column = from; column < to; column++) {
      word ^= word << 13;
      word ^= word >>> 17;
      word ^= word << 5;
      const share = fall[base + column];
      const r = kr * share + gr;
      const g = kg * share + gg;
      const b = kb * share + gb;
      const rn = r + Math.sqrt(readSquare + shotSquare * r) * NORMAL[(word >>> 2) & NOISE_MASK];
      const gn = g + Math.sqrt(readSquare + shotSquare * g) * NORMAL[(word >>> 12) & NOISE_MASK];
      const bn = b + Math.sqrt(readSquare + shotSquare * b) * NORMAL[(word >>> 22) & NOISE_MASK];
      data[at + red] = bytes[rn <= 0 ? 0 : rn >= 1 ? levels : (rn * levels + 0.5) | 0];
      data[at + green] = bytes[gn <= 0 ? 0 : gn >= 1 ? levels : (gn * levels + 0.5) | 0];
      data[at + blue] = bytes[bn <= 0 ? 0 : bn >= 1 ? levels : (bn * levels + 0.5) | 0];
      at += 3;
    }
    this.word = word;
  }
}

/** How far away the horizon is, in mm: no lamp reaches it, all of the room's light comes from it. */
const FAR_MM = 1e9;

/** The noise of one frame begins with: a word of 32 random bits, never 0, from which each pixel makes its own. */
const firstWord = (seed: number, sensor: string, number: number): number =>
  Math.floor(chance(seed, `frame ${number} of ${sensor}`).uniform() * 4294967296) | 1;

function boardsOf({ patches, signs }: DrawnCourse): Board[] {
  return signs.map(({ at, angle, width, height }, i) => ({
    thing: patches.length + i,
    x: at[0],
    y: at[1],
    normal: sinCos(angle),
    half: width / 2,
    height,
  }));
}
