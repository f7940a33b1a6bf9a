import { sinCos } from "../arithmetic";
import type { EngineState, Program } from "../behaviour";
import { displayToLinear, hexToRgb } from "../colour";
import type { TargetId } from "../names";
import { cutReadings, type Raw, REPORT_KINDS } from "../readings";
import type { Target } from "../rules";
import type { Body } from "./body";
import { type Chance, chance } from "./chance";
import type { DrawnCourse } from "./courses/DrawnCourse";
import { type Floor, GROUND, type Surface } from "./floor";
import { heldAtMm } from "./heldCards";
import { longer } from "./longer";
import type { SensorOptics } from "./optics";
import type { Recorder } from "./Recorder";
import { looksAhead, type Mount } from "./robots";
import { SIGHT_MM, type Signs } from "./sight";
import { type Answer, type EyeTrace, type Passage, type Thing, thingsOf } from "./trace";

/** The world that a sensor looks at. */
export interface SensedWorld {
  course: DrawnCourse;
  floor: Floor;
  signs: Signs;
  targets: readonly Target[];
  seed: number;
  tickMs: number;
  ticks: number;
}

/** A card while it is held before a sensor. */
interface HeldCard {
  surface: Surface;
  from: number;
  to: number;
  height: number;
  paint: Float64Array;
}

/** Things that a spot touched, with how much of it lay on each. */
type Touched = { surface: Surface; share: number }[];

function addTo(touched: Touched, surface: Surface, share: number): void {
  const known = touched.find((x) => x.surface === surface);
  if (known === undefined) touched.push({ surface, share });
  else known.share += share;
}

/** The surface with the largest share among those that are fit; undefined where none is. */
function largest(touched: Touched, fit: (surface: Surface) => boolean = () => true): Surface | undefined {
  let best: Touched[number] | undefined;
  for (const x of touched) if (fit(x.surface) && (best === undefined || x.share > best.share)) best = x;
  return best?.surface;
}

/** In the place of a surface: the spot lay on an edge in that reading. */
const EDGE: Surface = Number.MIN_SAFE_INTEGER + 2;

/** Room for so many readings to begin with. */
const FIRST_READINGS = 1024;

/** Degrees from straight ahead. */
const SIDEWAYS = { left: 90, right: -90, ahead: 0 } as const;

/** One sensor in a run: looks at the world at its own period, and keeps what it read and what was in truth there. */
export class EyeRecorder implements Recorder {
  private trace: EyeTrace;
  readonly passages: Passage[] = [];
  /** What lay under the whole spot in each reading, or `EDGE`: what it touched then stands in `edges`. */
  private readonly lay: Surface[] = [];
  private readonly edges = new Map<number, Touched>();
  /** What the reading being taken has touched so far: one surface alone, or several. */
  private only: Surface = EDGE;
  private several: Touched | null = null;
  /** The reading from which on the visit touches what it is of. */
  private visitFrom = 0;
  private readonly sum = new Float64Array(3);
  private readonly reflectance = new Float64Array(3);
  private readonly signal = new Float64Array(3);
  private samples = 0;
  private labelled = { surface: Number.NaN, label: 0 };
  /** When the next reading is due; the first one at once. */
  private nextAt = 0;
  /** Light is gathered for it after this time, in ms: until then there is no need to look. */
  looksAfter = Number.NEGATIVE_INFINITY;
  private whole: Surface | undefined;
  /** What the signal was last worked out for, where all of the spot lay on it. */
  private lastWhole: Surface | undefined;
  private centre: Surface = GROUND;
  private n = 0;
  private readonly periodMs: number;
  private readonly integrationMs: number;
  private readonly spotMm: number;
  private readonly of: number;
  private columns: Float64Array<ArrayBuffer>[];
  private readonly things: readonly Thing[];
  private readonly firstSign: number;
  private readonly firstLine: number;
  private readonly cards: readonly HeldCard[];
  private readonly hand: Chance;
  private drift = 0;
  private nextCard = 0;
  /** Cards that were held up, the latest last. */
  private readonly held: HeldCard[] = [];
  private readonly shaded: boolean;
  /** How far ahead of its mount a tilted sensor looks, and how far away the floor is along its line of sight. */
  private readonly reach: number;
  private readonly distance: number;
  private readonly side: { sin: number; cos: number };

  constructor(
    private readonly mount: Mount,
    private readonly program: Program,
    readonly index: number,
    private readonly optics: SensorOptics,
    private readonly world: SensedWorld,
    private readonly noise: Chance,
  ) {
    const { sensor, ruleSet } = program.eyes[index];
    const { tickMs, ticks, course, seed } = world;
    // Readings come on ticks: a period that is no multiple of the tick is taken as the next one that is.
    this.periodMs = Math.max(tickMs, Math.ceil(sensor.periodMs / tickMs) * tickMs);
    this.integrationMs = sensor.optics.integrationMs;
    this.spotMm = sensor.optics.spotMm;
    this.of = ruleSet.steady.of;
    this.things = thingsOf(course);
    this.firstSign = course.patches.length;
    this.firstLine = course.patches.length + course.signs.length + course.cards.length;
    this.hand = chance(seed, `hand before ${sensor.id}`);
    this.cards = this.cardsFor(sensor.optics.bestMm);
    this.shaded = course.shade.length > 0;
    this.reach = looksAhead(mount);
    this.distance = mount.z / sinCos(mount.looks === "down" ? (mount.tilt ?? 0) : 0).cos;
    this.side = sinCos(mount.looks === "down" ? 0 : SIDEWAYS[mount.looks]);
    const most = Math.min(FIRST_READINGS, Math.floor((ticks * tickMs) / this.periodMs) + 1);
    const names = REPORT_KINDS.get(sensor.reports).channels;
    this.columns = names.map(() => new Float64Array(most));
    this.trace = {
      sensor: sensor.id,
      height: mount.z,
      readings: {
        t: new Float64Array(most),
        channels: Object.fromEntries(names.map((name, i) => [name, this.columns[i]])),
      },
      labels: new Uint8Array(most),
      seen: new Uint8Array(most),
      truth: new Uint8Array(most),
      ...(mount.looks === "down" && { spot: { ahead: mount.x + this.reach, left: mount.y, mm: this.spotMm } }),
    };
  }

  private cardsFor(bestMm: number): HeldCard[] {
    const { course, targets } = this.world;
    const first = course.patches.length + course.signs.length;
    const own = this.program.eyes[this.index].id;
    return course.cards
      .flatMap((card, i): HeldCard[] => {
        if ((card.sensor ?? this.program.eyes[0].id) !== own) return [];
        const paint = targets.find((t) => t.id === card.target)?.paint ?? "#000000";
        return [
          {
            surface: first + i,
            from: card.atMs,
            to: card.atMs + card.forMs,
            height: heldAtMm(course, i, this.world.seed, bestMm),
            paint: Float64Array.from(hexToRgb(paint), displayToLinear),
          },
        ];
      })
      .sort((a, b) => a.from - b.from);
  }

  /** The card that is held before the sensor: of several the one that was held up last, as long as it is held. */
  private cardAt(t: number): HeldCard | undefined {
    while (this.nextCard < this.cards.length && this.cards[this.nextCard].from <= t)
      this.held.push(this.cards[this.nextCard++]);
    for (;;) {
      const last = this.held.at(-1);
      if (last === undefined || last.to > t) return last;
      this.held.pop();
    }
  }

  /** Gathers light at a time t after `looksAfter`; a reading at the end of every period. */
  look(t: number, body: Body): Raw | undefined {
    const whole = this.gather(t, body);
    this.whole = this.samples === 0 || this.whole === whole ? whole : undefined;
    for (let c = 0; c < 3; c++) this.sum[c] += this.signal[c];
    this.samples++;
    if (t < this.nextAt) return undefined;
    if (this.several === null) this.lay.push(this.only);
    else {
      this.lay.push(EDGE);
      this.edges.set(this.n, this.several);
      this.several = null;
    }
    this.only = EDGE;
    this.nextAt += this.periodMs;
    this.looksAfter = this.nextAt - this.integrationMs;

    for (let c = 0; c < 3; c++) this.sum[c] /= this.samples;
    const raw = this.optics.measure(this.sum, this.noise);
    if (this.n === this.trace.readings.t.length) this.grow();
    const { readings, truth } = this.trace;
    readings.t[this.n] = t;
    for (let c = 0; c < this.columns.length; c++) this.columns[c][this.n] = raw[c];
    truth[this.n] = this.whole === undefined ? 0 : this.labelOf(this.whole);
    this.follow(t, this.centre);
    for (let c = 0; c < 3; c++) this.sum[c] = 0;
    this.samples = 0;
    this.n++;
    return raw;
  }

  get sensor() {
    return this.trace.sensor;
  }

  /** Twice the room for readings. */
  private grow(): void {
    const { readings, labels, seen, truth } = this.trace;
    this.columns = this.columns.map(longer);
    const names = Object.keys(readings.channels);
    this.trace = {
      ...this.trace,
      readings: {
        t: longer(readings.t),
        channels: Object.fromEntries(names.map((name, i) => [name, this.columns[i]])),
      },
      labels: longer(labels),
      seen: longer(seen),
      truth: longer(truth),
    };
  }

  /** The signal of this moment into `signal`; says what the whole spot lies on, undefined at an edge. */
  private gather(t: number, body: Body): Surface | undefined {
    const { mount, world } = this;
    const ahead = mount.x + this.reach;
    const x = body.x + ahead * body.cos - mount.y * body.sin;
    const y = body.y + ahead * body.sin + mount.y * body.cos;
    const level = this.shaded ? world.floor.levelAt(x + (body.rolled ?? 0), y) : 1;
    const card = this.cards.length > 0 ? this.cardAt(t) : undefined;
    if (card !== undefined) {
      // Drawn back to its height, so that the deviation stays the tremble.
      this.drift = 0.97 * this.drift + TREMBLING * world.course.held.trembleMm * this.hand.normal();
      this.optics.signal(card.paint, Math.max(0, card.height + this.drift), this.signal, level);
      this.lastWhole = undefined;
      this.centre = card.surface;
      this.touches(card.surface, 1);
      return card.surface;
    }
    if (mount.looks === "down") {
      const { floor } = world;
      const whole = floor.spotAt(x, y, this.spotMm, this.reflectance);
      // On one and the same thing, in the same light, there is nothing new to be worked out.
      if (whole === undefined || whole !== this.lastWhole || this.shaded)
        this.optics.signal(this.reflectance, this.distance, this.signal, level);
      this.lastWhole = whole;
      if (whole === undefined) {
        for (const { surface, points } of floor.touched) this.touches(this.thingOf(surface), points / 19);
        this.centre = this.thingOf(floor.touched[0].surface);
        return undefined;
      }
      this.centre = this.thingOf(whole);
      this.touches(this.centre, 1);
      return this.centre;
    }
    const { side } = this;
    const cos = body.cos * side.cos - body.sin * side.sin;
    const sin = body.sin * side.cos + body.cos * side.sin;
    const seen = world.signs.look(x, y, mount.z, cos, sin, this.spotMm);
    this.optics.signal(NO_LIGHT_BACK, SIGHT_MM, this.signal, level);
    this.centre = NOWHERE;
    let beside = 1;
    for (const { sign, distance, share } of seen) {
      this.optics.add(world.signs.paintOf(sign), share, distance, this.signal, level);
      if (share >= 0.5) this.centre = this.firstSign + sign;
      this.touches(this.firstSign + sign, share);
      beside -= share;
    }
    // Shares are whole points of the spot: what is left of rounding is nothing.
    if (beside > 1e-9) this.touches(NOWHERE, beside);
    return seen.length === 1 && seen[0].share === 1 ? this.firstSign + seen[0].sign : undefined;
  }

  /** Notes what one sample of the reading touches: mostly the same one thing with all of the spot. */
  private touches(surface: Surface, share: number): void {
    if (this.several === null) {
      if (share === 1 && (this.only === surface || this.only === EDGE)) {
        this.only = surface;
        return;
      }
      this.several = this.only === EDGE ? [] : [{ surface: this.only, share: this.samples }];
    }
    addTo(this.several, surface, share);
  }

  /** The place among the things of what lies on the floor: a line is one of them. */
  private thingOf(surface: Surface): Surface {
    return surface < 0 && surface !== GROUND ? this.firstLine - 1 - surface : surface;
  }

  /** Keeps passages: from the first reading whose centre is on a thing to the first that is off it. */
  private follow(t: number, surface: Surface): void {
    const last = this.passages.at(-1);
    const on = last !== undefined && last.left === undefined ? last.patch : undefined;
    if (on === surface) return;
    if (last !== undefined && on !== undefined) last.left = t;
    if (surface >= 0)
      this.passages.push({ patch: surface, target: this.things[surface].target, eye: this.index, entered: t });
  }

  /** Takes over what the engine made of the reading just taken. */
  learn(state: EngineState): void {
    this.trace.labels[this.n - 1] = state.labelOf(this.index);
    this.trace.seen[this.n - 1] = state.seenBy(this.index);
  }

  /** A visit begins: it is of what was touched from the first of the readings on that made the target arrive. */
  visitBegins(target: TargetId): void {
    const label = this.program.targets.indexOf(target) + 1;
    let first = Math.max(0, this.n - this.of);
    while (first < this.n - 1 && this.trace.labels[first] !== label) first++;
    this.visitFrom = first;
  }

  /** What readings touched, from one on to the last. */
  private touchedFrom(first: number): Touched {
    const touched: Touched = [];
    for (let k = first; k < this.n; k++) {
      if (this.lay[k] !== EDGE) addTo(touched, this.lay[k], 1);
      else {
        const several = this.edges.get(k) ?? [];
        const sum = several.reduce((all, x) => all + x.share, 0);
        for (const { surface, share } of several) addTo(touched, surface, share / sum);
      }
    }
    return touched;
  }

  answer(t: number, response: Answer["response"], target: TargetId): Answer {
    const touched = this.touchedFrom(this.visitFrom);
    const surface = largest(touched, (p) => this.targetOf(p) === target) ?? largest(touched) ?? NOWHERE;
    const truth = this.targetOf(surface);
    return {
      t,
      response,
      target,
      eye: this.index,
      ...(truth !== undefined && { truth }),
      ...(surface >= 0 && { patch: surface }),
    };
  }

  /** The label of the target that a surface is of, 0 for nothing; one asks mostly about the same surface as before. */
  private labelOf(surface: Surface): number {
    if (surface !== this.labelled.surface) {
      const target = this.targetOf(surface);
      this.labelled = { surface, label: target === undefined ? 0 : this.program.targets.indexOf(target) + 1 };
    }
    return this.labelled.label;
  }

  /** The targets under the spot at a time, the largest share first. To be asked once the run is over. */
  underAt(t: number, body: Body): { target: TargetId; share: number }[] {
    this.only = EDGE;
    this.several = null;
    this.samples = 1;
    this.gather(t, body);
    const touched: Touched = this.several ?? [{ surface: this.only, share: 1 }];
    return touched
      .sort((a, b) => b.share - a.share)
      .flatMap(({ surface, share }) => {
        const target = this.targetOf(surface);
        return target === undefined ? [] : [{ target, share }];
      });
  }

  private targetOf(surface: Surface): TargetId | undefined {
    if (surface >= 0) return this.things[surface].target;
    return surface === NOWHERE ? undefined : this.world.course.ground;
  }

  finished(): EyeTrace {
    const { readings, labels, seen, truth } = this.trace;
    return {
      ...this.trace,
      readings: cutReadings(readings, 0, this.n),
      labels: labels.slice(0, this.n),
      seen: seen.slice(0, this.n),
      truth: truth.slice(0, this.n),
    };
  }
}

/** Nothing at all: a sensor that looks along the floor, with no sign before it. */
const NOWHERE: Surface = Number.MIN_SAFE_INTEGER + 1;
const NO_LIGHT_BACK = new Float64Array(3);
const TREMBLING = Math.sqrt(1 - 0.97 * 0.97);
