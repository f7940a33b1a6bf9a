import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { chance } from "../chance";
import type { DrawnCourse } from "../courses/DrawnCourse";
import { ROBOTS } from "../robots";
import type { SorterRobot } from "../robots/sorterSchema";
import { Belt } from "./Belt";

const TICK = 5;
const bare = ROBOTS.get("sorter").fresh({
  id: "sorter",
  name: "Sorter",
  mounts: [{ sensor: "belly", x: 50, y: 0, z: 14, looks: "down" }] as unknown as SorterRobot["mounts"],
  lamps: [],
  buttons: [],
  servos: [],
}) as SorterRobot;
const gate = (atMm: number, more = {}) => ({
  id: `gate-${atMm}`,
  atMm,
  crate: `crate-${atMm}`,
  travelMs: 100,
  reachMm: 80,
  ...more,
});
const MOTOR = { ...bare.belt, topSpeed: 200, lagMs: 0 };

/** A belt of 600 mm with discs of 50 mm whose middles lie where it is said, in mm from its start. */
function belt(at: number[], gates: ReturnType<typeof gate>[], motor: Partial<typeof MOTOR> = {}) {
  const patches = at.map((x) => ({ as: "piece", shape: { disc: 50 }, at: [x, 60], target: "coral", angle: 0 }));
  const gone: number[] = [];
  const made = new Belt(
    { ...bare, belt: { ...MOTOR, ...motor }, gates },
    60,
    {
      course: { patches: patches as DrawnCourse["patches"], size: [600, 120] },
      floor: { lift: (piece) => gone.push(piece) },
    },
    chance(1, "motors"),
    TICK,
  );
  made.command(1, 1);
  const steps = (n: number) => {
    for (let i = 0; i < n; i++) made.step();
    return made.landed;
  };
  return { made, steps, gone };
}

describe("a belt", () => {
  it("goes as its motor does: the way of a lag of first order, to within a tick", () => {
    const { made, steps } = belt([], [], { lagMs: 80 });
    steps(200);
    // v (t − τ (1 − e^(−t/τ))) after a second.
    const way = 200 * (1 - 0.08 * (1 - Math.exp(-1 / 0.08)));
    expect(Math.abs(made.rolled - way)).toBeLessThan(200 * (TICK / 1000));
    expect(made.travel.left).toBeCloseTo(made.rolled, 9);
  });

  it("whose motor is built in the wrong way round goes back, though its encoder counts ahead", () => {
    const { made, steps } = belt([], [], { mountedReversed: true });
    steps(200);
    expect([made.rolled, made.travel.left]).toEqual([-made.travel.left, -made.rolled]);
    expect(made.rolled).toBeLessThan(-190);
  });

  it("drops a piece into the end crate when its middle has passed the end, to within a tick", () => {
    const { steps, made, gone } = belt([-100], []);
    const due = Math.floor(700 / (200 * (TICK / 1000)));
    expect(steps(due)).toEqual([]);
    expect(steps(2)).toEqual([{ piece: 0, into: "end-crate" }]);
    expect(gone).toEqual([0]);
    expect(made.empty).toBe(true);
  });

  it("that nothing was laid onto never counts as empty", () => {
    expect(belt([], []).made.empty).toBe(false);
  });
});

describe("a gate", () => {
  it("that is open takes a piece once it lies wholly within its reach", () => {
    const { made, steps } = belt([0], [gate(300)]);
    made.gate("gate-300", true);
    // Its tail is within reach at 260 mm: the middle at 285 after 1425 ms, which is 285 ticks.
    expect(steps(284)).toEqual([]);
    expect(steps(2)).toEqual([{ piece: 0, into: "crate-300", gate: "gate-300" }]);
  });

  it("that moves at once is open from the next tick on", () => {
    const { made, steps } = belt([0], [gate(300, { travelMs: 0 })]);
    made.gate("gate-300", true);
    expect(steps(286)).toEqual([{ piece: 0, into: "crate-300", gate: "gate-300" }]);
  });

  it("that is closed, or of another place, lets it pass", () => {
    const { made, steps } = belt([0], [gate(300), gate(450)]);
    made.gate("gate-450", true);
    expect(steps(434)).toEqual([]);
    expect(steps(2)).toEqual([{ piece: 0, into: "crate-450", gate: "gate-450" }]);
  });

  it.each([
    ["opens beneath it", false, 300],
    ["opens while it comes in", false, 240],
    ["closes on it", true, 240],
  ])("jams a piece when it %s, even in part", (_, openFirst, at) => {
    const { made, steps } = belt([0], [gate(300)]);
    if (openFirst) made.gate("gate-300", true);
    steps(at);
    expect(made.landed).toEqual([]);
    made.gate("gate-300", !openFirst);
    expect(steps(1)).toEqual([{ piece: 0, into: null, gate: "gate-300" }]);
    // What is lost is lost: it does not come out at the end.
    expect(steps(1000)).toHaveLength(1);
  });

  it("opens and closes in its own time, and turns round on its way", () => {
    const { made, steps } = belt([0, -200], [gate(300, { travelMs: 200 })]);
    made.gate("gate-300", true);
    steps(20);
    made.gate("gate-300", false);
    // Half open, it is closed again after as long: both pieces pass.
    steps(20);
    expect(steps(800).map(({ into }) => into)).toEqual(["end-crate", "end-crate"]);
  });

  it("may move when the piece has just left its reach, and before it comes there", () => {
    const { made, steps } = belt([0], [gate(300)]);
    // The middle at 366 mm: the tail at 341, 1 mm past the reach.
    steps(366);
    made.gate("gate-300", true);
    expect(steps(1)).toEqual([]);
  });
});

it("no piece is ever in two places, and none is lost without a gate that moved on it", () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 0, max: 120 }), { minLength: 1, maxLength: 12 }),
      fc.array(fc.record({ after: fc.integer({ min: 1, max: 120 }), flap: fc.nat({ max: 1 }), open: fc.boolean() }), {
        maxLength: 25,
      }),
      fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 25, maxLength: 25 }),
      (gaps, moves, speeds) => {
        let x = 0;
        const at = gaps.map((gap) => {
          const here = x;
          x -= 50 + gap;
          return here;
        });
        const { made, steps, gone } = belt(at, [gate(200), gate(380, { travelMs: 0 })]);
        let moved = new Set<string>();
        moves.forEach(({ after, flap, open }, i) => {
          const speed = speeds[i] < -0.5 ? speeds[i] : Math.abs(speeds[i]);
          made.command(speed, speed);
          const before = made.landed.length;
          steps(after);
          const moving = moved;
          for (const { into, gate: by } of made.landed.slice(before)) {
            if (into === null) expect(moving).toContain(by);
            else expect(["crate-200", "crate-380", "end-crate"]).toContain(into);
          }
          const id = ["gate-200", "gate-380"][flap];
          made.gate(id, open);
          moved = new Set([...moved, id]);
        });
        made.command(1, 1);
        steps(6000);
        const landed = made.landed.map(({ piece }) => piece);
        expect(new Set(landed).size).toBe(landed.length);
        expect([...landed].sort((a, b) => a - b)).toEqual(at.map((_, i) => i));
        expect(gone).toEqual(landed);
        expect(made.empty).toBe(true);
      },
    ),
    { numRuns: 200 },
  );
});
