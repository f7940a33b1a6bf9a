import { writeFileSync } from "node:fs";
import { addTarget, begin } from "./bench";
import { boxThing, seesFound } from "./camera";
import { filmOf, OVERCAST, PAINTS, pictureOf, threeBoxes } from "./cameraFiles";
import type { MachineJob } from "./machineJobs";

const film = [{ x: 200, y: 600, heading: 0 }].map((place) => pictureOf(threeBoxes, place, OVERCAST));

/** Writes the film that the browser's fake camera shows, and gives the arguments that let it. */
export function fakeCamera(file: string): string[] {
  writeFileSync(file, filmOf(film, 4));
  return [
    "--use-fake-ui-for-media-stream",
    "--use-fake-device-for-media-stream",
    `--use-file-for-fake-video-capture=${file}`,
  ];
}

/** The computer's own camera: recorded to a tape, boxed, taught. */
export const ownCamera: MachineJob = {
  title: "the computer's own camera is recorded to a tape, which is boxed and taught",
  async perform(desk) {
    const { hands, screen, page } = desk;
    await begin(desk, "Own camera");
    const names = { coral: "Coral box", teal: "Teal box", amber: "Amber box" };
    for (const [id, name] of Object.entries(names)) await addTarget(desk, name, "Tag", PAINTS[id]);
    await hands.press("button", "Add sensor");
    await screen.see("dialog", "New sensor");
    await hands.type("Name", "Desk camera");
    await hands.choose(/Ready form/, "Camera frames, 8 bit each");
    await hands.type("Width of a frame", "320");
    await hands.type("Height of a frame", "240");
    await hands.choose(/Rules/, "its own rules");
    await hands.press("button", "Add");
    await screen.seeNo("dialog", /./);
    await hands.press("radio", "Camera");
    await hands.press("button", "Start the camera");
    await hands.press("button", "Record");
    await screen.until("ten frames", async () => {
      const text = await page.$eval('[aria-label="Frames recorded"]', (e) => e.textContent ?? "").catch(() => "");
      return Number.parseInt(text, 10) >= 10;
    });
    await hands.press("button", "Stop and keep");
    await screen.see("region", "Frame at the playhead");
    for (const [id, name] of Object.entries(names)) {
      const shown = film[0].shows.find(({ target }) => target === id);
      if (shown === undefined) throw new Error(`the film does not show ${id}`);
      await boxThing(desk, shown, name);
    }
    await boxThing(desk, { target: "floor", left: 60, top: 190, width: 200, height: 40 }, "Floor");
    await hands.press("link", /^Decide,/);
    await hands.press("button", "Suggest rules");
    await screen.see("dialog", /./);
    await hands.press("button", "Use all rules");
    await screen.see("button", /^Rule 3, /);
    await hands.press("link", /^Sense,/);
    await hands.press("button", "One reading on");
    await seesFound(desk, "all three in the second frame", (found) => found.length === 3);
    // Live, too.
    await hands.press("radio", "Camera");
    await hands.press("button", "Start the camera");
    await seesFound(desk, "all three live", (found) => found.length === 3);
    await hands.press("button", "Freeze");
    await hands.press("button", "Keep this frame");
    await screen.see("button", "Box in the middle");
  },
};
