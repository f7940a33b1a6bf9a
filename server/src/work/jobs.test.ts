import { createHash } from "node:crypto";
import { bedWatch, glasshouseRound } from "@perceptum/core/demo";
import { MAX_READINGS } from "@perceptum/core/names";
import { emptyProject, joinReadings, splitProject, writeProject } from "@perceptum/core/project";
import { decodeReadings, encodeReadings, type RawReadings, writeCsv } from "@perceptum/core/readings";
import { describe, expect, it } from "vitest";
import { packFrame } from "../../../demo/packFrame";
import { inFile } from "../storage/FrameStore";
import { JOBS } from "./jobs";

const bytes = (text: string) => ({ bytes: Buffer.from(text) });
const some = (count: number): RawReadings => ({
  t: Float64Array.from({ length: count }, (_, i) => i * 20),
  channels: { hue: Float64Array.from({ length: count }, (_, i) => (i * 7) % 360) },
});

describe("readings that come in", () => {
  it("are kept by the digest of their bytes, whatever parts they come in", () => {
    const raw = some(70_000);
    const whole = encodeReadings(raw);
    const read = JOBS.readReadings({ bytes: whole });
    if ("fault" in read) throw new Error(read.fault.message);
    const { digest, report, count, parts, textBytes } = read.readings;
    expect({ digest, report, count }).toEqual({
      digest: createHash("sha256").update(whole).digest("hex"),
      report: "hue",
      count: 70_000,
    });
    expect(parts).toHaveLength(2);
    expect(decodeReadings(Buffer.concat(parts))).toEqual(raw);
    expect(JOBS.readReadings({ bytes: Buffer.concat(parts) })).toMatchObject({ readings: { digest } });
    const text = JSON.stringify([...raw.t]).length + JSON.stringify([...(raw.channels.hue ?? [])]).length;
    expect(Math.abs(textBytes - text)).toBeLessThanOrEqual(4);
  });

  it("of nothing at all are one empty part", () => {
    const read = JOBS.readReadings({ bytes: encodeReadings(some(0)) });
    expect(read).toMatchObject({ readings: { count: 0, report: "hue", parts: [expect.anything()] } });
  });

  it.each([
    ["cut off", encodeReadings(some(10)).slice(0, 100), /cut off/],
    [
      "no number",
      encodeReadings({ t: Float64Array.of(0, Number.NaN), channels: { hue: new Float64Array(2) } }),
      /not a number/,
    ],
    ["backwards", encodeReadings({ t: Float64Array.of(1, 0), channels: { hue: new Float64Array(2) } }), /backwards/],
    ["too many", encodeReadings(some(MAX_READINGS + 1)), /at most 2000000/],
  ])("%s are refused in a sentence", (_, body, message) => {
    expect(JOBS.readReadings({ bytes: body })).toMatchObject({
      fault: { place: "the readings", message: expect.stringMatching(message) },
    });
  });
});

describe("a project file that comes in", () => {
  it("is kept as a document and readings, and goes out as it came", () => {
    const demo = glasshouseRound();
    const read = JOBS.readFile(bytes(writeProject(demo)));
    if ("fault" in read) throw new Error(read.fault.message);
    const { document, readings } = splitProject(demo);
    expect(JSON.parse(read.document.text)).toEqual(document);
    expect(read.document.tapes).toEqual(document.tapes.map(({ id, name }) => ({ id, name, report: "rgb" })));
    expect(read.readings.map(([tape, { count }]) => [tape, count])).toEqual(
      [...readings].map(([tape, raw]) => [tape, raw.t.length]),
    );
    const held = read.readings.map(([tape, { parts }]): [typeof tape, Uint8Array] => [tape, Buffer.concat(parts)]);
    expect(Buffer.from(JOBS.writeFile(read.document.text, held, [])).toString()).toBe(writeProject(demo));
    // The length of the file is known beforehand, to a few bytes for each tape.
    const told = read.document.fileBytes + read.readings.reduce((sum, [, { textBytes }]) => sum + textBytes, 0);
    expect(Math.abs(told - Buffer.byteLength(writeProject(demo)))).toBeLessThan(100 * document.tapes.length);
  });

  it("with frames is kept with them, and goes out as it came", () => {
    const demo = bedWatch(packFrame);
    const read = JOBS.readFile(bytes(writeProject(demo)));
    if ("fault" in read) throw new Error(read.fault.message);
    expect(read.frames).toHaveLength(8);
    const held = read.readings.map(([tape, { parts }]): [typeof tape, Uint8Array] => [tape, Buffer.concat(parts)]);
    const shown = read.frames.map((frame): [string, Uint8Array] => [frame.name, frame.bytes]);
    expect(Buffer.from(JOBS.writeFile(read.document.text, held, shown)).toString()).toBe(writeProject(demo));
    const told = read.document.fileBytes + read.frames.reduce((sum, { bytes }) => sum + inFile(bytes.length), 0);
    expect(Math.abs(told - Buffer.byteLength(writeProject(demo)))).toBeLessThan(300);
  });

  it("whose frames are not what they should be is refused with the place", () => {
    const demo = bedWatch(packFrame);
    const [first, second] = Object.keys(demo.frames ?? {});
    const faultOf = (project: typeof demo) => {
      const read = JOBS.readFile(bytes(writeProject(project)));
      return "fault" in read ? `${read.fault.place}: ${read.fault.message}` : "";
    };
    const held = demo.frames ?? {};
    expect(faultOf({ ...demo, frames: { ...held, [first]: held[second] } })).toBe(
      `frames.${first}: the frame is not the one that its name says`,
    );
    expect(faultOf({ ...demo, frames: { ...held, [first]: "AAAA" } })).toBe(`frames.${first}: this is not a PNG`);
    const [sensor] = demo.sensors;
    const frame = { width: 161, height: 120, rows: "top first" as const };
    expect(faultOf({ ...demo, sensors: [{ ...sensor, frame }] })).toBe(
      "tapes[0].frames[0]: the frame has 160 × 120 px; its sensor's have 161 × 120",
    );
  });

  it.each([
    ["no JSON", "{", /^line 1, column/],
    ["another format", '{"format":"song"}', /^format$/],
    ["a name missing", JSON.stringify({ ...joinReadings(emptyProject("x"), new Map()), name: "" }), /^name$/],
    [
      "no list of numbers",
      JSON.stringify({ ...glasshouseRound(), name: "x" }).replace(/"t":\[0,/, '"t":["0",'),
      /readings\.t\[0\]$/,
    ],
  ])("with %s is refused with its place", (_, text, place) => {
    expect(JOBS.readFile(bytes(text))).toMatchObject({ fault: { place: expect.stringMatching(place) } });
  });
});

it("a document alone is read without readings, and readings go out as CSV", () => {
  const { document } = splitProject(glasshouseRound());
  expect(JOBS.readDocument(bytes(JSON.stringify(document)))).toMatchObject({ document: { name: document.name } });
  expect(JOBS.readDocument(bytes(JSON.stringify({ ...document, lights: 3 })))).toEqual({
    fault: { place: "lights", message: "must be a list" },
  });
  expect(Buffer.from(JOBS.writeReadings(encodeReadings(some(3)))).toString()).toBe(writeCsv(some(3)));
});
