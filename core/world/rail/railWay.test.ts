import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { chordInside, lengthOf, meetsItself, type Rail, type RailSection, RailWay, railGap } from "./railWay";

const rail = (way: RailSection[], closed = false): Rail => ({ from: [100, 200], heading: 0, closed, way });
/** Two straights of 600 mm and two half circles. */
const LOOP = rail([{ straight: 600 }, { arc: 180, radius: 250 }, { straight: 600 }, { arc: 180, radius: 250 }], true);

const sections = fc.array(
  fc.oneof(
    fc.record({ straight: fc.double({ min: 10, max: 2000, noNaN: true }) }),
    fc.record({
      arc: fc.double({ min: 5, max: 350, noNaN: true }).chain((arc) => fc.constantFrom(arc, -arc)),
      radius: fc.double({ min: 50, max: 2000, noNaN: true }),
    }),
  ),
  { minLength: 1, maxLength: 12 },
);

describe("a way along a rail", () => {
  it("leads on straight and around bends, left and right", () => {
    const way = new RailWay(rail([{ straight: 300 }, { arc: 90, radius: 200 }, { arc: -90, radius: 100 }]));
    expect(way.at(300)).toMatchObject({ x: 400, y: 200, heading: 0 });
    const turned = way.at(300 + 100 * Math.PI);
    expect([turned.x, turned.y, turned.heading]).toEqual([600, 400, 90].map((x) => expect.closeTo(x, 9)));
    expect([way.end.x, way.end.y, way.end.heading]).toEqual([700, 500, 0].map((x) => expect.closeTo(x, 9)));
    expect(way.length).toBeCloseTo(300 + 100 * Math.PI + 50 * Math.PI, 9);
  });

  it("is everywhere as long as it says, whatever its sections: small ways add up to it", () => {
    fc.assert(
      fc.property(sections, fc.double({ min: -300, max: 300, noNaN: true }), (way, heading) => {
        const made = new RailWay({ ...rail(way), heading });
        expect(made.length).toBeCloseTo(
          way.reduce((sum, section) => sum + lengthOf(section), 0),
          6,
        );
        const steps = 4000;
        let walked = 0;
        let before = made.at(0);
        for (let i = 1; i <= steps; i++) {
          const now = made.at((made.length * i) / steps);
          walked += Math.sqrt((now.x - before.x) ** 2 + (now.y - before.y) ** 2);
          before = now;
        }
        // Chords are a little shorter than the bends that they cut off.
        expect(walked / made.length).toBeGreaterThan(0.995);
        expect(walked / made.length).toBeLessThanOrEqual(1 + 1e-9);
        expect([before.x, before.y]).toEqual([made.end.x, made.end.y].map((x) => expect.closeTo(x, 6)));
      }),
      { numRuns: 60 },
    );
  });

  it("gives the same place whichever was asked before", () => {
    const asked = new RailWay(LOOP);
    fc.assert(
      fc.property(fc.double({ min: -9000, max: 9000, noNaN: true }), (mm) => {
        expect(asked.at(mm)).toEqual(new RailWay(LOOP).at(mm));
      }),
    );
  });

  it("knows the straight on which both bogies lie", () => {
    const loop = new RailWay(LOOP);
    expect(loop.sectionAround(300, 60)).toMatchObject({ from: 0, to: 600 });
    expect(loop.sectionAround(loop.length + 300, 60)).toMatchObject({ from: 0, to: 600 });
    expect(loop.sectionAround(570, 60)).toBeUndefined();
    expect(loop.sectionAround(800, 60)).toMatchObject({ from: 600, section: { arc: 180 } });
  });

  it("goes around where it is closed, and straight on beyond the ends of an open one", () => {
    const loop = new RailWay(LOOP);
    for (const mm of [0, 100, 700, -50]) {
      const [once, twice] = [loop.at(mm), loop.at(mm + loop.length)];
      expect([twice.x, twice.y]).toEqual([once.x, once.y].map((x) => expect.closeTo(x, 6)));
    }
    const open = new RailWay(rail([{ straight: 300 }]));
    expect([open.at(-40).x, open.at(340).x]).toEqual([60, 440]);
  });
});

describe("a closed rail", () => {
  it("meets itself to within 1 mm and 0.1°", () => {
    expect(meetsItself(LOOP)).toBe(true);
    expect(railGap(LOOP).mm).toBeLessThan(1e-9);
    const longer = { ...LOOP, way: LOOP.way.with(0, { straight: 601.5 }) };
    expect(meetsItself(longer)).toBe(false);
    expect(railGap(longer).mm).toBeCloseTo(1.5, 9);
    const less = { ...LOOP, way: LOOP.way.with(1, { arc: 179.8, radius: 250 }) };
    expect(railGap(less).degrees).toBeCloseTo(-0.2, 9);
    expect(meetsItself(less)).toBe(false);
  });
});

it("the middle between two bogies lies inside a bend as the chord says", () => {
  // 120 mm apart on a radius of 250 mm: 7.307 mm.
  expect(chordInside(250, 120)).toBeCloseTo(7.3068, 4);
  const way = new RailWay(rail([{ arc: 270, radius: 250 }]));
  // The chord between two places whose straight distance is the bogies'.
  const angle = 2 * Math.asin(60 / 250);
  const [rear, front] = [way.at(300), way.at(300 + 250 * angle)];
  const [x, y] = [(rear.x + front.x) / 2, (rear.y + front.y) / 2];
  // The bend's middle lies a radius to the left of the beginning.
  expect(250 - Math.sqrt((x - 100) ** 2 + (y - 450) ** 2)).toBeCloseTo(chordInside(250, 120), 9);
});
