import type { ModeId, ResponseId, SensorId, TargetId } from "../../names";
import type { Feature } from "../../readings";
import { NO_FEATURES } from "../../readings";
import { BLOB_ORDER, type Blob } from "../../vision";
import type { Condition } from "../conditions";
import type { Machine } from "../Machine";
import type { ProgramEye } from "../ProgramEye";
import { type Named, RowWriter } from "../rowsOf";
import type { Response } from "../schema";
import type { Step } from "../steps";
import type { Trigger } from "../triggers";
import { holdsAt } from "./ask";
import {
  BLOB_CELLS,
  Engine,
  NOTE_COUNTER,
  NOTE_ENDED,
  NOTE_FINISH,
  NOTE_LIST,
  NOTE_MODE,
  NOTE_TROUBLE,
  type RobotSide,
} from "./Engine";

/** The scene in which a step, a trigger or a condition is tried by itself. */
export interface Stands {
  t?: number;
  modeSince?: number;
  left?: number;
  right?: number;
  /** The target that each sensor sees; `belly` is the first. */
  seen?: Partial<Record<string, string>>;
  /** Targets that came or went with this moment, by the first sensor. */
  arrived?: readonly string[];
  departed?: readonly string[];
  knownAt?: number;
  counter?: number;
  /** The number of targets that the list holds. */
  length?: number;
  pressed?: boolean;
  still?: boolean;
  /** Every feature of every sensor. */
  feature?: number | ((feature: Feature, sensor: string) => number);
  /** The clarity of a sensor's newest reading for any target. */
  clarity?: (sensor: string) => number;
  /** The largest blobs that the camera sees. */
  blobs?: Partial<Record<string, Partial<Blob>>>;
}

const TARGETS = ["coral", "teal", "chalk"];
const EYES = ["belly", "left-eye", "right-eye", "watch"];

const MACHINE: Machine = {
  eyes: EYES as SensorId[],
  lamps: ["brow"],
  buttons: ["go"],
  servos: [{ id: "arm", from: -90, to: 120, at: -30 }],
  wheels: { trackMm: 100, wheelMm: 50 },
  topSpeed: 400,
  belt: {
    gates: [{ id: "coral-gate", atMm: 300, crate: "coral-crate", travelMs: 100, reachMm: 40 }],
    crates: [],
    end: "end-crate",
    looksAt: [100, 100, 100, 100],
  },
  can: ["drive", "turn", "sort"],
};

/** A machine with steps and a trigger of its own, of which every command and what is noted is kept in words. */
export class Stand {
  readonly told: string[] = [];
  readonly engine: Engine;
  private readonly writer: RowWriter;

  constructor({ entering = [], when, bow = [] }: { entering?: Step[]; when?: Trigger; bow?: Step[] }) {
    const steady = { hits: 1, of: 1, release: 1, rejoinMs: 0 };
    const eyes = EYES.map(
      (id) =>
        ({
          id,
          sensor: { reports: id === "watch" ? "frames" : "rgb", optics: { spotMm: 8 }, periodMs: 20 },
          ruleSet: { steady },
        }) as unknown as ProgramEye,
    );
    const response = { id: "r" as ResponseId, steps: [], fires: "once per visit", busy: "let it finish", on: true };
    const responses = when === undefined ? [] : [{ ...response, when } as Response];
    const modes: Named["modes"] = [
      { mode: { id: "patrol" as ModeId, name: "Patrol", entering: entering as never, responses: [] }, responses },
      { mode: { id: "home" as ModeId, name: "Home", entering: [], responses: [] }, responses: [] },
    ];
    this.writer = new RowWriter({
      machine: MACHINE,
      eyes,
      targets: TARGETS.map((id) => ({
        id: id as TargetId,
        name: `${id[0].toUpperCase()}${id.slice(1)} tag`,
        paint: "#e4573d",
      })),
      behaviour: {
        start: "patrol" as ModeId,
        modes: modes.map(({ mode }) => mode),
        counters: ["tally"],
        lists: ["route"],
        routines: [{ id: "bow", name: "Bow", steps: bow as never }],
      },
      modes,
    });
    this.engine = new Engine(this.writer.rows(), this.writer.kinds, this.side());
  }

  private side(): RobotSide {
    const says =
      (what: string) =>
      (...args: (number | string)[]) => {
        this.told.push([what, ...args].join(" "));
      };
    const { lamps, servos, gates, lists, crates } = this.writer;
    const hex = (colour: number) => (colour < 0 ? "off" : `#${colour.toString(16).padStart(6, "0")}`);
    const notes: Readonly<Record<number, (a: number, b: number, c: number, x: number) => void>> = {
      [NOTE_COUNTER]: (_, __, ___, x) => says("count")(x),
      [NOTE_LIST]: (list, label) => says("jotted")(TARGETS[label - 1], "to", lists[list]),
      [NOTE_MODE]: (mode) => (mode === 0 ? undefined : says("mode")(mode)),
      [NOTE_FINISH]: () => says("finish")(),
      [NOTE_ENDED]: () => says("ended")(),
      [NOTE_TROUBLE]: (which) => says("trouble")(which),
    };
    return {
      wheels: (left, right) => says("wheels")(left.toFixed(3), right.toFixed(3)),
      stop: (coasts) => says("stop")(coasts === 1 ? "coast" : "brake"),
      lamp: (lamp, colour, blinkHz) => says("lamp")(lamps[lamp], hex(colour), blinkHz),
      tone: says("tone"),
      tune: (at, count) => says("tune")(...this.engine.p.rows.slice(at, at + 2 * count)),
      say: says("say"),
      show: says("show"),
      picture: says("picture"),
      servo: (servo, degrees, speed) => says("servo")(servos[servo], degrees, speed),
      gate: (gate, opens) => says("gate")(gates[gate], opens === 1 ? "open" : "close", crates.length),
      log: says("log"),
      note: (kind, a, b, c, x) => notes[kind]?.(a, b, c, x),
    };
  }

  /** Puts things as they shall stand. */
  put(now: Stands): this {
    const { engine } = this;
    const { t = 0, modeSince = 0, left = 0, right = 0, seen = {}, knownAt = -Infinity, counter = 0, length = 0 } = now;
    engine.now = t;
    engine.modeSince = modeSince;
    engine.wayLeft = left;
    engine.wayRight = right;
    engine.brings = true;
    engine.steadying.visit.fill(7);
    engine.steadying.seen.fill(0);
    for (const [eye, target] of Object.entries(seen))
      engine.steadying.seen[EYES.indexOf(eye)] = TARGETS.indexOf(target ?? "") + 1;
    engine.knownAt.fill(knownAt);
    engine.counters.fill(counter);
    engine.listLength.fill(length);
    engine.pressed.fill(now.pressed ? 1 : 0);
    engine.turnedAt = now.still === false ? t : -Infinity;
    engine.byLabel = 0;
    const { feature, clarity } = now;
    EYES.forEach((eye, i) => {
      const value = (f: Feature) => (typeof feature === "function" ? feature(f, eye) : (feature ?? Number.NaN));
      const all = Object.entries(NO_FEATURES).map(([f]) => [f, value(f as Feature)]);
      engine.features[i] = feature === undefined && clarity === undefined ? null : Object.fromEntries(all);
    });
    Object.assign(engine.p, { clarity: (eye: number) => clarity?.(EYES[eye]) ?? Number.NaN });
    engine.blobs.fill(0);
    engine.frameCame[3] = 1;
    for (const [target, blob] of Object.entries(now.blobs ?? {}))
      BLOB_ORDER.forEach((field, k) => {
        engine.blobs[(4 + TARGETS.indexOf(target)) * BLOB_CELLS + k] = blob?.[field] ?? (field === "area" ? 1 : 0);
      });
    const come = (all: readonly string[] = []) => all.map((target) => TARGETS.indexOf(target) + 1);
    engine.arrivals = come(now.arrived).length;
    engine.arrivalLabel.set(come(now.arrived));
    engine.departures = come(now.departed).length;
    engine.departureLabel.set(come(now.departed));
    engine.departureVisit.fill(7);
    return this;
  }

  /** The number of the occasion of the trigger, and what made it hold; undefined where it does not. */
  occasion(): { number: number; by?: string } | undefined {
    const { engine } = this;
    const at = engine.p.responseAt[0] + engine.p.rows[engine.p.responseAt[0] + 1];
    const number = engine.kinds.triggers[engine.p.rows[at]](engine, at);
    if (Number.isNaN(number)) return undefined;
    return engine.byLabel === 0 ? { number } : { number, by: `${EYES[engine.byEye]} ${TARGETS[engine.byLabel - 1]}` };
  }

  /** Tells whether a condition holds. */
  holds(condition: Condition): boolean {
    const { engine } = this;
    const { p } = engine;
    engine.p = Object.assign(this.writer.rowsOf(condition), { clarity: p.clarity });
    const holds = holdsAt(engine, 0);
    engine.p = p;
    return holds;
  }
}
