import type { CourseId, TargetId } from "@perceptum/core/names";
import { Course, emptyCourse, type RailCourse, RailWay, railGap } from "@perceptum/core/world";
import { describe, expect, it } from "vitest";
import { movedBy } from "../course/courseEdit";
import { closed, drawnOn, endDragged, nearestOn, newPlate, pieceBy, pieceTo, plateAt, withWay } from "./railEdit";

const loop = emptyCourse("loop" as CourseId, "Loop", "floor" as TargetId, "rail") as RailCourse;
const coral = { id: "coral" as TargetId, code: "CO", name: "Coral", kind: "tag", paint: "#e4573d" } as const;
const { rail } = loop;

describe("the way of a rail", () => {
  it("that does not meet itself any more is open from then on, and is closed by a straight", () => {
    const shorter = withWay(rail, rail.way.slice(0, 3).with(2, { straight: 500 }));
    expect(shorter.closed).toBe(false);
    expect(closed(shorter)).toMatch(/^Its end is [\d.]+ cm from its beginning and leads 180.0° elsewhere/);
    const led = withWay(shorter, [...shorter.way, { straight: 300 }, { arc: 180, radius: 250 }]);
    expect(led.closed).toBe(false);
    const whole = closed({ ...led, closed: false });
    if (typeof whole === "string") throw new Error(whole);
    expect(railGap(whole).mm).toBeLessThan(1e-6);
    expect(Course.safeParse({ ...loop, rail: whole }).success).toBe(true);
  });

  it("always has a section", () => {
    expect(withWay(rail, [])).toBe(rail);
  });
});

describe("a rail under a pointer", () => {
  const start = { ...new RailWay(rail).at(0), x: 0, y: 0 };

  it("gets a straight to what lies straight on, and to anything else the bend that leads through it", () => {
    expect(pieceTo(start, [412, 5], false)).toEqual({ straight: 410 });
    expect(pieceTo(start, [412, 5], true)).toEqual({ straight: 412 });
    // A quarter of a circle of 200 mm ends 200 mm ahead and 200 mm to the side.
    expect(pieceTo(start, [200, 200], false)).toEqual({ arc: 90, radius: 200 });
    expect(pieceTo(start, [200, -200], false)).toEqual({ arc: -90, radius: 200 });
    expect(pieceTo(start, [0, 500], false)).toEqual({ arc: 180, radius: 250 });
    const point: [number, number] = [173, 61];
    const fine = new RailWay({ ...rail, from: [0, 0], way: [pieceTo(start, point, true)], closed: false }).end;
    expect(Math.abs(fine.x - point[0]) + Math.abs(fine.y - point[1])).toBeLessThan(4);
  });

  it("is drawn on section by section until it meets itself, and then is closed", () => {
    let drawn = withWay(rail, [{ straight: 800 }]);
    const [x, y] = rail.from;
    for (const to of [
      [x + 800, y + 500],
      [x, y + 500],
    ] as const)
      drawn = drawnOn(drawn, to, false);
    expect(drawn.closed).toBe(false);
    drawn = drawnOn(drawn, [x + 3, y + 4], false);
    expect(drawn).toEqual(rail);
  });

  it("has the ends of its sections dragged, and moved by keys", () => {
    const [x, y] = rail.from;
    const longer = endDragged(rail, 0, [x + 912, y + 40], false);
    expect(longer).toMatchObject({ closed: false, way: [{ straight: 910 }, ...rail.way.slice(1)] });
    const bent = endDragged(rail, 1, [x + 1100, y + 300], false);
    expect(bent.way[1]).toEqual({ arc: 90, radius: 300 });
    expect(pieceBy(rail, 0, -3).way[0]).toEqual({ straight: 770 });
    expect(pieceBy(rail, 1, 2).way[1]).toEqual({ arc: 190, radius: 250 });
    expect(pieceBy(rail, 0, -1000).way[0]).toEqual({ straight: 10 });
  });

  it("tells where along it a point is nearest, and leads its starts along it", () => {
    const [x, y] = rail.from;
    expect(nearestOn(rail, [x + 123, y - 60])).toBe(123);
    const way = new RailWay(rail);
    for (const at of [17, 950, 1700, 3000]) {
      const { x, y, sin, cos } = way.at(at);
      expect(Math.abs(nearestOn(rail, [x - 12 * sin, y + 12 * cos]) - at)).toBeLessThan(1);
    }
    const [first] = loop.starts;
    const moved = movedBy(loop, { part: "starts", thing: first }, 50, 80);
    expect(moved.thing).toEqual({ ...first, at: first.at + 50 });
  });
});

describe("a plate", () => {
  it("is laid behind the last one, and goes along the rail: around a closed one, to the ends of an open one", () => {
    const first = newPlate(loop, [coral]);
    const second = newPlate({ ...loop, plates: [first] }, [coral]);
    expect([first, second].map(({ id, at, target }) => [id, at, target])).toEqual([
      ["plate-1", 200, "coral"],
      ["plate-2", 400, "coral"],
    ]);
    const { length } = new RailWay(rail);
    expect(plateAt(rail, first, length + 50).at).toBe(50);
    expect(plateAt(rail, first, -50).at).toBe(Math.round(length - 50));
    const open = { ...rail, closed: false, way: [{ straight: 500 }] };
    expect([plateAt(open, first, -50), plateAt(open, first, 900)].map(({ at }) => at)).toEqual([0, 500]);
  });
});
