import { bedWatch } from "@perceptum/core/demo";
import { decodePng } from "@perceptum/core/png";
import { splitProject } from "@perceptum/core/project";
import { isCamera, type Sensor } from "@perceptum/core/readings";
import { ruleSetOf } from "@perceptum/core/rules";
import { beforeEach, describe, expect, it } from "vitest";
import { packFrame } from "../../../demo/packFrame";
import { Vision } from "./Vision";

const { document, readings, frames } = splitProject(bedWatch(packFrame));
const [sensor] = document.sensors.filter(isCamera);
const { targets } = document;
const ruleSet = ruleSetOf(document, sensor);
const [tape] = document.tapes;
const names = tape.frames ?? [];
const png = (name: string) => new Uint8Array(Buffer.from(frames[name], "base64"));
let loaded: string[];
let vision: Vision;
beforeEach(() => {
  loaded = [];
  vision = new Vision(async (name) => {
    loaded.push(name);
    return png(name);
  });
  vision.setSetup({ sensor, ruleSet, targets });
});

describe("the work with frames", () => {
  it("fetches a frame once, for those who ask at the same time, too", async () => {
    const [shown, looked] = await Promise.all([vision.shown(names[0]), vision.look(names[0], 0)]);
    await vision.look(names[0], 0);
    expect(loaded).toEqual([names[0]]);
    expect(looked.blobs.map(({ target }) => target)).toEqual(["chalk"]);
    const { data } = decodePng(png(names[0]));
    expect([...shown.data.subarray(0, 4)]).toEqual([data[0], data[1], data[2], 255]);
  });

  it("has what the server lacks without asking it, and lets go of it once the server has it", async () => {
    const other = new Vision(async () => {
      throw new Error("not there");
    });
    other.setSetup({ sensor, ruleSet, targets });
    other.addFrame(names[1], png(names[1]));
    other.sent(names[0]);
    await expect(other.look(names[1], 0)).resolves.toMatchObject({});
    other.sent(names[1]);
    await expect(other.look(names[1], 0)).resolves.toMatchObject({});
    await expect(other.look(names[0], 0)).rejects.toThrow("not there");
  });

  it("gives the mask of a label as runs within its blob", async () => {
    const label = targets.findIndex(({ id }) => id === "chalk") + 1;
    const { blobs, mask } = await vision.look(names[0], label);
    const { found } = blobs[0];
    let area = 0;
    for (let i = 0; i < mask.length; i += 3) area += mask[i + 2] - mask[i + 1];
    // Blobs that are too small are in the mask all the same.
    expect(area).toBeGreaterThanOrEqual(found.reduce((sum, blob) => sum + blob.area, 0));
    expect((await vision.look(names[0], 0)).mask).toHaveLength(0);
  });

  it("looks by other rules at once, and shows a frame as another form has it", async () => {
    const none = { ...ruleSet, rules: [] };
    vision.setSetup({ sensor, ruleSet: none, targets });
    expect((await vision.look(names[0], 0)).blobs).toEqual([]);
    vision.setSetup({ sensor, ruleSet, targets });
    const before = await vision.shown(names[0]);
    const turned: Sensor = { ...sensor, order: "bgr", frame: { ...sensor.frame, rows: "bottom first" } };
    vision.setSetup({ sensor: turned as typeof sensor, ruleSet, targets });
    const after = await vision.shown(names[0]);
    const { width, height } = sensor.frame;
    const pixel = (data: Uint8ClampedArray, column: number, row: number) => [
      ...data.subarray(4 * (row * width + column), 4 * (row * width + column) + 3),
    ];
    expect(pixel(after.data, 40, 10)).toEqual(pixel(before.data, 40, height - 11).reverse());
    // What such a sensor would have sent for this picture is shown as it is.
    const upright = { width, height, channels: 3 as const, data: decodePng(png(names[0])).data };
    const sent = vision.wired(upright);
    const { name, bytes } = await vision.pack(sent);
    vision.addFrame(name, bytes);
    expect((await vision.shown(name)).data).toEqual(before.data);
  });

  it("follows a tape, tells of it at its end, and drops the question for a later one", async () => {
    const times = readings.get(tape.id)?.t ?? new Float64Array();
    const told: number[] = [];
    const dropped = vision.seen(tape.id, names, times, () => undefined);
    const facts = await vision.seen(tape.id, names, times, (_, done) => told.push(done));
    expect(await dropped).toBeNull();
    expect(told.at(-1)).toBe(names.length);
    expect(facts?.t).toBe(times);
    expect(facts?.lookedFor).toEqual(targets.map(({ id }) => id));
    expect(facts?.targets.find(({ target }) => target === "chalk")?.frames).toBeGreaterThan(4);
  });
});
