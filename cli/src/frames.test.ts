import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { bedWatch } from "@perceptum/core/demo";
import { decodePng, encodePng } from "@perceptum/core/png";
import { type Project, readProject, splitProject, writeProject } from "@perceptum/core/project";
import type { CameraSensor } from "@perceptum/core/readings";
import { featuresOf } from "@perceptum/core/readings";
import { classify, ruleSetOf } from "@perceptum/core/rules";
import { run, traceJsonLines } from "@perceptum/core/world";
import jpeg from "jpeg-js";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { packFrame } from "../../demo/packFrame";
import { cli } from "../testing/perceptum";

const demo = bedWatch(packFrame);
const { document, frames } = splitProject(demo);
const [sensor] = document.sensors as CameraSensor[];
const pngs = demo.tapes[0].frames?.map((name) => Buffer.from(frames[name], "base64")) ?? [];
let folder: string;
let project: string;

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "perceptum-frames-"));
  project = file("bed.perceptum.json", writeProject(demo));
  pngs.forEach((png, k) => {
    file(`${k}.png`, png);
  });
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function file(name: string, content: string | Uint8Array): string {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
}

const with_ = (change: Partial<CameraSensor>): Project => ({ ...demo, sensors: [{ ...sensor, ...change }] });

/** A frame of 160 × 120 px, all of one colour, with rectangles of others. */
function drawn(
  ground: readonly number[],
  ...rects: [rgb: readonly number[], left: number, top: number, w: number, h: number][]
) {
  const data = new Uint8Array(160 * 120 * 3);
  for (let i = 0; i < 160 * 120; i++) data.set(ground, 3 * i);
  for (const [rgb, left, top, w, h] of rects)
    for (let row = top; row < top + h; row++)
      for (let column = left; column < left + w; column++) data.set(rgb, 3 * (row * 160 + column));
  return { width: 160, height: 120, channels: 3 as const, data };
}
const SLATE = [40, 42, 46];
const CORAL = [200, 30, 20];
const TEAL = [5, 120, 130];
const CHALK = [220, 220, 210];

describe("perceptum classify, of a camera's frames", () => {
  it("writes the largest blob of each target and whether it is seen, a frame after the other", async () => {
    const bare = file(
      "bare.perceptum.json",
      writeProject(with_({ clean: { erode: 0, dilate: 0 }, strip: undefined } as never)),
    );
    const one = file(
      "one.png",
      encodePng(
        drawn(SLATE, [CORAL, 10, 20, 30, 10], [CORAL, 100, 60, 20, 10], [TEAL, 60, 100, 9, 7], [CHALK, 0, 90, 5, 4]),
      ),
    );
    const none = file("none.png", encodePng(drawn(SLATE)));
    const { code, out, errors } = await cli("classify", bare, one, none, one, "--sensor", "bow");
    expect([code, errors]).toEqual([0, ""]);
    // Chalk has 20 px, where 30 are needed; 2 of 3 frames make a thing seen.
    expect(out.trimEnd().split("\n")).toEqual([
      "frame,target,x,y,width,height,area,error,seen",
      `${one},coral,24.5,24.5,30,10,300,-55,false`,
      `${one},teal,64,103,9,7,63,-15.5,false`,
      `${none},unknown,,,,,,,`,
      `${one},coral,24.5,24.5,30,10,300,-55,true`,
      `${one},teal,64,103,9,7,63,-15.5,true`,
    ]);
    const aimed = file(
      "aimed.perceptum.json",
      writeProject(
        with_({
          clean: { erode: 1, dilate: 1 },
          setPoint: 60.5,
          order: "bgr",
          frame: { width: 160, height: 120, rows: "bottom first" },
        } as never),
      ),
    );
    const exchanged = drawn([46, 42, 40], [[130, 120, 5], 60, 10, 9, 7]);
    const { out: other } = await cli("classify", aimed, file("exchanged.png", encodePng(exchanged)));
    // Rows from the bottom: 10..16 from below are 103..109 from above.
    expect(other.split("\n")[1]).toBe(`${join(folder, "exchanged.png")},teal,64,106,9,7,63,3.5,false`);
  });

  it("gives each pixel the label that readings of its colour have", async () => {
    const { out } = await cli("classify", project, join(folder, "2.png"));
    const frame = decodePng(pngs[2]);
    const ruleSet = ruleSetOf(document, sensor);
    for (const line of out.trimEnd().split("\n").slice(1)) {
      const [, target, x, y] = line.split(",");
      const at = 3 * (Math.round(Number(y)) * 160 + Math.round(Number(x)));
      const [r, g, b] = frame.data.subarray(at, at + 3);
      expect(classify(ruleSet, featuresOf(r / 255, g / 255, b / 255))).toBe(target);
    }
    expect(out.split("\n").length).toBeGreaterThan(2);
  });

  it("reads JPEG too", async () => {
    const data = Buffer.alloc(160 * 120 * 4, 255);
    const { data: rgb } = drawn(SLATE, [CORAL, 40, 40, 48, 48]);
    for (let i = 0; i < 160 * 120; i++) data.set(rgb.subarray(3 * i, 3 * i + 3), 4 * i);
    const picture = file("picture.jpg", jpeg.encode({ width: 160, height: 120, data }, 95).data);
    const { code, out } = await cli("classify", project, picture);
    expect(code).toBe(0);
    expect(out.split("\n")[1]).toMatch(/picture\.jpg,coral,63\.5,63\.5,48,48,/);
  });

  it.each<[string, () => string[], string]>([
    ["no picture", () => [], "bow is a camera: name the pictures that it took"],
    ["a file that is not there", () => ["gone.png"], "gone.png: there is no such file"],
    [
      "a file that is no picture",
      () => [file("notes.png", "no picture, but long enough to be one")],
      "notes.png: this is not a PNG",
    ],
    ["a damaged PNG", () => [file("cut.png", pngs[0].subarray(0, 900))], "cut.png: the PNG is damaged or cut off"],
    [
      "a damaged JPEG",
      () => [file("cut.jpg", Uint8Array.from([0xff, 0xd8, 0xff, 1, 2, 3]))],
      "cut.jpg: the JPEG is damaged or cut off",
    ],
    [
      "a picture of another size",
      () => [file("small.png", encodePng({ width: 2, height: 1, channels: 3, data: new Uint8Array(6) }))],
      "small.png: the picture has 2 × 1 px; the frames of bow have 160 × 120",
    ],
  ])("refuses %s with one line", async (_, files, said) => {
    const { code, out, errors } = await cli("classify", project, ...files());
    expect([code, out]).toEqual([2, ""]);
    expect(errors.trimEnd().split("\n")).toHaveLength(1);
    expect(errors).toContain(said);
  });
});

describe("the other commands, of a project with a camera", () => {
  it("score pixels and frames", async () => {
    const { code, out } = await cli("score", project, "--json");
    expect(code).toBe(0);
    const score = JSON.parse(out);
    expect(score.share).toBeGreaterThan(0.99);
    expect(score.visits).toBe(demo.tapes[0].boxes?.length);
    expect(score.frames.find((f: { target: string }) => f.target === "chalk")).toEqual({
      target: "chalk",
      shown: 7,
      right: 7,
      wrong: 0,
    });
    expect((await cli("score", project)).out).toContain(
      "Chalk line: in 7 of 7 frames that show it, and in 0 on something else",
    );
  });

  it("suggest rules from boxes, and keep boxes and frames in what they write", async () => {
    const written = join(folder, "suggested.perceptum.json");
    const { code, out } = await cli("suggest", project, "--write", written);
    expect(code).toBe(0);
    expect(out).toContain("Chalk line: ");
    const read = readProject((await cli("suggest", project, "--write", "-")).out);
    if ("problem" in read) throw new Error(read.problem.message);
    expect([read.project.tapes, read.project.frames]).toEqual([demo.tapes, demo.frames]);
    expect((await cli("run", written, "--course", "bed")).code).toBe(0);
  });

  it("run with the core's own trace", async () => {
    const trace = join(folder, "trace.jsonl");
    expect((await cli("run", project, "--course", "bed", "--seed", "3", "--trace", trace)).code).toBe(0);
    expect(readFileSync(trace, "utf8")).toBe(traceJsonLines(run(document, { course: "bed", seed: 3 })));
  });

  it("find what will go wrong, and say which frame is not what its name says", async () => {
    expect((await cli("findings", project)).out).toContain("one-light-only");
    const [first] = Object.keys(demo.frames ?? {});
    const other = { ...demo, frames: { ...demo.frames, [first]: pngs[3].toString("base64") } };
    const { code, errors } = await cli("score", file("other.perceptum.json", writeProject(other)));
    expect(code).toBe(2);
    expect(errors).toContain(`frames.${first}: the frame is not the one that its name says`);
  });
});
