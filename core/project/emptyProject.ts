import type { CourseId, LightId, ModeId, RuleSetId, SensorId, TargetId } from "../names";
import { emptyCourse, ROBOTS } from "../world";
import type { ProjectDocument } from "./schema";

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
    robot: ROBOTS.get("cart").fresh({
      id: "cart",
      name: "Cart",
      mounts: [{ sensor: "belly" as SensorId, x: 40, y: 0, z: 14, looks: "down" }],
      lamps: [],
      buttons: [],
      servos: [],
    }),
    courses: [emptyCourse("yard" as CourseId, "Yard", "floor" as TargetId)],
    tapes: [],
  };
}
