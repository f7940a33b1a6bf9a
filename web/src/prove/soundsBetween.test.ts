import { expect, it } from "vitest";
import { soundsBetween } from "./soundsBetween";

const tune = [
  { hertz: 440, ms: 100 },
  { hertz: 0, ms: 50 },
];
const outputs = [
  { t: 5, command: { kind: "tune" as const, tones: tune } },
  { t: 900, command: { kind: "stop" as const, how: "brake" as const } },
  { t: 2000, command: { kind: "tone" as const, hertz: 523, ms: 80 } },
];

it("what sounds is heard once as the playhead passes it, in the order of the run", () => {
  expect(soundsBetween(outputs, 0, 16, 16, 1)).toEqual([tune]);
  expect(soundsBetween(outputs, 5, 1500, 1495, 1)).toEqual([]);
  expect(soundsBetween(outputs, 0, 2000, 500, 4)).toEqual([tune, [outputs[2].command]]);
});

it("a page that is slow plays in large steps and is heard all the same; one who moves the playhead hears nothing", () => {
  expect(soundsBetween(outputs, 0, 4000, 1000, 4)).toHaveLength(2);
  expect(soundsBetween(outputs, 0, 4000, 16, 1)).toEqual([]);
  expect(soundsBetween(outputs, 2500, 0, 16, 1)).toEqual([]);
});
