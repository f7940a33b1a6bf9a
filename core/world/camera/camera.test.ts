import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { withCamera } from "../../behaviour/arbitrary";
import { displayToLinear, hexToRgb, linearToDisplay } from "../../colour";
import type { CourseId, TargetId } from "../../names";
import { emptyProject } from "../../project";
import type { CameraSensor, Light } from "../../readings";
import type { Target } from "../../rules";
import { type DrawnCourse, drawn, emptyCourse, Floor } from "..";
import { GROUND } from "../floor";
import type { Mount } from "../robots";
import { BARE_GROUND, Camera, FAR_OFF } from "./Camera";
import { View } from "./View";

const TARGETS = [
  ["floor", "#64666a", "background"],
  ["coral", "#d24b3a", "tag"],
  ["teal", "#1f8a86", "tag"],
  ["chalk", "#e8e6df", "tag"],
].map(([id, paint, kind]) => ({ id, code: "Xx", name: id, kind, paint }) as Target);
const LIGHT: Light = { id: "noon" as Light["id"], name: "Noon", rgb: [1, 0.9, 0.8], level: 0.7 };

function cameraOf(more: Partial<CameraSensor> = {}): CameraSensor {
  const [sensor] = withCamera(emptyProject("x"), { width: 64, height: 48 }).sensors as CameraSensor[];
  return {
    ...sensor,
    optics: {
      ...sensor.optics,
      lampRgb: [0, 0, 0],
      leakPerMm: 1,
      gain: [1, 1, 1],
      glare: [0, 0, 0],
      read: 0,
      shot: 0,
    },
    ...more,
  };
}

const mount = (more: Partial<Mount> = {}): Mount => ({
  sensor: "belly" as Mount["sensor"],
  x: 30,
  y: -10,
  z: 150,
  looks: "ahead",
  tilt: 40,
  ...more,
});

const course = (more: Partial<DrawnCourse> = {}): DrawnCourse => ({
  ...drawn(emptyCourse("c" as CourseId, "c", "floor" as TargetId), 1),
  ...more,
});

/** A body at a place, turned by degrees. */
const body = (x: number, y: number, heading: number) => ({
  x,
  y,
  sin: Math.sin((heading * Math.PI) / 180),
  cos: Math.cos((heading * Math.PI) / 180),
});

type Vector = [number, number, number];
const turned = ([x, y, z]: Vector, radians: number): Vector => [
  x * Math.cos(radians) - y * Math.sin(radians),
  x * Math.sin(radians) + y * Math.cos(radians),
  z,
];

/** The plain way: where a camera is and how a pixel's ray runs, by turning vectors one after the other. */
function plainRays(
  sensor: CameraSensor,
  { x, y, z, looks, tilt = 0 }: Mount,
  at: { x: number; y: number },
  heading: number,
) {
  const rad = (degrees: number) => (degrees * Math.PI) / 180;
  const { width, height } = sensor.frame;
  const focal = width / 2 / Math.tan(rad(sensor.camera.viewDeg) / 2);
  const yaw = rad(heading + { down: 0, ahead: 0, left: 90, right: -90 }[looks]);
  const pitch = rad(looks === "down" ? 90 - tilt : tilt);
  const [mx, my] = turned([x, y, 0], rad(heading));
  const eye: Vector = [at.x + mx, at.y + my, z];
  // Before it is tilted, a camera looks along x, with its columns along −y and its rows along −z.
  const ray = (column: number, row: number): Vector => {
    const flat: Vector = [1, -(column - (width - 1) / 2) / focal, -(row - (height - 1) / 2) / focal];
    const tilted: Vector = [
      flat[0] * Math.cos(pitch) + flat[2] * Math.sin(pitch),
      flat[1],
      -flat[0] * Math.sin(pitch) + flat[2] * Math.cos(pitch),
    ];
    return turned(tilted, yaw);
  };
  return { eye, ray };
}

const poses = fc.record({
  x: fc.integer({ min: 0, max: 1500 }),
  y: fc.integer({ min: 0, max: 900 }),
  heading: fc.integer({ min: 0, max: 359 }),
  tilt: fc.integer({ min: -60, max: 60 }),
  z: fc.integer({ min: 20, max: 400 }),
  looks: fc.constantFrom<Mount["looks"]>("ahead", "left", "right", "down"),
  viewDeg: fc.integer({ min: 20, max: 110 }),
});
const place = fc.tuple(fc.integer({ min: 0, max: 1500 }), fc.integer({ min: 0, max: 900 }));
const side = fc.integer({ min: 20, max: 400 });
const angle = fc.integer({ min: 0, max: 359 });
const target = fc.constantFrom("coral", "teal", "chalk").map((id) => id as TargetId);
const shape = fc.oneof(
  fc.tuple(side, side).map((rect) => ({ rect })),
  side.map((disc) => ({ disc })),
  fc.array(side, { minLength: 3, maxLength: 7 }).map((radii) => ({
    // A star around its middle, hollow where a corner lies further in.
    polygon: radii.map((r, i): [number, number] => [
      Math.round(r * Math.cos((i * 2 * Math.PI) / radii.length)),
      Math.round(r * Math.sin((i * 2 * Math.PI) / radii.length)),
    ]),
  })),
);
const floors = fc.record({
  patches: fc.array(fc.record({ shape, target, at: place, angle }), { maxLength: 6 }),
  lines: fc.array(
    fc.record({
      points: fc.array(place, { minLength: 2, maxLength: 5 }),
      width: fc.integer({ min: 5, max: 60 }),
      target,
    }),
    { maxLength: 3 },
  ),
});

describe("a camera on a course", () => {
  it("shows in each pixel what lies where its ray meets the floor", () => {
    let asked = 0;
    fc.assert(
      fc.property(floors, poses, ({ patches, lines }, { x, y, heading, tilt, z, looks, viewDeg }) => {
        const laid = course({ patches, lines });
        const sensor = cameraOf({ camera: { viewDeg } });
        const own = mount({ z, looks, tilt });
        const camera = new Camera(sensor, own, LIGHT, laid, TARGETS, 1);
        camera.take(body(x, y, heading), 0);
        const floor = new Floor(laid, TARGETS);
        const { eye, ray } = plainRays(sensor, own, { x, y }, heading);
        const { width, height } = sensor.frame;
        for (let row = 0; row < height; row += 3)
          for (let column = 0; column < width; column += 5) {
            const [dx, dy, dz] = ray(column, row);
            const shown = camera.shows[row * width + column];
            if (dz * -100_000 < z) {
              if (dz * -99_000 < z) expect(shown).toBe(FAR_OFF);
              continue;
            }
            const way = eye[2] / -dz;
            const [px, py] = [eye[0] + way * dx, eye[1] + way * dy];
            // Pixels whose middle lies on an edge may go either way.
            const off = 1e-6 * (1 + way);
            const around = [
              [0, 0],
              [off, 0],
              [-off, 0],
              [0, off],
              [0, -off],
            ].map(([ox, oy]) => floor.surfaceAt(px + ox, py + oy));
            if (around.some((surface) => surface !== around[0])) continue;
            const [surface] = around;
            const thing = surface === GROUND ? BARE_GROUND : surface < 0 ? patches.length - 1 - surface : surface;
            expect(shown, `pixel ${column}, ${row}`).toBe(thing);
            asked++;
          }
      }),
      { numRuns: 80 },
    );
    expect(asked).toBeGreaterThan(2000);
  });

  it("has a patch where its corners are projected", () => {
    fc.assert(
      fc.property(place, angle, fc.tuple(side, side), ([x, y], turn, rect) => {
        const patch = { shape: { rect }, target: "coral" as TargetId, at: [x, y] as [number, number], angle: turn };
        const sensor = cameraOf();
        const own = mount();
        const camera = new Camera(sensor, own, LIGHT, course({ patches: [patch] }), TARGETS, 1);
        camera.take(body(x - 300, y, 0), 0);
        const { eye, ray } = plainRays(sensor, own, { x: x - 300, y }, 0);
        const { width, height } = sensor.frame;
        const [forward, right, down] = [ray((width - 1) / 2, (height - 1) / 2), [0, -1, 0], [0, 0, 0]] as Vector[];
        const lower = ray((width - 1) / 2, (height - 1) / 2 + 1);
        const focal = width / 2 / Math.tan((sensor.camera.viewDeg * Math.PI) / 360);
        for (let c = 0; c < 3; c++) down[c] = (lower[c] - forward[c]) * focal;
        const dot = (a: Vector, b: Vector) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
        const [sin, cos] = [Math.sin((turn * Math.PI) / 180), Math.cos((turn * Math.PI) / 180)];
        const corners = [
          [-1, -1],
          [1, -1],
          [1, 1],
          [-1, 1],
        ].map(([i, j]) => {
          const [a, b] = [(i * rect[0]) / 2, (j * rect[1]) / 2];
          const to: Vector = [x + a * cos - b * sin - eye[0], y + a * sin + b * cos - eye[1], -eye[2]];
          const depth = dot(to, forward);
          return [
            (width - 1) / 2 + (focal * dot(to, right)) / depth,
            (height - 1) / 2 + (focal * dot(to, down)) / depth,
            depth,
          ];
        });
        if (corners.some(([, , depth]) => depth < 20)) return;
        const rows: number[] = [];
        const columns: number[] = [];
        camera.shows.forEach((thing, i) => {
          if (thing !== 0) return;
          rows.push(Math.floor(i / width));
          columns.push(i % width);
        });
        const [cs, rs] = [corners.map(([c]) => c), corners.map(([, r]) => r)];
        if (Math.max(...cs) < 1 || Math.min(...cs) > width - 2 || Math.max(...rs) < 1 || Math.min(...rs) > height - 2)
          return;
        for (const [found, ends, most] of [
          [columns, cs, width],
          [rows, rs, height],
        ] as const) {
          if (found.length === 0) continue;
          expect(Math.min(...found)).toBeGreaterThanOrEqual(Math.min(...ends) - 1e-9);
          expect(Math.max(...found)).toBeLessThanOrEqual(Math.max(...ends) + 1e-9);
          // A patch that lies wholly within the frame reaches to within a pixel of its corners.
          if (Math.min(...cs) < 0 || Math.min(...rs) < 0 || Math.max(...cs) > width - 1 || Math.max(...rs) > height - 1)
            continue;
          expect(Math.max(...found) - Math.min(...found), `${most}`).toBeGreaterThan(
            Math.max(...ends) - Math.min(...ends) - 4,
          );
        }
      }),
      { numRuns: 80 },
    );
  });

  it("sees as much of the floor as its view says", () => {
    // One that looks back between the wheels sees as far behind.
    const back = { x: 0, y: 0, heading: 0, tilt: -43, z: 20, looks: "down" as const, viewDeg: 110 };
    fc.assert(
      fc.property(poses, ({ tilt, z, looks, viewDeg }) => {
        const sensor = cameraOf({ camera: { viewDeg } });
        const own = mount({ z, looks, tilt });
        const corners = new View(sensor, own).seenFloor(sensor.frame, 3000);
        const { eye, ray } = plainRays(sensor, own, { x: 0, y: 0 }, 0);
        const half = Math.tan((viewDeg * Math.PI) / 360);
        const far = Math.max(...corners.map(([x, y]) => Math.hypot(x, y)));
        expect(far).toBeLessThan(Math.hypot(3000, (3000 + z) * half) + 1);
        // Just within and without the lower corners, where these are not farther off than is asked for.
        if (
          corners.length > 0 &&
          Math.max(...corners.map(([x, y]) => Math.abs(looks === "ahead" || looks === "down" ? x : y))) > 2999
        )
          return;
        for (const [i, column] of [
          [0, -0.5],
          [3, 63.5],
        ]) {
          if (corners.length === 0) return;
          const [dx, dy, dz] = ray(column, 47.5);
          const way = -eye[2] / dz;
          expect(corners[i][0] + own.x).toBeCloseTo(eye[0] + way * dx, 5);
          expect(corners[i][1] + own.y).toBeCloseTo(eye[1] + way * dy, 5);
        }
      }),
      { examples: [[back]] },
    );
  });

  it("shows the nearest sign whose painted side faces it, and the back of others", () => {
    const signs = fc.array(
      fc.record({ target, at: place, angle, width: side, height: fc.integer({ min: 20, max: 300 }) }),
      { maxLength: 4 },
    );
    fc.assert(
      fc.property(signs, poses, (drawnSigns, { x, y, heading, tilt, z, viewDeg }) => {
        const sensor = cameraOf({ camera: { viewDeg } });
        const own = mount({ z, tilt: Math.max(-10, Math.min(tilt, 30)) });
        const camera = new Camera(sensor, own, LIGHT, course({ signs: drawnSigns }), TARGETS, 1);
        camera.take(body(x, y, heading), 0);
        const { eye, ray } = plainRays(sensor, own, { x, y }, heading);
        const { width, height } = sensor.frame;
        // Signs that stand through one another may hide each other in either order.
        const apart = drawnSigns.every((a, i) =>
          drawnSigns.every((b, k) => i === k || Math.hypot(a.at[0] - b.at[0], a.at[1] - b.at[1]) > 600),
        );
        for (let row = 1; row < height; row += 4)
          for (let column = 2; column < width; column += 5) {
            const direction = ray(column, row);
            const hits = drawnSigns.flatMap(({ at, angle: faces, width: wide, height: high }, i) => {
              const n = [Math.cos((faces * Math.PI) / 180), Math.sin((faces * Math.PI) / 180)];
              const towards = direction[0] * n[0] + direction[1] * n[1];
              const way = ((at[0] - eye[0]) * n[0] + (at[1] - eye[1]) * n[1]) / towards;
              const along =
                -(eye[0] + way * direction[0] - at[0]) * n[1] + (eye[1] + way * direction[1] - at[1]) * n[0];
              const up = eye[2] + way * direction[2];
              const edge = Math.min(wide / 2 - Math.abs(along), up, high - up);
              return [{ i, way, edge, painted: towards < 0 }];
            });
            // At an edge, or so near that nothing is drawn, it may go either way.
            if (hits.some(({ way, edge }) => Math.abs(edge) < 1e-3 * (1 + Math.abs(way)) || (way > -9 && way < 9)))
              continue;
            const seen = hits.filter(({ way, edge }) => way > 0 && edge > 0).sort((a, b) => a.way - b.way);
            if (seen.length > 1 && !apart) continue;
            const shown = camera.shows[row * width + column];
            if (seen.length === 0) expect([BARE_GROUND, FAR_OFF]).toContain(shown);
            else expect(shown, `pixel ${column}, ${row}`).toBe(seen[0].painted ? seen[0].i : FAR_OFF);
          }
      }),
      { numRuns: 100 },
    );
  });

  it("gives the bytes that the optics' formula gives, darker toward the corners", () => {
    const sensor = cameraOf({ order: "bgr", frame: { width: 64, height: 48, rows: "bottom first" } });
    const { optics } = sensor;
    optics.gain = [0.9, 0.8, 0.7];
    optics.glare = [0.02, 0.03, 0.04];
    const shade = [{ from: [0, 0] as [number, number], to: [1000, 500] as [number, number], level: 0.5 }];
    const laid = course({ shade });
    const own = mount({ looks: "down", tilt: 0, x: 0, y: 0 });
    const { data } = new Camera(sensor, own, LIGHT, laid, TARGETS, 1).take(body(500, 500, 0), 0);
    const focal = 32 / Math.tan(Math.PI / 6);
    const paint = hexToRgb("#64666a").map(displayToLinear);
    for (const [column, row] of [
      [0, 0],
      [31, 23],
      [63, 47],
      [10, 40],
    ]) {
      const [u, v] = [(column - 31.5) / focal, (row - 23.5) / focal];
      const fall = (1 / (1 + u * u + v * v)) ** 2;
      // It looks down with its columns to the right: the right half of what it sees lies in the shade.
      const level = column > 31.5 ? 0.5 : 1;
      const expected = paint.map((rho, c) => {
        const lit = LIGHT.rgb[c] * LIGHT.level * level;
        return Math.floor(255 * (optics.gain[c] * (rho * lit * fall + optics.glare[c])) + 0.5);
      });
      // The lowest row comes first, and blue before red.
      const at = ((47 - row) * 64 + column) * 3;
      expect([data[at + 2], data[at + 1], data[at]]).toEqual(expected);
    }
  });

  it("has noise of the deviation that the optics say", () => {
    const sensor = cameraOf({ frame: { width: 160, height: 120, rows: "top first" }, camera: { viewDeg: 5 } });
    Object.assign(sensor.optics, { read: 0.02, shot: 0.05 });
    const { data } = new Camera(sensor, mount({ looks: "down", tilt: 0 }), LIGHT, course(), TARGETS, 3).take(
      body(500, 500, 0),
      7,
    );
    for (let c = 0; c < 3; c++) {
      const values = Array.from({ length: data.length / 3 }, (_, i) => data[3 * i + c] / 255);
      const mean = values.reduce((a, b) => a + b, 0) / values.length;
      const deviation = Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length);
      expect(deviation).toBeCloseTo(Math.sqrt(0.02 ** 2 + 0.05 ** 2 * mean), 3);
    }
    // No channel goes with another, and no pixel with its neighbour.
    const at = (i: number, c: number) => data[3 * i + c] / 255;
    const goes = (a: (i: number) => number, b: (i: number) => number) => {
      const n = data.length / 3 - 1;
      const mean = (f: (i: number) => number) =>
        Array.from({ length: n }, (_, i) => f(i)).reduce((x, y) => x + y, 0) / n;
      const [ma, mb] = [mean(a), mean(b)];
      const sum = (f: (i: number) => number) => Array.from({ length: n }, (_, i) => f(i)).reduce((x, y) => x + y, 0);
      return (
        sum((i) => (a(i) - ma) * (b(i) - mb)) / Math.sqrt(sum((i) => (a(i) - ma) ** 2) * sum((i) => (b(i) - mb) ** 2))
      );
    };
    const pairs = [
      [(i: number) => at(i, 0), (i: number) => at(i, 1)],
      [(i: number) => at(i, 1), (i: number) => at(i, 2)],
      [(i: number) => at(i, 0), (i: number) => at(i + 1, 0)],
    ];
    for (const [a, b] of pairs) expect(Math.abs(goes(a, b))).toBeLessThan(0.03);
  });

  it("gives sRGB, exposed to a middle grey or held, where its values are that", () => {
    const bytes = (level: number, more: Partial<CameraSensor>) => {
      const sensor = cameraOf({ camera: { viewDeg: 5 }, ...more });
      const { data } = new Camera(
        sensor,
        mount({ looks: "down", tilt: 0 }),
        { ...LIGHT, level },
        course(),
        TARGETS,
        3,
      ).take(body(500, 500, 0), 0);
      let sum = 0;
      for (const byte of data) sum += byte;
      return sum / data.length;
    };
    const held = { values: "srgb" as const, camera: { viewDeg: 5, exposure: "held" as const } };
    // It gives what a linear one gives, encoded; noise is none here.
    for (const level of [0.2, 0.5, 1])
      expect(bytes(level, held)).toBeCloseTo(255 * linearToDisplay(bytes(level, {}) / 255), -0.5);
    // The floor alone comes to the same in any light.
    const exposed = [0.1, 0.4, 1].map((level) => bytes(level, { values: "srgb" }));
    for (const mean of exposed) expect(mean).toBeCloseTo(255 * linearToDisplay(0.18), -0.5);
  });

  it("gives the same frame for the same seed and number, and another for another", () => {
    const sensor = cameraOf();
    Object.assign(sensor.optics, { read: 0.01, shot: 0.02 });
    const take = (seed: number, number: number) => {
      const camera = new Camera(sensor, mount(), LIGHT, course(), TARGETS, seed);
      // What it took before makes no difference.
      camera.take(body(100, 100, 50), number + 5);
      return Buffer.from(camera.take(body(500, 300, 20), number).data).toString("base64");
    };
    expect(take(1, 4)).toBe(take(1, 4));
    expect(new Set([take(1, 4), take(1, 5), take(2, 4)]).size).toBe(3);
  });
});
