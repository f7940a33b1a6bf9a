import type { CartRobot, Course } from "../world/schema";
import type { CourseId, LightId, ModeId, RuleSetId, SensorId, TargetId } from "./ids";
import type { ProjectDocument } from "./schema";

/** A motor as it is unless one says otherwise. */
const newMotor = (id: string): CartRobot["motors"][0] => ({
  id,
  mountedReversed: false,
  invert: false,
  regulated: true,
  topSpeed: 400,
  lagMs: 60,
  deadBand: 0.06,
});

/** The wheels of a new cart. */
export function newWheels(): Pick<CartRobot, "motors" | "trackMm" | "wheelMm" | "tractionMmS2"> {
  return {
    motors: [newMotor("left-motor"), newMotor("right-motor")],
    trackMm: 120,
    wheelMm: 56,
    tractionMmS2: 2500,
  };
}

/** A bare floor with one start. */
export function emptyCourse(id: CourseId, name: string, ground: TargetId): Course {
  return {
    id,
    name,
    kind: "floor",
    size: [2000, 1200],
    ground,
    patches: [],
    lines: [],
    signs: [],
    zones: [],
    shade: [],
    cards: [],
    presses: [],
    held: { jitterMm: 2, trembleMm: 0.4 },
    starts: [{ name: "Gate", x: 150, y: 600, heading: 0 }],
    checks: [],
  };
}

/** A project to begin with: one sensor, one ground, a cart that stands still, an empty course. */
export function emptyProject(name: string): ProjectDocument {
  return {
    format: "perceptum-project",
    version: 1,
    name,
    sensors: [
      {
        id: "belly" as SensorId,
        name: "Belly sensor",
        ruleSet: "floor" as RuleSetId,
        reports: "rgb",
        scale: { r: [0, 1023], g: [0, 1023], b: [0, 1023] },
        order: "rgb",
        periodMs: 20,
        optics: {
          spotMm: 9,
          lampRgb: [1, 1, 1],
          bestMm: 14,
          depthMm: 11,
          minMm: 3,
          leakPerMm: 0.02,
          gain: [0.55, 0.55, 0.55],
          glare: [0.05, 0.05, 0.05],
          read: 0.003,
          shot: 0.01,
          integrationMs: 10,
          bits: 10,
        },
      },
    ],
    lights: [{ id: "overcast" as LightId, name: "Overcast", rgb: [1, 1, 1], level: 0.4 }],
    targets: [{ id: "floor" as TargetId, code: "fl", name: "Floor", kind: "background", paint: "#64666a" }],
    ruleSets: [
      {
        id: "floor" as RuleSetId,
        name: "Floor",
        method: "bands",
        nearest: { references: [], reject: 0.25 },
        rules: [],
        steady: { hits: 3, of: 4, release: 3, rejoinMs: 200 },
      },
    ],
    behaviour: {
      start: "patrol" as ModeId,
      counters: [],
      lists: [],
      routines: [],
      modes: [{ id: "patrol" as ModeId, name: "Patrol", entering: [], responses: [] }],
    },
    robot: {
      id: "cart",
      name: "Cart",
      kind: "cart",
      mounts: [{ sensor: "belly" as SensorId, x: 40, y: 0, z: 14, looks: "down" }],
      ...newWheels(),
      lamps: [],
      buttons: [],
      servos: [],
    },
    courses: [emptyCourse("yard" as CourseId, "Yard", "floor" as TargetId)],
    tapes: [],
  };
}
