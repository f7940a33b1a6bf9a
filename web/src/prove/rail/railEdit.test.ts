import type { CourseId, TargetId } from "@perceptum/core/names";
import { Course, emptyCourse, type RailCourse, RailWay, railGap } from "@perceptum/core/world";
import { describe, expect, it } from "vitest";
import { movedBy } from "../course/courseEdit";
import { closed, drawnOn, endDragged, nearestOn, pieceBy, pieceTo, plateAdded, plateAt, withWay } from "./railEdit";

const loop = emptyCourse("loop" as CourseId, "Loop", "floor" as TargetId, "rail") as RailCourse;
const coral = { id: "coral" as TargetId, code: "CO", name: "Coral", kind: "tag", paint: "#e4573d" } as const;
const lengthOf = ({ rail }: RailCourse) => new RailWay(rail).length;

describe("the way of a rail", () => {
  it("that does not meet itself any more is open from then on, and is closed by a straight", () => {
    const shorter = withWay(loop, loop.rail.way.slice(0, 3).with(2, { straight: 500 }));
    expect(shorter.rail.closed).toBe(false);
    expect(closed(shorter)).toMatch(/^Its end is [\d.]+ cm from its beginning and leads 180.0° elsewhere/);
    const led = withWay(shorter, [...shorter.rail.way, { straight: 300 }, { arc: 180, radius: 250 }]);
    expect(led.rail.closed).toBe(false);
    const whole = closed({ ...led, rail: { ...led.rail, closed: false } });
    if (typeof whole === "string") throw new Error(whole);
    expect(railGap(whole.rail).mm).toBeLessThan(1e-6);
    expect(Course.safeParse(whole).success).toBe(true);
  });

  it("that got shorter keeps its plates and starts on it", () => {
    const plates = [{ id: "plate-1" as never, at: 3000, length: 60, width: 60, aside: 0, target: coral.id }];
    const short = withWay({ ...loop, plates }, [{ straight: 400 }]);
    expect([short.plates[0].at, short.starts[0].at]).toEqual([400, 100]);
    expect(Course.safeParse(short).success).toBe(true);
    expect(withWay(loop, [])).toBe(loop);
  });
});

describe("a rail under a pointer", () => {
  const start = { ...new RailWay(loop.rail).at(0), x: 0, y: 0 };

  it("gets a straight to what lies straight on, and to anything else the bend that leads through it", () => {
    expect(pieceTo(start, [412, 5], false)).toEqual({ straight: 410 });
    expect(pieceTo(start, [412, 5], true)).toEqual({ straight: 412 });
    // A quarter of a circle of 200 mm ends 200 mm ahead and 200 mm to the side.
    expect(pieceTo(start, [200, 200], false)).toEqual({ arc: 90, radius: 200 });
    expect(pieceTo(start, [200, -200], false)).toEqual({ arc: -90, radius: 200 });
    expect(pieceTo(start, [0, 500], false)).toEqual({ arc: 180, radius: 250 });
    const point: [number, number] = [173, 61];
    const fine = new RailWay({ ...loop.rail, from: [0, 0], way: [pieceTo(start, point, true)], closed: false }).end;
    expect(Math.abs(fine.x - point[0]) + Math.abs(fine.y - point[1])).toBeLessThan(4);
  });

  it("is drawn on piece by piece until it meets itself, and then is closed", () => {
    let drawn = withWay(loop, [{ straight: 800 }]);
    const [x, y] = loop.rail.from;
    for (const to of [
      [x + 800, y + 500],
      [x, y + 500],
    ] as const)
      drawn = drawnOn(drawn, to, false);
    expect(drawn.rail.closed).toBe(false);
    drawn = drawnOn(drawn, [x + 3, y + 4], false);
    expect(drawn.rail).toEqual(loop.rail);
  });

  it("has the ends of its pieces dragged, and moved by keys", () => {
    const [x, y] = loop.rail.from;
    const longer = endDragged(loop, 0, [x + 912, y + 40], false);
    expect(longer.rail).toMatchObject({ closed: false, way: [{ straight: 910 }, ...loop.rail.way.slice(1)] });
    const bent = endDragged(loop, 1, [x + 1100, y + 300], false);
    expect(bent.rail.way[1]).toEqual({ arc: 90, radius: 300 });
    expect(pieceBy(loop, 0, -3).rail.way[0]).toEqual({ straight: 770 });
    expect(pieceBy(loop, 1, 2).rail.way[1]).toEqual({ arc: 190, radius: 250 });
    expect(pieceBy(loop, 0, -1000).rail.way[0]).toEqual({ straight: 10 });
  });

  it("tells where along it a point is nearest, and leads its starts along it", () => {
    const [x, y] = loop.rail.from;
    expect(nearestOn(loop.rail, [x + 123, y - 60])).toBe(123);
    const way = new RailWay(loop.rail);
    for (const at of [17, 950, 1700, 3000]) {
      const { x, y, sin, cos } = way.at(at);
      expect(Math.abs(nearestOn(loop.rail, [x - 12 * sin, y + 12 * cos]) - at)).toBeLessThan(1);
    }
    const moved = movedBy(loop, { part: "starts", index: 0 }, 50, 80) as RailCourse;
    expect(moved.starts[0].at).toBe(loop.starts[0].at + 50);
  });
});

describe("a plate", () => {
  it("is laid behind the last one, and goes along the rail: around a closed one, to the ends of an open one", () => {
    const two = plateAdded(plateAdded(loop, [coral]), [coral]);
    expect(two.plates.map(({ at, target }) => [at, target])).toEqual([
      [200, "coral"],
      [400, "coral"],
    ]);
    expect(plateAt(two, 0, lengthOf(loop) + 50).plates[0].at).toBe(50);
    expect(plateAt(two, 0, -50).plates[0].at).toBe(Math.round(lengthOf(loop) - 50));
    const open = { ...two, rail: { ...loop.rail, closed: false, way: [{ straight: 500 }] } };
    expect([plateAt(open, 0, -50), plateAt(open, 0, 900)].map((c) => c.plates[0].at)).toEqual([0, 500]);
  });
});
