import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expMinus } from "@perceptum/core/arithmetic";
import { displayToLinear, hexToRgb } from "@perceptum/core/colour";
import type { ProjectDocument } from "@perceptum/core/project";
import { channelScales, type Light, type Sensor } from "@perceptum/core/readings";
import type { RuleSet } from "@perceptum/core/rules";
import { lampReturn, looksAhead, roomLeak, run, type Trace } from "@perceptum/core/world";

const TICK_MS = 5;
/** Hue, saturation and value, as the C program counts them. */
const FEATURES_IN_C = ["hue", "sat", "val"];

/** The rules of bands as the C program takes them: three bands each, open ones from −Infinity to Infinity. */
function testsOf({ rules }: RuleSet, targets: readonly string[]): { tests: number[][]; labels: number[] } {
  const tests: number[][] = [];
  const labels: number[] = [];
  for (const { on, target, any } of rules)
    for (const { all } of on ? any : []) {
      if (all.length > 3 || all.some((test) => test.not || !FEATURES_IN_C.includes(test.feature)))
        throw new Error("the C program knows bands of hue, saturation and value only");
      const bands = all.map(({ feature, from = Number.NEGATIVE_INFINITY, to = Number.POSITIVE_INFINITY }) => [
        FEATURES_IN_C.indexOf(feature),
        from,
        to,
      ]);
      while (bands.length < 3) bands.push([1, Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY]);
      tests.push(bands.flat());
      labels.push(targets.indexOf(target) + 1);
    }
  return { tests, labels };
}

function eyeNumbers(sensor: Sensor, mount: ProjectDocument["robot"]["mounts"][number], light: Light): number[] {
  const { optics } = sensor;
  const lamp = lampReturn(mount.z, optics);
  const room = light.level * roomLeak(mount.z, optics.leakPerMm);
  const scales = channelScales(sensor);
  const spans = (["r", "g", "b"] as const).map((channel) => sensor.scale[channel] ?? [0, 1]);
  const use = [...`noise of ${sensor.id}`].map((letter) => letter.charCodeAt(0));
  return [
    mount.x + looksAhead(mount),
    mount.y,
    optics.spotMm,
    Math.max(TICK_MS, Math.ceil(sensor.periodMs / TICK_MS) * TICK_MS),
    optics.integrationMs,
    optics.read,
    optics.shot,
    2 ** optics.bits - 1,
    ...optics.gain,
    ...optics.glare,
    ...optics.lampRgb.map((share, c) => share * lamp + light.rgb[c] * room),
    ...spans.map(([min]) => min),
    ...spans.map(([min, max]) => max - min),
    ...scales.map(({ low }) => low),
    ...scales.map(({ high }) => high),
    use.length,
    ...use,
  ];
}

/** Gives what a run told the wheels: ticks with both speeds, NaN for wheels that run out. */
const told = ({ outputs, tickMs }: Trace): number[] =>
  outputs.flatMap(({ t, command }) => {
    if (command.kind === "wheels") return [t / tickMs, command.left, command.right];
    if (command.kind !== "stop") return [];
    const speed = command.how === "coast" ? Number.NaN : 0;
    return [t / tickMs, speed, speed];
  });

/** The world of a project as numbers for the C program. All its sensors must see by the same bands. */
function worldNumbers(project: ProjectDocument, light: Light, traces: readonly Trace[]): number[] {
  const { robot, targets, sensors, ruleSets } = project;
  const [course] = project.courses;
  if (robot.kind !== "cart" || course.kind !== "floor") throw new Error("the C program knows a cart on a floor");
  const paint = (id: unknown) => hexToRgb(targets.find((t) => t.id === id)?.paint ?? "#000000").map(displayToLinear);
  const [start] = course.starts;
  const own = robot.mounts.map((mount) => sensors.find(({ id }) => id === mount.sensor) as Sensor);
  const set = ruleSets.find(({ id }) => id === own[0].ruleSet) as RuleSet;
  const keep = (lagMs: number) => (lagMs === 0 ? 0 : expMinus(TICK_MS / lagMs));
  const { tests } = testsOf(
    set,
    targets.map(({ id }) => id),
  );
  return [
    traces.length,
    traces[0].x.length,
    TICK_MS,
    robot.trackMm,
    robot.tractionMmS2,
    start.x,
    start.y,
    start.heading,
    ...course.size,
    ...robot.motors.flatMap((motor) => [
      motor.topSpeed,
      motor.deadBand,
      Number(motor.regulated),
      motor.mountedReversed !== motor.invert ? -1 : 1,
      keep(motor.lagMs),
      keep(5 * motor.lagMs),
    ]),
    ...paint(course.ground),
    course.patches.length,
    ...course.patches.flatMap(({ at, shape, angle, target }) => {
      if (!("rect" in shape)) throw new Error("the C program knows rectangles only");
      return [...at, ...shape.rect, angle, ...paint(target)];
    }),
    tests.length,
    ...tests.flat(),
    own.length,
    ...own.flatMap((sensor, i) => eyeNumbers(sensor, robot.mounts[i], light)),
    ...traces.flatMap((trace) => {
      const all = told(trace);
      return [all.length / 3, ...all];
    }),
  ];
}

/** The trace of a run as the C program writes one: each tick's pose, and readings with their labels. */
function traceNumbers(project: ProjectDocument, trace: Trace): number[] {
  const { labels } = testsOf(
    project.ruleSets.find(({ id }) => id === project.sensors[0].ruleSet) as RuleSet,
    project.targets.map(({ id }) => id),
  );
  const next = trace.eyes.map(() => 0);
  return Array.from(trace.x, (x, i) => {
    const row = [x, trace.y[i], trace.heading[i]];
    trace.eyes.forEach(({ readings, labels: seen }, e) => {
      const k = next[e];
      if (readings.t[k] !== i * trace.tickMs) return;
      next[e]++;
      for (const channel of ["r", "g", "b"] as const) row.push((readings.channels[channel] as Float64Array)[k]);
      // Rules of one target have labels of their own there.
      row.push(labels.indexOf(seen[k]) + 1);
    });
    return row;
  }).flat();
}

/**
 * The ns that the C program takes for the same runs, of seeds 0, 1, …; undefined where there is no compiler. @throws Error
 * where its traces differ
 */
export function worldInC(project: ProjectDocument, light: Light, seeds: number, limitMs: number): number | undefined {
  const traces = Array.from({ length: seeds }, (_, seed) =>
    run(project, { course: project.courses[0].id, light: light.id, seed, limitMs }),
  );
  const folder = mkdtempSync(join(tmpdir(), "perceptum-bench-"));
  try {
    const [program, given, made] = ["world", "given", "made"].map((name) => join(folder, name));
    const how = ["-O2", "-ffp-contract=off", "-o", program, "bench/world.c", "-lm"];
    if (spawnSync("cc", how).status !== 0) return undefined;
    writeFileSync(given, Buffer.from(Float64Array.from(worldNumbers(project, light, traces)).buffer));
    const { stdout, status } = spawnSync(program, [given, made], { encoding: "utf8" });
    if (status !== 0) throw new Error("the C program of the floor world failed");
    const bytes = readFileSync(made);
    const numbers = new Float64Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
    const wanted = traces.flatMap((trace) => traceNumbers(project, trace));
    const other = wanted.findIndex((x, i) => !(Math.abs(x - numbers[i]) <= 1e-9 * Math.max(1, Math.abs(x))));
    if (other >= 0 || numbers.length !== wanted.length)
      throw new Error(`the C program gives ${numbers[other]} where the run gives ${wanted[other]}, number ${other}`);
    return Number(stdout);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
