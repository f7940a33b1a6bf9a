import { describe, expect, it } from "vitest";
import type { TargetId } from "../../names";
import type { NamesKind } from "../../phrases";
import type { Blob } from "../../vision";
import { must, NAMES } from "../arbitrary";
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
import type { Begun, StepScene } from "./StepKind";
import { hertzOf, midiOf } from "./tone";

const step = (phrase: string): Step => must(parseStep(phrase, NAMES));

/** A scene that writes down all that a step does. */
function scene(now: Partial<StepScene> = {}): StepScene & { done: string[] } {
  const done: string[] = [];
  const writes =
    (what: string) =>
    (...args: unknown[]) => {
      done.push([what, ...args.map((a) => (typeof a === "object" && a !== null ? JSON.stringify(a) : a))].join(" "));
    };
  return {
    done,
    t: 0,
    travel: { left: 0, right: 0 },
    trackMm: 100,
    wheelMm: 50,
    holds: () => false,
    seen: () => "coral" as TargetId,
    seenName: () => "Coral tag",
    feature: () => 0.5,
    clarity: () => 0,
    counter: () => 3,
    blob: () => undefined,
    paintOf: (target) => `#${target}`,
    wheels: (left, right) => writes("wheels")(left.toFixed(3), right.toFixed(3)),
    stop: writes("stop"),
    lamp: writes("lamp"),
    lampsOff: writes("lamps off"),
    tone: writes("tone"),
    say: writes("say"),
    show: writes("show"),
    showPicture: writes("picture"),
    tune: (tones) => writes("tune")(tones.map(({ hertz, ms }) => `${hertz}:${ms}`).join(" ")),
    servoReaches: (_, degrees) => Math.max(-90, Math.min(120, degrees)),
    servoAt: () => -30,
    servo: writes("servo"),
    gate: (gate, open) => writes("gate")(gate, open ? "open" : "close"),
    send: writes("send"),
    log: writes("log"),
    setCounter: writes("count"),
    jot: writes("jot"),
    do: writes("do"),
    replay: writes("replay"),
    beside: writes("beside"),
    goTo: writes("go to"),
    finish: writes("finish"),
    ...now,
  };
}
const BEGUN: Begun = { t: 0, travel: { left: 0, right: 0 } };

describe("the moment a step begins", () => {
  it.each([
    ["drive 35 %", ["wheels 0.350 0.350"]],
    ["drive -20 % for 5 cm", ["wheels -0.200 -0.200"]],
    ["lamp coral for 1 s", ["lamp main #coral 0"]],
    ["lamp coral blink 2 Hz for 1 s", ["lamp main #coral 2"]],
    ["tune A4 1/4, rest 1/8, A5 3/8 at 120 a minute", ["tune 440:500 0:250 880:750"]],
    ["show picture drop", ["picture drop"]],
    ["wheels 40 % 10 %", ["wheels 0.400 0.100"]],
    ["turn left 90 at 30 %", ["wheels -0.300 0.300"]],
    ["turn right 25 % for 0.5 s", ["wheels 0.250 -0.250"]],
    ["stop", ["stop brake"]],
    ["stop coast", ["stop coast"]],
    ["wait 1 s", []],
    ["lamp coral", ["lamp main #coral 0"]],
    ["lamp brow #112233 blink 2 Hz", ["lamp brow #112233 2"]],
    ["lamp brow off", ["lamp brow  0"]],
    ["lamps off", ["lamps off"]],
    ["tone A4 for 0.5 s", ["tone 440 500"]],
    ['say "thirsty"', ["say thirsty"]],
    ["show seen", ["show Coral tag"]],
    ["show tally", ["show tally 3"]],
    ["log sat", ["log sat 50 %"]],
    ['log "at the bay"', ["log at the bay"]],
    ["servo arm to 90 at 60", ["servo arm 90 60"]],
    ["count tally + 2", ["count tally 5"]],
    ["count tally - 4", ["count tally -1"]],
    ["count tally reset", ["count tally 0"]],
    ["jot to route", ["jot route"]],
    ["replay route in patrol", ["replay route patrol"]],
    ["do bow", ["do bow 1"]],
    ["do bow 3 times", ["do bow 3"]],
    ["meanwhile tone 69 for 1 s", ['beside {"step":"tone","note":69,"ms":1000}']],
    ["go to home", ["go to home"]],
    ["finish", ["finish"]],
  ])("%s", (phrase, done) => {
    const s = scene();
    kindOf(step(phrase)).begin(step(phrase), s, { ...BEGUN });
    expect(s.done).toEqual(done);
  });

  it("says that a feature is not known before the first reading", () => {
    const s = scene({ feature: () => Number.NaN });
    kindOf(step("show hue")).begin(step("show hue"), s, { ...BEGUN });
    expect(s.done).toEqual(["show hue unknown"]);
  });
});

describe("a step ends", () => {
  const wheel = Math.PI * 50;
  it.each<[string, Partial<StepScene>, Partial<StepScene>]>([
    ["drive 35 % for 2 s", { t: 1999 }, { t: 2000 }],
    ["drive 35 % for 20 cm", { travel: { left: 250, right: 149 } }, { travel: { left: 250, right: 150 } }],
    ["drive -35 % for 20 cm", { travel: { left: -199, right: -199 } }, { travel: { left: -200, right: -200 } }],
    [
      "wheels 40 % 10 % for 2 rev",
      { travel: { left: 2 * wheel - 0.1, right: 40 } },
      { travel: { left: 2 * wheel, right: 40 } },
    ],
    ["wheels 40 % 10 % until teal", {}, { holds: () => true }],
    // On the spot both wheels go a quarter of the circle whose diameter is the track.
    ["turn left 90 at 30 %", { travel: { left: -78.5, right: 78.5 } }, { travel: { left: -78.6, right: 78.6 } }],
    ["turn right 90 at 30 %", { travel: { left: 78.5, right: -78.5 } }, { travel: { left: 78.6, right: -78.6 } }],
    ["turn right 25 % for 0.5 s", { t: 499 }, { t: 500 }],
    [
      "follow coral left edge at 25 % for 10 cm",
      { travel: { left: 99, right: 99 } },
      { travel: { left: 101, right: 99 } },
    ],
    ["wait 1 s", { t: 999 }, { t: 1000 }],
    ["wait until teal", { t: 1e9 }, { holds: () => true }],
    ["wait until teal, at most 8 s", { t: 7999 }, { t: 8000 }],
    ["tone C4 for 0.5 s", { t: 499 }, { t: 500 }],
    ["lamp coral for 1 s", { t: 999 }, { t: 1000 }],
    ["tune A4 1/4, rest 1/8 at 120 a minute", { t: 749 }, { t: 750 }],
  ])("%s", (phrase, before, after) => {
    const kind = kindOf(step(phrase));
    expect(kind.ended?.(step(phrase), scene(before), BEGUN)).toBe(false);
    expect(kind.ended?.(step(phrase), scene(after), BEGUN)).toBe(true);
  });

  it("when the servo is there: the way from where it was, at its speed", () => {
    const arm = step("servo arm to 90 at 60");
    const begun = { ...BEGUN };
    kindOf(arm).begin(arm, scene(), begun);
    expect(kindOf(arm).endsBy?.(arm, begun)).toBe(2000);
    expect(kindOf(arm).ended?.(arm, scene({ t: 1999 }), begun)).toBe(false);
    expect(kindOf(arm).ended?.(arm, scene({ t: 2000 }), begun)).toBe(true);
    // It goes no farther than its range, and takes no longer than that.
    const beyond = step("servo arm to 300 at 60");
    const told: number[] = [];
    kindOf(beyond).begin(beyond, scene({ servo: (_, degrees) => void told.push(degrees) }), begun);
    expect([kindOf(beyond).endsBy?.(beyond, begun), told]).toEqual([2500, [120]]);
  });

  it("with the wheels braked where it moved them for a while only", () => {
    const ends = (phrase: string) => {
      const s = scene();
      kindOf(step(phrase)).end?.(step(phrase), s);
      return s.done;
    };
    expect(ends("drive 35 % for 2 s")).toEqual(["stop brake"]);
    expect(ends("turn left 90 at 30 %")).toEqual(["stop brake"]);
    expect(ends("drive 35 %")).toEqual([]);
    expect(ends("lamp coral for 1 s")).toEqual(["lamp main  0"]);
    expect(ends("lamp coral")).toEqual([]);
  });

  it("not before the time that it says it ends by, whatever is read", () => {
    for (const phrase of ["drive 35 % for 2 s", "wait 1 s", "tone C4 for 0.5 s", "wait until teal, at most 8 s"]) {
      const s = step(phrase);
      const by = kindOf(s).endsBy?.(s, BEGUN) as number;
      expect(kindOf(s).ended?.(s, scene({ t: by - 1 }), BEGUN), phrase).toBe(false);
      expect(kindOf(s).ended?.(s, scene({ t: by }), BEGUN), phrase).toBe(true);
    }
  });
});

describe("following", () => {
  const steers = (phrase: string, now: Partial<StepScene>) => {
    const s = scene(now);
    kindOf(step(phrase)).during?.(step(phrase), s, BEGUN);
    return s.done;
  };
  const clear = (value: number) => ({ clarity: () => value });

  it("goes straight on where the reading is as much the line as not", () => {
    expect(steers("follow coral left edge at 25 %", clear(0))).toEqual(["wheels 0.250 0.250"]);
    expect(steers("follow coral left edge at 25 %", clear(Number.NaN))).toEqual(["wheels 0.250 0.250"]);
  });

  it("turns off the line and back onto it, by which edge it follows", () => {
    expect(steers("follow coral left edge at 25 %", clear(1))).toEqual(["wheels 0.050 0.450"]);
    expect(steers("follow coral left edge at 25 %", clear(-1))).toEqual(["wheels 0.450 0.050"]);
    expect(steers("follow coral right edge at 25 %", clear(1))).toEqual(["wheels 0.450 0.050"]);
  });

  it("turns towards the sensor of two that sees the line", () => {
    const left = { clarity: (_: TargetId, sensor?: string) => (sensor === "left-eye" ? 1 : -1) };
    expect(steers("follow coral between left-eye and right-eye at 25 %", left)).toEqual(["wheels 0.050 0.450"]);
    expect(steers("follow coral between right-eye and left-eye at 25 %", left)).toEqual(["wheels 0.450 0.050"]);
    expect(steers("follow coral between left-eye and right-eye at 25 %", clear(1))).toEqual(["wheels 0.250 0.250"]);
  });

  it("turns towards the blob, and goes straight on where there is none", () => {
    const blob = (error: number) => ({ blob: () => ({ error, halfFrame: 80 }) as Blob });
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
