import { describe, expect, it } from "vitest";
import { emptyProject } from "../../project";
import { COURSES, emptyCourse, machineOf, ROBOTS, Robot, robotKindOf } from "..";
import { chance } from "../chance";
import { RailWay } from "../rail/railWay";

const { robot, targets, courses } = emptyProject("test");
const NOTHING_AROUND = { course: { patches: [], size: [1200, 800] as [number, number] }, floor: { lift() {} } };
const start = { x: 500, y: 400, heading: 90 };

describe.each(ROBOTS.entries.map((kind) => [kind.key, kind] as const))("a robot of the kind %s", (key, kind) => {
  const made = kind.fresh(robot);

  it("is one that its schema takes, and keeps what the kinds share", () => {
    expect(Robot.parse(made)).toEqual(made);
    expect(robotKindOf(made)).toBe(kind);
    const shared = ["id", "name", "mounts", "lamps", "buttons", "servos"] as const;
    for (const part of shared) expect(made[part]).toEqual(robot[part]);
    for (const other of ROBOTS.entries) expect(ROBOTS.get(key).fresh(other.fresh(made))).toEqual(made);
  });

  it("offers its sensors, lamps, buttons and servos to behaviour", () => {
    const more = {
      ...made,
      lamps: ["go"],
      buttons: ["start-key"],
      servos: [{ id: "arm", from: -90, to: 90, at: 10 }],
    };
    expect(machineOf(more)).toMatchObject({
      eyes: ["belly"],
      lamps: ["go"],
      buttons: ["start-key"],
      servos: [{ id: "arm", at: 10 }],
    });
  });

  it("begins where it is put, and moves only if it has motors", () => {
    // A straight rail of 4 m, for what runs on one; the bare course of its kind says where that begins.
    const way = new RailWay({ from: [500, 400], heading: 90, closed: false, way: [{ straight: 4000 }] });
    const rail = { way, at: 100, facing: "forward" } as const;
    const body = kind.body(made, { ...start, rail }, chance(1, "motors"), 5, NOTHING_AROUND);
    const [x, y] = [body.x, body.y];
    // A belt goes; what stands beside it is looked at from its start.
    expect([kind.course === "belt" ? x + 500 : x, kind.course === "rail" ? y - 100 : y]).toEqual([500, 400]);
    body.command(1, 1);
    for (let i = 0; i < 200; i++) body.step();
    const gone = Math.hypot(body.x - x, body.y - y);
    if (machineOf(made).topSpeed === 0) expect([gone, kind.drive]).toEqual([0, undefined]);
    else {
      // A second at full speed, less what it takes to get there.
      expect(gone).toBeGreaterThan(0.7 * machineOf(made).topSpeed);
      expect(gone).toBeLessThan(machineOf(made).topSpeed);
      if (kind.course !== "belt") expect(kind.widthMm(made)).toBeGreaterThan(0);
    }
  });

  it("is as much faster as it is told", () => {
    expect(machineOf(kind.faster(made, 2)).topSpeed).toBe(2 * machineOf(made).topSpeed);
    expect(kind.faster(made, 1)).toEqual(made);
  });

  it("changes one motor and no other", () => {
    const motors = kind.drive?.(made).motors ?? [];
    for (const motor of motors) {
      const changed = kind.withMotor?.(made, motor.id, { invert: true });
      const inverted = changed && kind.drive?.(changed).motors.filter((m) => m.invert);
      expect(inverted?.map((m) => m.id)).toEqual([motor.id]);
    }
    expect(COURSES.find(kind.course)?.key).toBe(kind.course);
  });
});

describe("a kind of course", () => {
  const ground = targets[0].id;
  it.each(COURSES.entries.map((kind) => [kind.key, kind] as const))(
    "%s: a bare one is kept by its schema",
    (key, kind) => {
      const course = emptyCourse(courses[0].id, "Bare", ground, key);
      expect(kind.schema.parse(course)).toEqual(course);
      expect(course.kind).toBe(key);
    },
  );

  const body = (x: number, y: number) => ({
    ...robotKindOf(robot).body(robot, start, chance(1, "m"), 5, NOTHING_AROUND),
    x,
    y,
  });
  const laid = { size: [1000, 800] as const, cards: [{ atMs: 500, forMs: 1500 }], presses: [] };
  it("floor ends where the robot has left it; by hand nothing leaves", () => {
    const [floor, hand] = [COURSES.get("floor"), COURSES.get("hand")];
    for (const [x, y, out] of [
      [1, 1, false],
      [999, 799, false],
      [-1, 400, true],
      [1001, 400, true],
      [500, 801, true],
    ] as const) {
      expect(floor.ends(laid as never, body(x, y))).toBe(out ? "left the course" : undefined);
      expect(hand.ends(laid as never, body(x, y))).toBeUndefined();
    }
    expect([floor.limitMs(laid as never), hand.limitMs(laid as never)]).toEqual([120_000, 7000]);
  });
});
