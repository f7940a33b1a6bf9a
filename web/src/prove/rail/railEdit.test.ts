import type { CourseId, TargetId } from "@perceptum/core/names";
import { Course, emptyCourse, type RailCourse, RailWay, railGap } from "@perceptum/core/world";
import { describe, expect, it } from "vitest";
import { closed, plateAdded, plateAt, withWay } from "./railEdit";

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
    const plates = [{ at: 3000, length: 60, width: 60, aside: 0, target: coral.id }];
    const short = withWay({ ...loop, plates }, [{ straight: 400 }]);
    expect([short.plates[0].at, short.starts[0].at]).toEqual([400, 100]);
    expect(Course.safeParse(short).success).toBe(true);
    expect(withWay(loop, [])).toBe(loop);
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
