import { mkdtempSync, rmSync, truncateSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { bedWatch, glasshouseRound } from "@perceptum/core/demo";
import type { ResponseId } from "@perceptum/core/names";
import { encodePng } from "@perceptum/core/png";
import { splitProject } from "@perceptum/core/project";
import { run } from "@perceptum/core/world";
import { afterAll, beforeEach, describe, expect, it } from "vitest";
import { packFrame } from "../demo/packFrame";
import { HANDS } from "./jobs/Hands";
import type { Screen } from "./Screen";
import { useSession } from "./session";

const session = useSession();
const demo = bedWatch(packFrame);
const folder = mkdtempSync(join(tmpdir(), "perceptum-trouble-"));
let screen: Screen;
beforeEach(async () => {
  ({ screen } = session);
  await session.open(demo, "sense");
  await screen.see("region", "Frame at the playhead");
});
afterAll(() => rmSync(folder, { recursive: true }));

/** A file with some bytes; longer than these where it is said. */
function file(name: string, bytes: Uint8Array | string, length?: number): string {
  const path = join(folder, name);
  writeFileSync(path, bytes);
  if (length !== undefined) truncateSync(path, length);
  return path;
}
const picture = (name: string, width: number, height: number) =>
  file(name, encodePng({ width, height, channels: 3, data: new Uint8Array(3 * width * height).fill(120) }));

async function choose(...paths: string[]): Promise<void> {
  const [chooser] = await Promise.all([session.page.waitForFileChooser(), screen.press("button", "Import …")]);
  await chooser.accept(paths);
  await screen.see("dialog", "Pictures of a camera");
}
const inSheet = () => session.textOf('[role="dialog"]');
const alerts = () => session.page.$$eval('[role="alert"]', (all) => all.map((e) => e.textContent ?? "").join("\n"));
const saysSoon = (words: RegExp) => screen.until(`the words ${words}`, async () => words.test(await alerts()));
const asMade = (document: { tapes: readonly unknown[]; sensors: readonly unknown[] }) =>
  document.tapes.length === demo.tapes.length && document.sensors.length === demo.sensors.length;

describe("pictures of a camera", () => {
  it("that are none, that are cut off, that are too large, and videos that do not play are each named, the good one is taken", async () => {
    const png = encodePng({ width: 160, height: 120, channels: 3, data: new Uint8Array(3 * 160 * 120).fill(90) });
    await choose(
      file("notes.png", "no picture at all"),
      file("cut.png", png.subarray(0, 60)),
      file("large.png", png, 100 * 1024 * 1024),
      file("film.mp4", "no film"),
      picture("good-1.png", 160, 120),
    );
    await saysSoon(/notes\.png is no picture that the browser can read; it is left out/);
    await saysSoon(/large\.png has 100 MB; at most 50 MB are read/);
    await saysSoon(/film\.mp4 is a video that this browser cannot play; it is left out/);
    await screen.press("button", "Take them in");
    await session.atServer("the tape of one frame", ({ tapes }) => tapes.at(-1)?.frames?.length === 1);
    // Its head is that of a picture, so it is found out only as it is taken in.
    await screen.until("the words about the one that is cut off", async () =>
      /cut\.png: the PNG is damaged or cut off; it is left out/.test(await session.textOf("body")),
    );
  });

  it("of which none is one change nothing", async () => {
    await choose(file("notes.png", "no picture at all"));
    await screen.until("the words", async () => (await inSheet()).includes("nothing was changed"));
    await screen.press("button", "Cancel");
    await session.atServer("the project as it was", asMade);
  });

  it("of another size say so; a camera that has tapes keeps its own, and they are scaled", async () => {
    await choose(picture("wide-1.png", 200, 100), picture("wide-2.png", 200, 100));
    await screen.until("the sizes", async () =>
      /The pictures have 200 × 100 px, the frames of Bow camera 160 × 120 px/.test(await inSheet()),
    );
    expect(await inSheet()).toContain("The camera has tapes of its own size, so it keeps it.");
    await screen.press("button", "Take them in");
    await session.atServer("both frames", ({ tapes }) => tapes.at(-1)?.frames?.length === 2);
    await screen.see("image", /^Frame 1 of Pictures/);
  });

  it("that are larger than any frame may be are not taken", async () => {
    await choose(picture("huge.png", 2000, 20));
    await saysSoon(/The pictures have 2000 × 20 px; a camera's frames have at most 1920 × 1200 px/);
    const taking = await screen.find("button", "Take them in");
    expect(await taking.evaluate((e) => e.getAttribute("aria-disabled"))).toBe("true");
    await screen.press("button", "Cancel");
    await session.atServer("the project as it was", asMade);
  });
});

describe("what does not fit", () => {
  it("a box that would reach out of the frame stays as it was", async () => {
    await screen.press("button", "Box in the middle");
    await screen.press("button", "Coral tag");
    await screen.see("group", "The chosen box");
    await screen.enter("Width of the box in px", "400");
    await saysSoon(/It would reach out of the frame of 160 × 120 px; the box stays as it was/);
    await session.atServer("a box of a quarter", ({ tapes }) => tapes[0].boxes?.at(-1)?.width === 40);
  });

  it("a strip upside down is not taken", async () => {
    await screen.press("button", "Change sensor");
    const hands = HANDS.pointer(screen);
    await hands.type("First row that counts", "100");
    await hands.type("First row below the strip", "20");
    await saysSoon(/The strip is upside down: its end must lie below its first row/);
    await screen.press("button", "Cancel");
    await session.atServer("the project as it was", asMade);
  });

  it("a computer without a camera says so, and what else there is", async () => {
    await screen.press("radio", "Camera");
    await screen.press("button", "Start the camera");
    await saysSoon(/camera\b.*(import pictures|nothing was changed)/i);
    await screen.see("button", "Start the camera");
  });
});

describe("a run by camera", () => {
  it("stands at every stage, and is kept as a tape that is boxed", async () => {
    // It ends soon: each frame is packed and sent by itself.
    const [mode, ...modes] = demo.behaviour.modes;
    const soon = { ...mode.responses[0], id: "soon" as ResponseId, when: { after: 4000 }, then: "finish" as const };
    const behaviour = { ...demo.behaviour, modes: [{ ...mode, responses: [soon, ...mode.responses] }, ...modes] };
    const project = { ...demo, behaviour };
    const [eye] = run(splitProject(project).document, { course: demo.courses[0].id, seed: 1 }).eyes;
    await session.open(project, "sense");
    await screen.see("region", "Frame at the playhead");
    const stage = (name: string) => screen.press("link", new RegExp(`^${name},`));
    await stage("Prove");
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    await stage("Sense");
    await screen.see("image", /^Frame 1 of The path/);
    await stage("Decide");
    await screen.see("image", /^Frame 1 of The path/);
    await stage("Act");
    await screen.press("radio", "Rehearsal");
    await screen.see("list", "Rehearsal");
    await stage("Ship");
    await screen.see("region", "Code for the robot");
    await stage("Prove");
    await screen.press("button", "Keep as a tape");
    // Each of its frames is packed.
    await screen.see("button", "Kept as a tape", 60_000);
    // And each is sent by itself.
    await session.atServer(
      "the tape with its boxes",
      ({ tapes }) => {
        const { frames = [], boxes = [], origin } = tapes.at(-1) ?? {};
        return origin === "run" && frames.length === eye.readings.t.length && boxes.length > 10;
      },
      60_000,
    );
    await stage("Sense");
    await screen.see("image", /^Frame \d+ of Run on Bed/);
  });
});

describe("a camera beside another sensor", () => {
  it("is shown in a run, though it is mounted second", async () => {
    const { sensors, ruleSets, robot } = glasshouseRound();
    const both = structuredClone(demo);
    both.sensors.push(sensors[0]);
    both.ruleSets.push({ ...ruleSets[0], rules: [], nearest: { references: [], reject: 0.25 } });
    both.robot.mounts.unshift(robot.mounts[0]);
    await session.open(both, "prove");
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    await screen.see("image", /^Bow camera, frame \d+ of/);
  });
});

describe("the frame", () => {
  it("tells each pixel by arrow keys, and Decide says why", async () => {
    const now = () => session.textOf('[aria-label="Under the sensor now"]');
    await screen.press("link", /^Decide,/);
    await screen.press("radio", "Why");
    await screen.see("region", "Frame beside the field");
    await screen.tabTo("slider", "Pixel that is looked at");
    await screen.until("the pixel in the middle", async () => (await session.textOf("body")).includes("pixel 80, 60"));
    expect(await now()).not.toContain("no pixel");
    await session.page.keyboard.press("ArrowRight");
    await session.page.keyboard.down("Shift");
    await session.page.keyboard.press("ArrowDown");
    await session.page.keyboard.up("Shift");
    await screen.until("the pixel further on", async () => (await session.textOf("body")).includes("pixel 81, 70"));
  });

  it("is enlarged by keys and by the wheel, moved by arrow keys, and boxed where it then lies", async () => {
    const hands = HANDS.pointer(screen);
    const image = await screen.find("image", /^Frame 1 of/);
    const { width: wide = 0, height: high = 0 } = (await image.boundingBox()) ?? {};
    const draw = async (count: number) => {
      await hands.over?.("image", /^Frame 1 of/, [wide / 2 - 30, high / 2 - 30], [wide / 2 + 30, high / 2 + 30]);
      await screen.press("button", "Moss strip");
      await session.atServer(`${count} boxes`, ({ tapes }) => tapes[0].boxes?.length === count);
      return (await boxes()).at(-1) ?? { left: 0, width: 0 };
    };
    const boxes = async () =>
      (await (await fetch(`${session.server.url}/api/projects/${session.id}`)).json()).tapes[0].boxes as {
        left: number;
        width: number;
      }[];
    const before = (await boxes()).length;
    const whole = await draw(before + 1);
    await screen.press("button", "Zoom into the frame");
    await screen.press("button", "Zoom into the frame");
    await session.page.keyboard.press("ArrowLeft");
    const larger = await draw(before + 2);
    expect(larger.width).toBeGreaterThan(whole.width / 2.25 - 2);
    expect(larger.width).toBeLessThan(whole.width / 2.25 + 2);
    expect(larger.left + larger.width / 2).toBeLessThan(whole.left + whole.width / 2 - 5);
    await image.hover();
    await session.page.mouse.wheel({ deltaY: 3000 });
    await session.page.waitForSelector('[aria-label="Zoom out of the frame"][aria-disabled="true"]');
    expect((await draw(before + 3)).width).toBe(whole.width);
  });
});
