import { describe, expect, it } from "vitest";
import { type LightId, numbered, type TargetId } from "../names";
import { inLight, joinTapes, type MarkedReadings, splitTape, trimTape } from ".";

const coral = "coral" as TargetId;
const tape: MarkedReadings = {
  readings: {
    t: Float64Array.of(100, 120, 140, 160, 180),
    channels: { r: Float64Array.of(1, 2, 3, 4, 5), g: new Float64Array(5), b: new Float64Array(5) },
  },
  marks: [
    { id: "mark-1" as never, from: 100, to: 140, target: coral },
    { id: "mark-2" as never, from: 160, to: 180, target: coral, height: 12 },
  ],
};

it("trims to a stretch, counts time from its first reading, and cuts the marks", () => {
  const { readings, marks } = trimTape(tape, 115, 165);
  expect([...readings.t]).toEqual([0, 20, 40]);
  expect([...(readings.channels.r ?? [])]).toEqual([2, 3, 4]);
  expect(marks).toEqual([
    { id: "mark-1", from: 0, to: 20, target: coral },
    { id: "mark-2", from: 40, to: 40, target: coral, height: 12 },
  ]);
});

it("trims to nothing where no reading lies", () => {
  expect(trimTape(tape, 500, 600).readings.t).toHaveLength(0);
});

it("cuts in two, and joined again both parts hold every reading and mark", () => {
  const [a, b] = splitTape(tape, 140);
  expect([a.readings.t.length, b.readings.t.length]).toEqual([2, 3]);
  const joined = joinTapes([a, b], 20);
  expect([...joined.readings.t]).toEqual([0, 20, 40, 60, 80]);
  expect([...(joined.readings.channels.r ?? [])]).toEqual([1, 2, 3, 4, 5]);
  expect(joined.marks.map((m) => [m.from, m.to])).toEqual([
    [0, 20],
    [40, 40],
    [60, 80],
  ]);
});

it("cut before its first or after its last reading leaves one part empty", () => {
  expect(splitTape(tape, 0).map((p) => p.readings.t.length)).toEqual([0, 5]);
  expect(splitTape(tape, 999).map((p) => p.readings.t.length)).toEqual([5, 0]);
});

it("is noted in a light as a whole, or what a stretch meets of it, and the note is taken away", () => {
  const noon = "noon" as LightId;
  const lights = (made: MarkedReadings) => made.marks.map(({ light }) => light);
  expect(lights(inLight(tape, noon))).toEqual([noon, noon]);
  expect(lights(inLight(tape, noon, { from: 140, to: 150 }))).toEqual([noon, undefined]);
  expect(inLight(tape, noon, { from: 150, to: 155 })).toEqual(tape);
  expect(inLight(inLight(tape, noon), undefined)).toEqual(tape);
});

describe("a camera's tape", () => {
  const camera: MarkedReadings = {
    readings: { t: Float64Array.from([0, 100, 200, 300]), channels: {} },
    marks: [],
    frames: ["a", "b", "c", "d"],
    boxes: numbered(
      "box",
      [100, 200, 300].map((t) => ({ t, target: "coral" as never, left: 1, top: 2, width: 3, height: 4 })),
    ),
  };

  it("is trimmed, cut and joined with its frames and boxes", () => {
    const trimmed = trimTape(camera, 150, 300);
    expect([trimmed.frames, trimmed.boxes?.map(({ t }) => t)]).toEqual([
      ["c", "d"],
      [0, 100],
    ]);
    const [one, other] = splitTape(camera, 200);
    expect([one.frames, other.frames]).toEqual([
      ["a", "b"],
      ["c", "d"],
    ]);
    const joined = joinTapes([other, one], 50);
    expect(joined.frames).toEqual(["c", "d", "a", "b"]);
    expect([...joined.readings.t]).toEqual([0, 100, 150, 250]);
    expect(joined.boxes?.map(({ t }) => t)).toEqual([0, 100, 250]);
    const lit = inLight(camera, "noon" as LightId, { from: 150, to: 250 });
    expect(lit.boxes?.map(({ light }) => light)).toEqual([undefined, "noon", undefined]);
    expect(trimTape(camera, 900, 950)).toMatchObject({ frames: [], boxes: [] });
  });
});
