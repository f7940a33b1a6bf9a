import { describe, expect, it } from "vitest";
import type { NamesKind } from "../../phrases";
import { must, NAMES } from "../arbitrary";
import { Stand, type Stands } from "../engine/arbitrary";
import { carryOn, carryOnBesides } from "../engine/carryOn";
import { TROUBLE_NO_PIECE, TROUBLE_NOTHING_FIRED } from "../engine/Engine";
import { startMoment } from "../engine/moment";
import { PICTURE_NAMES } from "../pictures";
import {
  factsOf,
  kindOf,
  namedStep,
  pacedStep,
  parseStep,
  printStep,
  STEPS,
  type Step,
  stepIsEndless,
  tellStep,
} from ".";
import { hertzOf, midiOf } from "./tone";

const step = (phrase: string): Step => must(parseStep(phrase, NAMES));

/** A machine that has just begun a step, with all that it was told by it. */
function begun(phrase: string, now: Stands = {}): Stand {
  const stand = new Stand({ entering: [step(phrase), step("wait 3600 s")], bow: [step('log "bow"')] }).put(now);
  stand.told.length = 0;
  const { t = 0, left = 0, right = 0 } = now;
  startMoment(stand.engine, t, left, right);
  return stand;
}

/** Tells whether the step has ended that a machine began at 0 ms, and what the machine was told by that. */
function later(phrase: string, now: Stands): { ended: boolean; told: string[] } {
  const stand = begun(phrase);
  const { engine } = stand;
  stand.told.length = 0;
  const at = engine.frameAt[0];
  stand.put(now);
  carryOn(engine);
  return { ended: engine.frameAt[0] !== at, told: stand.told };
}

describe("the moment a step begins", () => {
  const KNOWN: Stands = { seen: { belly: "coral" }, counter: 3, feature: 0.5 };
  it.each([
    ["drive 35 %", ["wheels 0.350 0.350"]],
    ["drive -20 % for 5 cm", ["wheels -0.200 -0.200"]],
    ["lamp coral for 1 s", ["lamp main #e4573d 0"]],
    ["lamp coral blink 2 Hz for 1 s", ["lamp main #e4573d 2"]],
    ["tune A4 1/4, rest 1/8, A5 3/8 at 120 a minute", ["tune 440 500 0 250 880 750"]],
    ["show picture drop", [`picture ${PICTURE_NAMES.indexOf("drop")}`]],
    ["wheels 40 % 10 %", ["wheels 0.400 0.100"]],
    ["turn left 90 at 30 %", ["wheels -0.300 0.300"]],
    ["turn right 25 % for 0.5 s", ["wheels 0.250 -0.250"]],
    ["stop", ["stop brake"]],
    ["stop coast", ["stop coast"]],
    ["wait 1 s", []],
    ["lamp coral", ["lamp main #e4573d 0"]],
    ["lamp brow #012233 blink 2 Hz", ["lamp brow #012233 2"]],
    ["lamp brow off", ["lamp brow off 0"]],
    ["lamps off", ["lamp main off 0", "lamp brow off 0"]],
    ["tone A4 for 0.5 s", ["tone 440 500"]],
    ['say "thirsty"', ["say thirsty"]],
    ["show seen", ["show Coral tag"]],
    ["show tally", ["show tally 3"]],
    ["log sat", ["log sat 50 %"]],
    ['log "at the bay"', ["log at the bay"]],
    ["servo arm to 90 at 60", ["servo arm 90 60"]],
    ["gate coral-gate open", ["gate coral-gate open 1"]],
    ["count tally + 2", ["count 5"]],
    ["count tally - 4", ["count -1"]],
    ["count tally reset", ["count 0"]],
    // Nothing fired that could be jotted or sent.
    ["jot to route", [`trouble ${TROUBLE_NOTHING_FIRED}`]],
    ["send to coral-crate", [`trouble ${TROUBLE_NO_PIECE}`]],
    ["send to end-crate", []],
    ["replay route in patrol", []],
    ["do bow", ["log bow"]],
    ["do bow 3 times", ["log bow", "log bow", "log bow"]],
    ["meanwhile tone 69 for 1 s", ["tone 440 1000"]],
    ["go to home", ["mode 1", "ended"]],
    ["finish", ["stop brake", "finish"]],
  ])("%s", (phrase, told) => {
    expect(begun(phrase, KNOWN).told).toEqual(told);
  });

  it("says that a feature is not known before the first reading", () => {
    expect(begun("show hue").told).toEqual(["show hue unknown"]);
  });

  it("says a hue that is nearly once round as 0", () => {
    expect(begun("show hue", { feature: 359.7 }).told).toEqual(["show hue 0°"]);
    expect(begun("show light", { feature: 49.5 }).told).toEqual(["show light 50"]);
  });
});

describe("a step ends", () => {
  const wheel = Math.PI * 50;
  it.each<[string, Stands, Stands]>([
    ["drive 35 % for 2 s", { t: 1999 }, { t: 2000 }],
    ["drive 35 % for 20 cm", { left: 250, right: 149 }, { left: 250, right: 150 }],
    ["drive -35 % for 20 cm", { left: -199, right: -199 }, { left: -200, right: -200 }],
    ["wheels 40 % 10 % for 2 rev", { left: 2 * wheel - 0.1, right: 40 }, { left: 2 * wheel, right: 40 }],
    ["wheels 40 % 10 % until teal", {}, { seen: { belly: "teal" } }],
    // On the spot both wheels go a quarter of the circle whose diameter is the track.
    ["turn left 90 at 30 %", { left: -78.5, right: 78.5 }, { left: -78.6, right: 78.6 }],
    ["turn right 90 at 30 %", { left: 78.5, right: -78.5 }, { left: 78.6, right: -78.6 }],
    ["turn right 25 % for 0.5 s", { t: 499 }, { t: 500 }],
    ["follow coral left edge at 25 % for 10 cm", { left: 99, right: 99 }, { left: 101, right: 99 }],
    ["follow coral left edge at 25 % until teal", {}, { seen: { belly: "teal" } }],
    ["wait 1 s", { t: 999 }, { t: 1000 }],
    ["wait until teal", { t: 1e9 }, { seen: { belly: "teal" } }],
    ["wait until teal, at most 8 s", { t: 7999 }, { t: 8000 }],
    ["tone C4 for 0.5 s", { t: 499 }, { t: 500 }],
    ["lamp coral for 1 s", { t: 999 }, { t: 1000 }],
    ["tune A4 1/4, rest 1/8 at 120 a minute", { t: 749 }, { t: 750 }],
    // The way from where it was, at its speed; no farther than its range, and no longer than that.
    ["servo arm to 90 at 60", { t: 1999 }, { t: 2000 }],
    ["servo arm to 300 at 60", { t: 2499 }, { t: 2500 }],
  ])("%s", (phrase, before, after) => {
    expect(later(phrase, before).ended).toBe(false);
    expect(later(phrase, after).ended).toBe(true);
  });

  it("with the wheels braked where it moved them for a while only, and a lamp out that was lit for a time", () => {
    expect(later("drive 35 % for 2 s", { t: 2000 }).told).toEqual(["stop brake"]);
    expect(later("turn left 90 at 30 %", { left: -99, right: 99 }).told).toEqual(["stop brake"]);
    expect(later("lamp coral for 1 s", { t: 1000 }).told).toEqual(["lamp main off 0"]);
    // These ended at once, and what they began goes on.
    expect(begun("drive 35 %").told).toEqual(["wheels 0.350 0.350"]);
    expect(begun("lamp coral").told).toEqual(["lamp main #e4573d 0"]);
    expect(begun("servo arm to 300 at 60").told).toEqual(["servo arm 120 60"]);
  });

  it("not before the time that it says it ends by, whatever is read", () => {
    const phrases = ["drive 35 % for 2 s", "wait 1 s", "tone C4 for 0.5 s", "wait until teal, at most 8 s"];
    for (const phrase of [...phrases, "servo arm to 90 at 60"]) {
      const s = step(phrase);
      const { begunMs: ms } = begun(phrase).engine;
      const by = kindOf(s).endsBy?.(s, { t: 0, travel: { left: 0, right: 0 }, ms }) as number;
      expect(later(phrase, { t: by - 1 }).ended, phrase).toBe(false);
      expect(later(phrase, { t: by }).ended, phrase).toBe(true);
    }
  });
});

describe("following", () => {
  /** Gives how the wheels are told to go; they were told something else before. */
  const steers = (phrase: string, now: Stands) => {
    const stand = begun(phrase, { feature: 0, clarity: () => 0.01, blobs: { coral: { error: 1, halfFrame: 80 } } });
    stand.told.length = 0;
    stand.put({ t: 20, ...now });
    carryOn(stand.engine);
    carryOnBesides(stand.engine);
    return stand.told;
  };
  const clear = (value: number): Stands => ({ clarity: () => value });

  it("goes straight on where the reading is as much the line as not", () => {
    expect(steers("follow coral left edge at 25 %", clear(0))).toEqual(["wheels 0.250 0.250"]);
    expect(steers("follow coral left edge at 25 %", clear(Number.NaN))).toEqual(["wheels 0.250 0.250"]);
  });

  it("turns off the line and back onto it, by which edge it follows", () => {
    expect(steers("follow coral left edge at 25 %", clear(1))).toEqual(["wheels 0.050 0.450"]);
    expect(steers("follow coral left edge at 25 %", clear(-1))).toEqual(["wheels 0.450 0.050"]);
    expect(steers("follow coral right edge at 25 %", clear(1))).toEqual(["wheels 0.450 0.050"]);
    expect(steers("follow coral right edge at 25 % for 1 s", clear(1))).toEqual(["wheels 0.450 0.050"]);
  });

  it("turns towards the sensor of two that sees the line", () => {
    const left: Stands = { clarity: (sensor) => (sensor === "left-eye" ? 1 : -1) };
    expect(steers("follow coral between left-eye and right-eye at 25 %", left)).toEqual(["wheels 0.050 0.450"]);
    expect(steers("follow coral between right-eye and left-eye at 25 %", left)).toEqual(["wheels 0.450 0.050"]);
    expect(steers("follow coral between left-eye and right-eye at 25 %", clear(1))).toEqual(["wheels 0.250 0.250"]);
  });

  it("turns towards the blob, and goes straight on where there is none", () => {
    const blob = (error: number): Stands => ({ blobs: { coral: { error, halfFrame: 80 } } });
    expect(steers("follow coral by camera at 20 %", blob(-40))).toEqual(["wheels 0.120 0.280"]);
    expect(steers("follow coral by camera at 20 %", blob(400))).toEqual(["wheels 0.360 0.040"]);
    expect(steers("follow coral by camera at 20 %", {})).toEqual(["wheels 0.200 0.200"]);
  });
});

describe("notes", () => {
  // MIDI 1.0 and equal temperament with A4 = 440 Hz.
  it.each([
    ["C4", 60, 261.63],
    ["A4", 69, 440],
    ["A5", 81, 880],
    ["F#5", 78, 739.99],
    ["Gb5", 78, 739.99],
    ["C0", 12, 16.35],
    ["B8", 119, 7902.13],
    [21, 21, 27.5],
  ])("%s is MIDI %i and %f Hz", (note, midi, hertz) => {
    expect(midiOf(note)).toBe(midi);
    expect(hertzOf(note)).toBe(hertz);
  });
});

describe("every kind of step", () => {
  /** A menu's template with the examples in its places filled in. */
  const filled = (template: string) =>
    template
      .replace(
        /\{(targets|sensors|modes|lamps|counters|lists|routines|servos|gates|crates)\}/g,
        (_, kind: NamesKind) => NAMES[kind][0],
      )
      .replace(/\{condition\}/g, "teal")
      .replace(/\{\w+ ([^}|]+)(\|[^}]*)?\}/g, "$1");

  it.each(STEPS.entries.map((kind) => [kind.key, kind] as const))(
    "%s: its templates can be read, printed and told",
    (_, kind) => {
      expect(kind.templates.length).toBeGreaterThan(0);
      for (const template of kind.templates) {
        const read = step(filled(template));
        expect(read.step).toBe(kind.key);
        expect(printStep(read).startsWith(kind.opening)).toBe(true);
        expect(step(printStep(read))).toEqual(read);
        expect(tellStep(read, (id) => id)).not.toMatch(/undefined|NaN|\[object/);
        expect(namedStep(read, (_kind, id) => id)).toEqual(read);
      }
    },
  );

  it.each(["wait 1 s", "do bow", "replay route in patrol", "go to home", "finish", "meanwhile stop"])(
    "%s cannot run meanwhile, for it says what comes next",
    (phrase) => {
      expect(parseStep(`meanwhile ${phrase}`, NAMES)).toMatchObject({
        problem: { message: expect.stringMatching(/cannot run meanwhile/) },
      });
    },
  );

  it.each([
    ["drive 120 %", /100/],
    ["turn left 4000 at 20 %", /at most 3600 degrees/],
    ["turn left 90 at 0 %", /from 1 to 100 %/],
    ["follow coral left edge at 0 %", /from 1 to 100 %/],
    ["tone 128 for 1 s", /0 to 127/],
    ["tone H4 for 1 s", /a note like C4/],
    ["lamp coral blink 21 Hz", /at most 20 Hz/],
    ["servo arm to 361 at 60", /−360 to 360/],
    ["count tally + 1.5", /whole number/],
    ["do bow 1001 times", /1000/],
    ["fly 20 %", /a step/],
  ])("%s is refused where it stands", (phrase, message) => {
    expect(parseStep(phrase, NAMES)).toMatchObject({ problem: { message: expect.stringMatching(message) } });
  });
});

describe("what others ask of a step", () => {
  it.each([
    ["drive 35 %", { goesOn: true, leavesMoving: true, straightOn: 0.35, wheels: [0.35, 0.35] }],
    ["drive 35 % for 20 cm", { goesOn: false, leavesMoving: false, wayMm: 200 }],
    ["wheels 0 % 0 %", { leavesMoving: false }],
    ["stop", { leavesMoving: false }],
    ["finish", { leadsTo: "finish", leavesMoving: false }],
    ["go to home", { leadsTo: "home" }],
    ["count tally + 1", { changes: "tally" }],
    ["jot to route", { changes: "route" }],
    ["do bow", { does: "bow" }],
    ["replay route in patrol", { replays: "patrol" }],
    ["wait until teal", { waitsFor: { seen: ["teal"] } }],
    ["meanwhile stop coast", { beside: { step: "stop", coast: true } }],
  ])("%s", (phrase, facts) => {
    expect(factsOf(step(phrase))).toMatchObject(facts);
  });

  it("waits without end only where no time is set", () => {
    expect(factsOf(step("wait until teal, at most 8 s")).waitsFor).toBeUndefined();
    const limited = kindOf(step("wait until teal")).waitingAtMost?.(step("wait until teal"), 5000) as Step;
    expect(printStep(limited)).toBe("wait until teal, at most 5 s");
  });

  it("is slowed only where it is faster", () => {
    const slowed = (phrase: string, most: number) =>
      printStep(pacedStep(step(phrase), (speed) => Math.min(speed, most)));
    expect(slowed("drive 35 % for 20 cm", 0.2)).toBe("drive 20 % for 20 cm");
    expect(slowed("drive 15 %", 0.2)).toBe("drive 15 %");
    expect(slowed("follow coral by camera at 25 %", 0.1)).toBe("follow coral by camera at 10 %");
    expect(slowed("meanwhile drive 35 %", 0.2)).toBe("meanwhile drive 20 %");
    expect(slowed("turn left 90 at 25 %", 0.1)).toBe("turn left 90 at 25 %");
  });

  it("goes on without end where nothing ends it", () => {
    expect(stepIsEndless(step("drive 35 %"))).toBe(true);
    expect(stepIsEndless(step("drive 35 % for 1 s"))).toBe(false);
    expect(stepIsEndless(step("stop"))).toBe(false);
  });
});
