import type { TargetId } from "@perceptum/core/names";
import { emptyProject } from "@perceptum/core/project";
import { BenchStand } from "@perceptum/core/world";

/** How many readings there are of each thing. */
const EACH = 60;

/**
 * Readings of a paving and a coral tag as a file has them, `t_ms,r,g,b,label`, one every 20 ms: made by the optics of
 * the simulated sensor with a fixed seed.
 */
export function readingsFile(): string {
  const { sensors, lights, targets } = emptyProject("");
  const things = [...targets, { ...targets[0], id: "coral" as TargetId, name: "coral", paint: "#e4573d" }];
  const stand = { light: lights[0].id, height: 14, tilt: 0, tremble: 0.4, beside: null, share: 1 };
  const bench = new BenchStand(sensors[0], lights, things, { ...stand, under: things[0].id }, 7);
  const rows = [things[0], things[1], things[0], things[1]].flatMap(({ id, name }) => {
    bench.set({ ...stand, under: id });
    return Array.from({ length: EACH }, () => [...bench.read(), name] as const);
  });
  return `t_ms,r,g,b,label\n${rows.map((row, i) => `${20 * i},${row.join(",")}\n`).join("")}`;
}
