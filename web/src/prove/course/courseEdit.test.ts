import type { CourseId, TargetId } from "@perceptum/core/names";
import type { Target } from "@perceptum/core/rules";
import { Course, emptyCourse } from "@perceptum/core/world";
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
  removed,
  sizedTo,
  snapped,
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
  const made = added(bare, what, targets, coral, "start-key");
  if (made === undefined) throw new Error(`${what} cannot be added`);
  return made;
};

describe("what is added", () => {
  const paintOf = (what: Addable, last: TargetId | null, among = targets) => {
    const made = added(bare, what, among, last, undefined);
    const part = made?.thing.part;
    return part === "patches" || part === "lines" || part === "cards" ? made?.course[part][0].target : undefined;
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
    expect(added(bare, "zone", targets, null, undefined)?.course.zones[0].name).toBe("Zone 1");
  });
});

describe("every part of a course", () => {
  it.each(Object.keys(ADDABLE) as Addable[])("%s is added as something valid, and removed again", (what) => {
    const { course, thing } = withOne(what);
    expect(Course.safeParse(course).success).toBe(true);
    expect(removed(course, thing)).toEqual(bare);
  });

  it.each(["rect", "disc", "polygon", "line", "sign", "zone", "shade", "start"] as Addable[])(
    "%s moves by so many mm, and back",
    (what) => {
      const { course, thing } = withOne(what);
      const there = movedBy(course, thing, 30, -20);
      expect(placedOf(there, thing)?.x).toBe((placedOf(course, thing)?.x ?? 0) + 30);
      expect(movedBy(there, thing, -30, 20)).toEqual(course);
    },
  );

  it.each(["rect", "zone", "sign", "start", "line"] as Addable[])("%s is duplicated beside itself", (what) => {
    const { course, thing } = withOne(what);
    const { course: two, thing: copy } = duplicated(course, thing);
    expect(Course.safeParse(two).success).toBe(true);
    expect(placedOf(two, copy)?.x).toBe((placedOf(two, thing)?.x ?? 0) + 40);
  });
});

describe("sizes, angles and points", () => {
  it("are set around the middle", () => {
    const { course, thing } = withOne("rect");
    const sized = sizedTo(course, thing, 200, 1);
    expect(sized.patches[0].shape).toEqual({ rect: [200, 5] });
    expect(turnedTo(course, thing, 45).patches[0].angle).toBe(45);
    const shade = withOne("shade");
    expect(placedOf(sizedTo(shade.course, shade.thing, 100, 60), shade.thing)).toMatchObject({
      x: 1000,
      y: 600,
      size: [100, 60],
    });
  });

  it("of a turned polygon stay where they are while one is moved", () => {
    const { course, thing } = withOne("polygon");
    const turned = turnedTo(course, thing, 30);
    const before = pointsOf(turned, thing);
    const after = pointsOf(pointMoved(turned, thing, 1, [1100, 700]), thing);
    expect(after[1][0]).toBeCloseTo(1100, 0);
    expect(after[0][0]).toBeCloseTo(before[0][0], 0);
    expect(after[2][1]).toBeCloseTo(before[2][1], 0);
  });

  it("of a line are added half-way and removed down to two", () => {
    const { course, thing } = withOne("line");
    const more = pointAdded(course, thing, 0);
    expect(pointsOf(more, thing)).toHaveLength(4);
    expect(pointsOf(more, thing)[1]).toEqual([850, 600]);
    let fewer = more;
    for (let i = 0; i < 5; i++) fewer = pointRemoved(fewer, thing, 0);
    expect(pointsOf(fewer, thing)).toHaveLength(2);
  });

  it("snap to a grid; the last start stays", () => {
    expect([snapped(124, 10), snapped(125, 10), snapped(-3, 5)]).toEqual([120, 130, -5]);
    expect(removed(bare, { part: "starts", index: 0 })).toBe(bare);
  });
});
