import type { CourseId, TargetId } from "@perceptum/core/names";
import type { Target } from "@perceptum/core/rules";
import { Course, type CoursePart, emptyCourse } from "@perceptum/core/world";
import { describe, expect, it } from "vitest";
import {
  ADDABLE,
  type Addable,
  added,
  duplicated,
  movedBy,
  placedOf,
  pointAdded,
  pointMoved,
  pointRemoved,
  pointsOf,
  sizedTo,
  snapped,
  thingIn,
  thingsOf,
  turnedTo,
} from "./courseEdit";

const coral = "coral" as TargetId;
const target = (id: string, kind: Target["kind"]): Target => ({
  id: id as TargetId,
  code: "xx",
  name: id,
  kind,
  paint: "#000000",
});
const targets = [
  target("floor", "background"),
  target("coral", "tag"),
  target("chalk", "background"),
  target("pass", "card"),
];
const bare = emptyCourse("yard" as CourseId, "Yard", "floor" as TargetId);
const withOne = (what: Addable) => {
  const of = added(bare, what, targets, coral, "start-key");
  if (of === undefined) throw new Error(`${what} cannot be added`);
  const part = of.part as CoursePart;
  return { of, course: { ...bare, [part]: [...bare[part], of.thing] } as Course };
};

describe("what is added", () => {
  const paintOf = (what: Addable, last: TargetId | null, among = targets) => {
    const made = added(bare, what, among, last, undefined);
    return made?.part === "patches" || made?.part === "lines" || made?.part === "cards" ? made.thing.target : undefined;
  };

  it("is painted as is likely: a patch with a tag, a line with another ground, a card with a card", () => {
    expect([paintOf("rect", null), paintOf("line", null), paintOf("card", null)]).toEqual(["coral", "chalk", "pass"]);
  });

  it("takes the target that was chosen last where that is likely, and never the ground", () => {
    expect([paintOf("rect", "pass" as TargetId), paintOf("rect", "floor" as TargetId)]).toEqual(["pass", "coral"]);
    expect([paintOf("line", "floor" as TargetId), paintOf("card", coral)]).toEqual(["chalk", "pass"]);
  });

  it("is of the ground only where there is nothing else", () => {
    expect(paintOf("line", null, targets.slice(0, 1))).toBe("floor");
    expect(paintOf("line", null, targets.slice(0, 2))).toBe("coral");
  });

  it("counts zones from 1", () => {
    expect(added(bare, "zone", targets, null, undefined)?.thing).toMatchObject({ id: "zone-1", name: "Zone 1" });
  });
});

describe("every part of a course", () => {
  it.each(Object.keys(ADDABLE) as Addable[])("%s is added as something valid, and found by its id", (what) => {
    const { course, of } = withOne(what);
    expect(Course.safeParse(course).success).toBe(true);
    const part = of.part as CoursePart;
    expect(thingIn(course, { part, id: of.thing.id })).toEqual(of);
    expect(thingIn(bare, { part, id: of.thing.id })).toBeUndefined();
    expect(thingsOf(course, part).at(-1)).toEqual(of);
  });

  it.each(["rect", "disc", "polygon", "line", "sign", "zone", "shade", "start"] as Addable[])(
    "%s moves by so many mm, and back",
    (what) => {
      const { course, of } = withOne(what);
      const there = movedBy(course, of, 30, -20);
      expect(placedOf(course, there)?.x).toBe((placedOf(course, of)?.x ?? 0) + 30);
      expect(movedBy(course, there, -30, 20)).toEqual(of);
    },
  );

  it.each(["rect", "zone", "sign", "start", "line"] as Addable[])("%s is duplicated beside itself", (what) => {
    const { course, of } = withOne(what);
    const copy = duplicated(course, of);
    const part = of.part as CoursePart;
    expect(Course.safeParse({ ...course, [part]: [...course[part], copy.thing] }).success).toBe(true);
    expect(copy.thing.id).not.toBe(of.thing.id);
    expect(placedOf(course, copy)?.x).toBe((placedOf(course, of)?.x ?? 0) + 40);
  });
});

describe("sizes, angles and points", () => {
  it("are set around the middle", () => {
    const { of } = withOne("rect");
    expect(sizedTo(of, 200, 1).thing).toMatchObject({ shape: { rect: [200, 5] } });
    expect(turnedTo(of, 45).thing).toMatchObject({ angle: 45 });
    const shade = withOne("shade");
    expect(placedOf(shade.course, sizedTo(shade.of, 100, 60))).toMatchObject({ x: 1000, y: 600, size: [100, 60] });
  });

  it("of a turned polygon stay where they are while one is moved", () => {
    const turned = turnedTo(withOne("polygon").of, 30);
    const before = pointsOf(turned);
    const after = pointsOf(pointMoved(turned, 1, [1100, 700]));
    expect(after[1][0]).toBeCloseTo(1100, 0);
    expect(after[0][0]).toBeCloseTo(before[0][0], 0);
    expect(after[2][1]).toBeCloseTo(before[2][1], 0);
  });

  it("of a line are added half-way and removed down to two", () => {
    const more = pointAdded(withOne("line").of, 0);
    expect(pointsOf(more)).toHaveLength(4);
    expect(pointsOf(more)[1]).toEqual([850, 600]);
    let fewer = more;
    for (let i = 0; i < 5; i++) fewer = pointRemoved(fewer, 0);
    expect(pointsOf(fewer)).toHaveLength(2);
  });

  it("snap to a grid", () => {
    expect([snapped(124, 10), snapped(125, 10), snapped(-3, 5)]).toEqual([120, 130, -5]);
  });
});
