import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { chance } from "../chance";
import type { CarrierRobot } from "../robots/carrierSchema";
import { newMotor } from "../robots/parts";
import { bodyOnRail, Carrier } from "./Carrier";
import { chordInside, type Rail, RailWay } from "./railWay";

const robot = (change: Partial<CarrierRobot> = {}): CarrierRobot => ({
  id: "carrier",
  name: "Carrier",
  kind: "carrier",
  mounts: [{ sensor: "eye" as never, x: 0, y: 0, z: 14, looks: "down" }],
  lamps: [],
  buttons: [],
  servos: [],
  motor: { ...newMotor("motor"), lagMs: 0 },
  wheelMm: 40,
  bogieMm: 120,
  tractionMmS2: 2500,
  coastMmS2: 400,
  ...change,
});
const open: Rail = { from: [0, 0], heading: 0, closed: false, way: [{ straight: 2000 }] };
const bend: Rail = { from: [0, 0], heading: 0, closed: true, way: [{ arc: 360, radius: 250 }] };
const TICK = 5;
const on = (rail: Rail, at: number, change: Partial<CarrierRobot> = {}, facing: "forward" | "back" = "forward") =>
  new Carrier(robot(change), { way: new RailWay(rail), at, facing }, chance(1, "motors"), TICK);
const run = (carrier: Carrier, ms: number) => {
  for (let t = 0; t < ms; t += TICK) carrier.step();
};

/** Two places on a rail, equally far along it from a third, and so far apart in a straight line: by halving. */
function bogies(way: RailWay, mm: number, apart: number) {
  let [low, high] = [apart / 2, apart];
  for (let k = 0; k < 60; k++) {
    const half = (low + high) / 2;
    const [a, b] = [way.at(mm - half), way.at(mm + half)];
    if (Math.hypot(b.x - a.x, b.y - a.y) < apart) low = half;
    else high = half;
  }
  return [way.at(mm - low), way.at(mm + low)];
}

describe("a carrier on a rail", () => {
  it("runs inside a bend by what the chord between its bogies cuts off, everywhere in it", () => {
    const carrier = on(bend, 0);
    carrier.command(0.5, 0.5);
    for (let i = 0; i < 400; i++) {
      carrier.step();
      const fromMiddle = Math.sqrt(carrier.x ** 2 + (carrier.y - 250) ** 2);
      // The body is rigid: its bogies are 120 mm apart in a straight line.
      expect(250 - fromMiddle).toBeCloseTo(250 - Math.sqrt(250 ** 2 - 60 ** 2), 6);
      expect(chordInside(250, 120)).toBeCloseTo(250 - Math.sqrt(250 ** 2 - 60 ** 2), 12);
    }
  });

  it("looks along its chord all around a closed rail, over the seam and at its start as well", () => {
    for (const [rail, at] of [
      [bend, 0],
      [bend, 2 * Math.PI * 250 - 300],
    ] as const) {
      const carrier = on(rail, at);
      const off = () => {
        const chord = (Math.atan2(carrier.sin, carrier.cos) * 180) / Math.PI;
        return Math.abs(((((carrier.heading - chord + 180) % 360) + 360) % 360) - 180);
      };
      expect(off()).toBeLessThan(1e-6);
      carrier.command(1, 1);
      for (let i = 0; i < 600; i++) {
        carrier.step();
        expect(off()).toBeLessThan(1e-6);
      }
    }
  });

  it("brakes over the way that its traction allows: v² / 2a", () => {
    const carrier = on(open, 200);
    carrier.command(1, 1);
    run(carrier, 1500);
    const [v, before] = [carrier.speed, carrier.mm];
    expect(v).toBe(400);
    carrier.command(0, 0);
    run(carrier, 1000);
    const way = carrier.mm - before;
    expect(carrier.speed).toBe(0);
    // Within one tick.
    expect(Math.abs(way - (v * v) / (2 * 2500))).toBeLessThan((v * TICK) / 1000);
  });

  it("slows down evenly with the power off", () => {
    const carrier = on(open, 200);
    carrier.command(0.5, 0.5);
    run(carrier, 1000);
    const before = carrier.mm;
    carrier.command(null, null);
    run(carrier, 2000);
    expect(carrier.speed).toBe(0);
    expect(Math.abs(carrier.mm - before - 200 ** 2 / (2 * 400))).toBeLessThan((200 * TICK) / 1000);
  });

  it("turns its wheels farther than it goes where they slip, and says so", () => {
    const carrier = on(open, 200);
    carrier.command(1, 1);
    carrier.step();
    expect(carrier.slipping).toBe(true);
    run(carrier, 1000);
    expect(carrier.slipping).toBe(false);
    // Lost while it sped up at its traction: v² / 2a.
    expect(carrier.travel.left - (carrier.mm - 200)).toBeCloseTo(400 ** 2 / (2 * 2500), -1);
  });

  it("with its nose against the way drives the other way, and so does one whose motor is built in reversed", () => {
    const back = on(open, 1000, {}, "back");
    back.command(0.5, 0.5);
    run(back, 500);
    expect(back.mm).toBeLessThan(1000);
    expect([back.heading, back.cos]).toEqual([180, -1]);
    const reversed = on(open, 1000, { motor: { ...newMotor("motor"), mountedReversed: true } });
    reversed.command(0.5, 0.5);
    run(reversed, 500);
    expect(reversed.mm).toBeLessThan(1000);
    // Its own encoder counts on as it was told.
    expect(reversed.travel.left).toBeGreaterThan(0);
  });

  it("is at every tick where the chord between its bogies is, on straights and in bends, round after round", () => {
    const loop: Rail = {
      from: [50, 60],
      heading: 30,
      closed: true,
      way: [{ straight: 700 }, { arc: 180, radius: 200 }, { straight: 700 }, { arc: 180, radius: 200 }],
    };
    const way = new RailWay(loop);
    for (const facing of ["forward", "back"] as const) {
      const carrier = on(loop, 300, {}, facing);
      carrier.command(1, 1);
      for (let i = 0; i < 3000; i++) {
        carrier.step();
        const { x, y, sin, cos } = bodyOnRail(way, carrier.mm, 120, facing === "back" ? -1 : 1);
        expect([carrier.x, carrier.y, carrier.sin, carrier.cos]).toEqual(
          [x, y, sin, cos].map((v) => expect.closeTo(v, 6)),
        );
      }
    }
  });

  it("does not start below the dead band of a motor without regulation", () => {
    const carrier = on(open, 200, { motor: { ...newMotor("motor"), regulated: false, deadBand: 0.2 } });
    carrier.command(0.19, 0.19);
    run(carrier, 500);
    expect(carrier.mm).toBe(200);
  });

  it("stands at the buffer of an open rail, with its bogie on it, and goes around a closed one", () => {
    const carrier = on(open, 1800);
    carrier.command(1, 1);
    run(carrier, 2000);
    expect([carrier.mm, carrier.speed, carrier.hitEnd]).toEqual([1940, 0, true]);
    const around = on(bend, 0);
    around.command(1, 1);
    run(around, 8000);
    expect(around.hitEnd).toBe(false);
    expect(around.mm).toBeGreaterThan(2 * Math.PI * 250);
  });

  it("is never off its rail, whatever rail it is and whatever it is told: its body is the chord between two places on it", () => {
    const section = fc.oneof(
      fc.record({ straight: fc.double({ min: 20, max: 900, noNaN: true }) }),
      fc.record({ arc: fc.integer({ min: 5, max: 300 }), radius: fc.double({ min: 90, max: 900, noNaN: true }) }),
      fc.record({ arc: fc.integer({ min: -300, max: -5 }), radius: fc.double({ min: 90, max: 900, noNaN: true }) }),
    );
    const told = fc.record({
      power: fc.double({ min: -1, max: 1, noNaN: true }),
      ticks: fc.integer({ min: 1, max: 300 }),
    });
    fc.assert(
      fc.property(
        fc.array(section, { minLength: 1, maxLength: 6 }),
        fc.array(told, { minLength: 1, maxLength: 6 }),
        fc.constantFrom("forward" as const, "back" as const),
        (sections, orders, facing) => {
          const rail: Rail = { from: [0, 0], heading: 0, closed: false, way: [{ straight: 130 }, ...sections] };
          const way = new RailWay(rail);
          const carrier = on(rail, 70, {}, facing);
          for (const { power, ticks } of orders) {
            carrier.command(power, power);
            for (let i = 0; i < ticks; i++) {
              carrier.step();
              expect(carrier.mm).toBeGreaterThanOrEqual(60);
              expect(carrier.mm).toBeLessThanOrEqual(way.length - 60);
              const [a, b] = bogies(way, carrier.mm, 120);
              expect(Math.abs(carrier.x - (a.x + b.x) / 2) + Math.abs(carrier.y - (a.y + b.y) / 2)).toBeLessThan(1e-5);
              // Its nose lies along the chord, or the other way round.
              const nose = facing === "back" ? -1 : 1;
              const across = (b.x - a.x) * carrier.sin - (b.y - a.y) * carrier.cos;
              expect(Math.abs(across)).toBeLessThan(1e-3);
              expect(nose * ((b.x - a.x) * carrier.cos + (b.y - a.y) * carrier.sin)).toBeGreaterThan(0);
            }
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});
