import { describe, expect, it } from "vitest";
import { displayToLinear, hexToRgb, linearToDisplay } from "../../colour";
import type { CourseId, RuleSetId, SensorId, TapeId, TargetId } from "../../names";
import { emptyProject, newCamera, type ProjectDocument } from "../../project";
import type { Box, Light, TapeHead } from "../../readings";
import type { Target } from "../../rules";
import { markedTapes, sampleOf, suggest } from "../../teaching";
import { allPixels, type Frame, taughtBy, Watch } from "../../vision";
import { chance } from "../chance";
import { emptyCourse, type FloorCourse } from "../courses";
import { drawn } from "../drawn";
import type { Mount } from "../robots";
import { Camera } from "./Camera";

const SIZE = { width: 160, height: 120 };
const PAINTS = ["#c8322e", "#e0c02a", "#3f9a47", "#1f8f94", "#2f5fb0", "#7a4fa8", "#d86aa0", "#e07b1f"];
const GROUNDS = ["#63676b", "#a8a59c", "#4a4038"];
const OVERCAST: Light = { id: "overcast" as Light["id"], name: "Overcast", rgb: [1, 1, 1], level: 0.4 };
const LEFT = 12;
const SIDE = 36;

/**
 * A photograph of patches side by side on a ground, drawn by no camera of the program's: a lamp that leans to one
 * colour and falls off to the right, exposed to a middle grey, with noise, encoded as sRGB.
 */
function photograph(seed: number, paints: readonly string[], ground: string): Frame {
  const dice = chance(seed, "photograph");
  const tint = [0, 1, 2].map(() => 1 + 0.06 * (2 * dice.uniform() - 1));
  const rgbOf = (paint: string) => hexToRgb(paint).map(displayToLinear);
  const light: number[] = [];
  for (let row = 0; row < SIZE.height; row++)
    for (let column = 0; column < SIZE.width; column++) {
      const patch = Math.floor((column - LEFT) / (SIDE + 12));
      const inside = row >= 40 && row < 40 + SIDE && column >= LEFT && (column - LEFT) % (SIDE + 12) < SIDE;
      const rho = rgbOf((inside ? paints[patch] : undefined) ?? ground);
      for (let c = 0; c < 3; c++) light.push(rho[c] * tint[c] * (1 - (0.15 * column) / SIZE.width));
    }
  const exposure = 0.18 / (light.reduce((a, b) => a + b, 0) / light.length);
  const data = Uint8Array.from(light, (x) => {
    const signal = x * exposure + 0.006 * dice.normal();
    return Math.round(255 * linearToDisplay(Math.max(0, Math.min(1, signal))));
  });
  return { ...SIZE, channels: 3, data };
}

/** Things of three paints on a ground: a rule set taught by boxes of one photograph, and a course to try it on. */
function taught(seed: number, values: "srgb" | "linear") {
  const dice = chance(seed, "paints");
  const left = [...PAINTS];
  const paints = [0, 1, 2].map(() => left.splice(Math.floor(dice.uniform() * left.length), 1)[0]);
  const ground = GROUNDS[Math.floor(dice.uniform() * GROUNDS.length)];
  const targets = [...paints, ground].map(
    (paint, i): Target => ({
      id: `t${i}` as TargetId,
      code: `T${i}`,
      name: `Thing ${i}`,
      kind: i === paints.length ? "background" : "tag",
      paint,
    }),
  );
  const camera = { ...newCamera("eye" as SensorId, "Eye", "main" as RuleSetId, SIZE), values };
  const box = (target: string, left: number, top: number, width: number): Box => ({
    id: "box-1" as never,
    t: 0,
    target: target as TargetId,
    left,
    top,
    width,
    height: 30,
  });
  const tape: TapeHead = {
    id: "shot" as TapeId,
    name: "Photograph",
    sensor: camera.id,
    origin: "import",
    marks: [],
    frames: ["shot"],
    boxes: [...paints.map((_, i) => box(`t${i}`, LEFT + i * (SIDE + 12) + 3, 43, 30)), box("t3", 5, 85, 150)],
  };
  const base = emptyProject("Photograph");
  const [set] = base.ruleSets;
  const project: ProjectDocument = {
    ...base,
    targets,
    sensors: [{ ...camera, ruleSet: set.id }],
    tapes: [tape],
  };
  const readings = new Map([[tape.id, { t: Float64Array.of(0), channels: {} }]]);
  const shot = photograph(seed, paints, ground);
  const known = taughtBy(
    project,
    readings,
    allPixels(project, readings, () => shot),
  );
  const sample = sampleOf(known.project, markedTapes(known.project, known.readings), set.id);
  return { targets, camera, set: { ...set, rules: suggest(sample).rules.map((r) => r.rule) } };
}

/** Counts the things on a course that are found by what a photograph taught, and all of them. */
function found(seed: number, values: "srgb" | "linear"): [found: number, of: number] {
  const { targets, camera, set } = taught(seed, values);
  const course: FloorCourse = {
    ...(emptyCourse("c" as CourseId, "c", "t3" as TargetId) as FloorCourse),
    size: [2000, 1200],
    patches: [0, 1, 2].map((i) => ({
      id: `patch-${i}` as never,
      shape: { disc: 90 },
      target: `t${i}` as TargetId,
      at: [400 + 500 * i, 600] as [number, number],
      angle: 0,
    })),
  };
  const mount: Mount = { sensor: camera.id, x: 0, y: 0, z: 180, looks: "ahead", tilt: 35 };
  const eye = new Camera(camera, mount, OVERCAST, drawn(course, 1), targets, seed);
  const watch = new Watch(camera, set, targets);
  let [n, of] = [0, 0];
  course.patches.forEach(({ target, at }, i) => {
    const frame = eye.take({ x: at[0] - 300, y: at[1] + 20 * (i - 1), sin: 0, cos: 1 }, i);
    const shown = eye.shows.filter((thing) => thing === i).length;
    if (shown < 200) return;
    of++;
    const area = watch.look(frame).get(target as TargetId)?.area ?? 0;
    if (area > 0.7 * shown && area < 1.3 * shown) n++;
  });
  return [n, of];
}

describe("rules taught by a photograph", () => {
  const all = (values: "srgb" | "linear") =>
    Array.from({ length: 20 }, (_, seed) => found(seed, values)).reduce(([n, of], [a, b]) => [n + a, of + b]);

  it("find the same things on the simulated course, where the camera's values are sRGB", () => {
    const [n, of] = all("srgb");
    expect(of).toBe(60);
    expect(n / of).toBeGreaterThanOrEqual(0.95);
  });

  it("do not where they are said to be linear", () => {
    const [n, of] = all("linear");
    expect(n / of).toBeLessThan(0.8);
  });
});
