import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { expMinus, normalQuantile, sinCos } from "../arithmetic";
import { displayToLinear, hexToRgb } from "../colour";
import { glasshouseRound } from "../demo";
import { numbered, type TapeId, type TargetId } from "../names";
import { emptyProject, type ProjectDocument, splitProject, type WithoutIds, withIds } from "../project";
import { markedTapes } from "../teaching";
import {
  chance,
  checkSentence,
  drawn,
  Floor,
  judgeCheck,
  lampReturn,
  RunError,
  roomLeak,
  run,
  SensorOptics,
  type Trace,
  tapeOfRun,
  traceCsv,
  traceJsonLines,
  verdicts,
} from ".";
import { Cart } from "./cart";
import type { FloorCourse } from "./courses";
import type { CartRobot } from "./robots";

const { document } = splitProject(glasshouseRound());

describe("mathematics from the four operations", () => {
  it("gives sine and cosine to the last digits", () => {
    fc.assert(
      fc.property(fc.double({ min: -1000, max: 1000, noNaN: true }), (degrees) => {
        const { sin, cos } = sinCos(degrees);
        expect(sin).toBeCloseTo(Math.sin((degrees * Math.PI) / 180), 12);
        expect(cos).toBeCloseTo(Math.cos((degrees * Math.PI) / 180), 12);
      }),
    );
  });

  it("gives e^−x", () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 50, noNaN: true }), (x) => {
        expect(expMinus(x) / Math.exp(-x)).toBeCloseTo(1, 11);
      }),
    );
  });

  it("gives the published quantiles of the normal distribution", () => {
    expect(normalQuantile(0.5)).toBeCloseTo(0, 9);
    expect(normalQuantile(0.975)).toBeCloseTo(1.959963985, 7);
    expect(normalQuantile(0.995)).toBeCloseTo(2.575829304, 7);
    expect(normalQuantile(0.001)).toBeCloseTo(-3.090232306, 7);
  });
});

describe("chance", () => {
  it("is the same for the same seed and use, and another for another", () => {
    const draw = (seed: number, use: string) => Array.from({ length: 5 }, chance(seed, use).uniform);
    expect(draw(1, "noise")).toEqual(draw(1, "noise"));
    expect(draw(1, "noise")).not.toEqual(draw(1, "motors"));
    expect(draw(1, "noise")).not.toEqual(draw(2, "noise"));
  });

  it("has the normal's mean and variance", () => {
    const { normal } = chance(5, "test");
    const n = 20_000;
    const values = Array.from({ length: n }, normal);
    const mean = values.reduce((a, b) => a + b) / n;
    const variance = values.reduce((a, b) => a + (b - mean) ** 2, 0) / n;
    expect(Math.abs(mean)).toBeLessThan(4 / Math.sqrt(n));
    expect(Math.abs(variance - 1)).toBeLessThan(4 * Math.sqrt(2 / n));
  });
});

describe("the floor", () => {
  const base = document.courses[0];
  const white = { id: "white" as TargetId, code: "wh", name: "White", kind: "tag", paint: "#ffffff" } as const;
  const black = { id: "black" as TargetId, code: "bl", name: "Black", kind: "background", paint: "#000000" } as const;
  const floor = (over: WithoutIds<Partial<FloorCourse>>) => {
    const own = withIds<Partial<FloorCourse>>(over);
    return new Floor(drawn({ ...base, ground: black.id, patches: [], lines: [], ...own } as FloorCourse, 1), [
      white,
      black,
    ]);
  };
  const whiteAt = (f: Floor, x: number, y: number, spot: number) => {
    const out = new Float64Array(3);
    f.spotAt(x, y, spot, out);
    return out[0];
  };

  it("reads a blend at an edge that follows the area of a disc cut by a line", () => {
    const f = floor({ patches: [{ shape: { rect: [1000, 1000] }, target: white.id, at: [500, 0], angle: 0 }] });
    for (const share of [-0.8, -0.4, 0.02, 0.3, 0.7]) {
      // The centre lies `share` of the radius inside: the cut-off segment has the area arccos(s) − s √(1 − s²).
      const area = 1 - (Math.acos(share) - share * Math.sqrt(1 - share * share)) / Math.PI;
      expect(Math.abs(whiteAt(f, 10 * share, 0, 20) - area)).toBeLessThan(1.5 / 19);
    }
  });

  it("takes the paint's own reflectance where the whole spot lies on it, whatever way that is found", () => {
    const tilted = floor({ patches: [{ shape: { rect: [200, 100] }, target: white.id, at: [300, 300], angle: 30 }] });
    expect(whiteAt(tilted, 300, 300, 9)).toBe(1);
    expect(tilted.spotAt(300, 300, 9, new Float64Array(3))).toBe(0);
    expect(tilted.targetAt(600, 600)).toBe("black");
  });

  it("agrees point by point with a spot that is too small to blend", () => {
    const f = new Floor(drawn(base, 1), document.targets);
    const out = new Float64Array(3);
    fc.assert(
      fc.property(
        fc.double({ min: -50, max: 2250, noNaN: true }),
        fc.double({ min: -50, max: 1450, noNaN: true }),
        (x, y) => {
          f.spotAt(x, y, 1e-9, out);
          const paint = document.targets.find((t) => t.id === f.targetAt(x, y))?.paint ?? "";
          expect(out[0]).toBe(displayToLinear(hexToRgb(paint)[0]));
        },
      ),
      { numRuns: 500 },
    );
  });

  it("puts later patches on top, and patches on lines", () => {
    const patch = (target: TargetId) => ({
      shape: { disc: 100 },
      target,
      at: [100, 100] as [number, number],
      angle: 0,
    });
    const line = {
      points: [
        [0, 100],
        [200, 100],
      ] as [number, number][],
      width: 20,
      target: white.id,
    };
    expect(floor({ patches: [patch(white.id), patch(black.id)] }).targetAt(100, 100)).toBe("black");
    expect(floor({ patches: [patch(black.id)], lines: [line] }).targetAt(100, 100)).toBe("black");
    expect(floor({ lines: [line] }).targetAt(100, 109)).toBe("white");
    expect(floor({ lines: [line] }).targetAt(100, 111)).toBe("black");
  });
});

describe("the sensor's optics", () => {
  const [sensor] = document.sensors;
  const [light] = document.lights;

  it("sends the lamp's light back by the height law, and nothing from too near", () => {
    const optics = { minMm: 3, bestMm: 14, depthMm: 11 };
    expect(lampReturn(14, optics)).toBe(1);
    expect(lampReturn(25, optics)).toBeCloseTo(0.5, 12);
    expect(lampReturn(2.9, optics)).toBe(0);
    expect(roomLeak(10, 0.02)).toBeCloseTo(0.2, 12);
    expect(roomLeak(500, 0.02)).toBe(1);
  });

  it("has the stated signal before noise", () => {
    const out = new Float64Array(3);
    new SensorOptics(sensor, light, []).signal([0.5, 0.5, 0.5], 14, out);
    const { gain, lampRgb, glare, leakPerMm } = sensor.optics;
    const expected = gain[0] * (0.5 * (lampRgb[0] + light.rgb[0] * light.level * leakPerMm * 14) + glare[0]);
    expect(out[0]).toBeCloseTo(expected, 12);
  });

  it("measures with the stated mean and variance, in wire order", () => {
    const bgr = {
      ...sensor,
      order: "bgr" as const,
      optics: { ...sensor.optics, bits: 16 },
      scale: { r: [0, 65535], g: [0, 65535], b: [0, 65535] } as typeof sensor.scale,
    };
    const optics = new SensorOptics(bgr, light, []);
    const noise = chance(3, "noise");
    const reds = Array.from({ length: 4000 }, () => optics.measure([0.5, 0.2, 0.1], noise)[2] / 65535);
    const mean = reds.reduce((a, b) => a + b) / reds.length;
    const variance = reds.reduce((a, b) => a + (b - mean) ** 2, 0) / reds.length;
    const stated = sensor.optics.read ** 2 + sensor.optics.shot ** 2 * 0.5;
    expect(mean).toBeCloseTo(0.5, 2);
    expect(Math.abs(variance / stated - 1)).toBeLessThan(4 * Math.sqrt(2 / 4000));
  });

  it("clips at the ends of the scale", () => {
    const optics = new SensorOptics(sensor, light, []);
    expect(optics.measure([5, 0.5, 0], chance(1, "noise"))).toEqual([1023, expect.any(Number), expect.closeTo(0, -1)]);
  });
});

describe("the cart", () => {
  const robot = document.robot as CartRobot;
  const cart = (change: Partial<CartRobot> = {}, start = { x: 0, y: 0, heading: 0 }) =>
    new Cart({ ...robot, ...change }, start, chance(1, "motors"), 5);
  const motors = (change: object) => robot.motors.map((m) => ({ ...m, ...change })) as unknown as CartRobot["motors"];
  const steps = (c: Cart, n: number) => {
    for (let i = 0; i < n; i++) c.step();
  };

  it("reaches 63.2 % of its speed after one time constant", () => {
    const c = cart({ tractionMmS2: 100_000 });
    c.command(1, 1);
    steps(c, 12);
    expect(c.speed / 400).toBeCloseTo(1 - Math.exp(-1), 6);
  });

  it("goes straight as far as the lag lets it: v (t − τ) in the long run", () => {
    const c = cart({ tractionMmS2: 100_000 });
    c.command(0.5, 0.5);
    steps(c, 400);
    expect(Math.abs(c.x - 200 * (2 - 0.06))).toBeLessThan(1);
    expect(c.y).toBe(0);
  });

  it("turns in the circle of a differential drive: radius track / 2 · (vr + vl) / (vr − vl)", () => {
    const c = cart({ tractionMmS2: 100_000, motors: motors({ lagMs: 0 }) });
    c.command(0.2, 0.4);
    const radius = ((120 / 2) * (160 + 80)) / (160 - 80);
    let far = 0;
    for (let i = 0; i < 2000; i++) {
      c.step();
      far = Math.max(far, Math.abs(Math.hypot(c.x, c.y - radius) - radius));
    }
    expect(far).toBeLessThan(0.2);
  });

  it("pivots on the spot with its wheels against each other", () => {
    const c = cart({ motors: motors({ lagMs: 0 }), tractionMmS2: 100_000 });
    c.command(-0.3, 0.3);
    steps(c, 100);
    expect(Math.hypot(c.x, c.y)).toBeLessThan(1e-9);
    expect(c.heading).toBeCloseTo(((2 * 120 * 0.5) / 120) * (180 / Math.PI), 1);
  });

  it("stops in v² / 2a under the limit of traction, and slips while it does", () => {
    const c = cart({ tractionMmS2: 500, motors: motors({ lagMs: 0 }) });
    c.command(1, 1);
    steps(c, 400);
    expect(c.speed).toBeCloseTo(400, 6);
    const from = c.x;
    c.command(0, 0);
    c.step();
    expect(c.slipping).toBe(true);
    steps(c, 400);
    expect(Math.abs(c.x - from - 400 ** 2 / (2 * 500))).toBeLessThan(400 * 0.005);
    expect(c.slipping).toBe(false);
  });

  it("drives backwards with motors mounted reversed, and forwards again when they are inverted", () => {
    const reversed = cart({ motors: motors({ mountedReversed: true }) });
    reversed.command(0.5, 0.5);
    steps(reversed, 100);
    expect(reversed.x).toBeLessThan(-10);
    const mended = cart({ motors: motors({ mountedReversed: true, invert: true }) });
    mended.command(0.5, 0.5);
    steps(mended, 100);
    expect(mended.x).toBeGreaterThan(10);
    expect(mended.left.travel).toBeGreaterThan(10);
  });

  it("does not move below the dead band without regulation", () => {
    const c = cart({ motors: motors({ regulated: false, deadBand: 0.1 }) });
    c.command(0.09, 0.09);
    steps(c, 100);
    expect(c.x).toBe(0);
  });
});

describe("a run", () => {
  const noon = run(document, { course: "aisle", light: "noon-sun", seed: 1 });

  it("gives the same trace for the same seed, byte for byte, and another for another", () => {
    const again = run(document, { course: "aisle", light: "noon-sun", seed: 1 });
    expect(traceJsonLines(again)).toBe(traceJsonLines(noon));
    expect(traceJsonLines(run(document, { course: "aisle", light: "noon-sun", seed: 2 }))).not.toBe(
      traceJsonLines(noon),
    );
  });

  it("marks its own tape with what was there, and judges it as the rules do", () => {
    const { head, readings } = tapeOfRun(noon, "run" as TapeId, "Run");
    expect(new Set(head.marks.map((m) => m.target))).toEqual(
      new Set(["slate", "coral", "moss", "amber", "terracotta", "teal", "violet"]),
    );
    const [tape] = markedTapes({ ...document, tapes: [head] }, new Map([[head.id, readings]]));
    expect(tape.truth).toEqual(noon.eyes[0].truth);
  });

  it("is written as JSON lines and as CSV with a line a tick", () => {
    const lines = traceJsonLines(noon)
      .trimEnd()
      .split("\n")
      .map((line) => JSON.parse(line));
    expect(lines).toHaveLength(noon.x.length + 2);
    expect(lines[0]).toEqual({ course: "aisle", start: "South door", light: "noon-sun", seed: 1, tick_ms: 5 });
    expect(lines.at(-1)).toEqual({ ending: "finished", end_ms: noon.endMs });
    expect(traceCsv(noon).trimEnd().split("\r\n")).toHaveLength(noon.x.length + 1);
  });

  it("ends when time is over, and when the cart leaves the course", () => {
    const still = emptyProject("still");
    expect(run(still, { course: "yard", limitMs: 500 })).toMatchObject({ ending: "time is over", endMs: 500 });
    const away = structuredClone(still);
    away.behaviour.modes[0].entering = numbered("step", [{ step: "drive", speed: -1 }]);
    expect(run(away, { course: "yard" }).ending).toBe("left the course");
  });

  it("says what there is where course, start or light are not", () => {
    expect(() => run(document, { course: "nowhere" })).toThrow(
      new RunError("there is no course “nowhere”; there is Aisle, Chalk walk"),
    );
    expect(() => run(document, { course: "aisle", start: "roof" })).toThrow(/South door, Side gate/);
    expect(() => run(document, { course: "aisle", light: "moon" })).toThrow(/Overcast, Noon sun/);
  });
});

describe("checks", () => {
  const at = (light: string, change = document): Trace => run(change, { course: "aisle", light, seed: 1 });
  const outcomes = (trace: Trace) => verdicts(trace).map(({ verdict }) => verdict.outcome);

  it("all hold in the light that the rules were written in", () => {
    expect(outcomes(at("overcast"))).toEqual(new Array(6).fill("holds"));
  });

  it("say at what time the terracotta was answered at noon, and that is all that fails", () => {
    const trace = at("noon-sun");
    expect(outcomes(trace)).toEqual(["holds", "holds", "does not", "holds", "holds", "holds"]);
    const [answer] = trace.answers.filter((a) => a.truth === "terracotta");
    expect(verdicts(trace)[2].verdict).toEqual({
      outcome: "does not",
      figure: "1 time",
      t: answer.t,
      why: expect.stringMatching(
        /^The terracotta patch at 137, 40 cm was taken for coral and answered at 13\.\d\d s\.$/,
      ),
    });
  });

  it("are not reached where the run did not come that far", () => {
    const short = run(document, { course: "aisle", light: "overcast", limitMs: 3000 });
    expect(outcomes(short)).toEqual([
      "not reached",
      "not reached",
      "holds",
      "not reached",
      "not reached",
      "not reached",
    ]);
  });

  const withBehaviour = (change: (p: ProjectDocument) => void) => {
    const p = structuredClone(document);
    change(p);
    return p;
  };

  it("count a patch that was passed without an answer, and one that was answered twice", () => {
    const deaf = withBehaviour((p) => {
      p.behaviour.modes[0].responses[0].on = false;
    });
    expect(judgeCheck({ answersOnce: "coral" as TargetId }, at("overcast", deaf))).toMatchObject({
      outcome: "does not",
      figure: "0/2",
    });
    const eager = withBehaviour((p) => {
      p.behaviour.modes[0].responses[0] = {
        ...p.behaviour.modes[0].responses[0],
        when: { present: ["coral" as TargetId] },
        fires: "while present",
        steps: [],
      };
    });
    expect(judgeCheck({ answersOnce: "coral" as TargetId }, at("overcast", eager))).toMatchObject({
      outcome: "does not",
    });
  });

  it("take the end, the count and the time as they are", () => {
    const trace = at("overcast");
    expect(judgeCheck({ endsOn: "teal" as TargetId }, trace)).toMatchObject({ outcome: "does not", figure: "violet" });
    expect(judgeCheck({ counter: "tally", is: 3 }, trace)).toMatchObject({ outcome: "does not", figure: "2" });
    expect(judgeCheck({ withinMs: 1000 }, trace)).toMatchObject({ outcome: "does not", t: 1000 });
    expect(judgeCheck({ seesInOrder: ["teal", "coral"] as TargetId[] }, trace)).toMatchObject({
      outcome: "does not",
      figure: "1/2",
    });
  });

  it("read as sentences", () => {
    const name = (id: string) => id.toUpperCase();
    expect(document.courses[0].checks.slice(1).map((c) => checkSentence(c, name))).toEqual([
      "Answers every CORAL once",
      "Never answers TERRACOTTA",
      "The count of tally is 2",
      "Ends on VIOLET",
      "Finishes within 45 s",
    ]);
  });
});
