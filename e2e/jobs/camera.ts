import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Name } from "../Screen";
import type { Picture, Shown } from "./cameraFiles";
import type { Desk } from "./Job";

/** Chooses pictures where a control asks for files, and takes them in. */
export async function takePictures(
  { page, hands, screen }: Desk,
  control: Name,
  pictures: Readonly<Record<string, Picture>>,
  before: () => Promise<void> = async () => {},
): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "perceptum-pictures-"));
  const paths = Object.entries(pictures).map(([name, { png }]) => {
    const path = join(folder, name);
    writeFileSync(path, png);
    return path;
  });
  const [chooser] = await Promise.all([page.waitForFileChooser(), hands.press("button", control)]);
  await chooser.accept(paths);
  await screen.see("dialog", "Pictures of a camera");
  await before();
  await hands.press("button", "Take them in");
  await screen.seeNo("dialog", /./);
  rmSync(folder, { recursive: true });
  await screen.see("region", "Frame at the playhead");
}

/** Boxes a thing on the frame that is shown: drawn with a pointer, else put in the middle and its numbers typed. */
export async function boxThing(desk: Desk, { left, top, width, height }: Shown, name: string): Promise<void> {
  const { hands, screen, page } = desk;
  const frame = /^Frame \d+ of /;
  const count = () => page.$$eval('[aria-label^="Box of "]', (all) => all.length);
  const before = await count();
  if (hands.over !== undefined) {
    const element = await screen.find("image", frame);
    const box = await element.boundingBox();
    if (box === null) throw new Error("the frame is not on the page");
    const scale = Math.min(box.width / 320, box.height / 240);
    const [x, y] = [(box.width - 320 * scale) / 2, (box.height - 240 * scale) / 2];
    const at = (column: number, row: number): [number, number] => [x + (column + 0.5) * scale, y + (row + 0.5) * scale];
    await hands.over("image", frame, at(left, top), at(left + width - 1, top + height - 1));
    await hands.press("button", name);
    await screen.until("the box", async () => (await count()) === before + 1);
    return;
  }
  await hands.press("button", "Box in the middle");
  await hands.press("button", name);
  await screen.see("group", "The chosen box");
  // So small first that nothing reaches out of the frame on the way.
  await hands.enter("Width of the box in px", "1");
  await hands.enter("Height of the box in px", "1");
  await hands.enter("First column of the box", String(left));
  await hands.enter("First row of the box", String(top));
  await hands.enter("Width of the box in px", String(width));
  await hands.enter("Height of the box in px", String(height));
}

/** What is found in the frame that is shown, once it is so. */
export const seesFound = async ({ screen, page }: Desk, what: string, ask: (names: readonly string[]) => boolean) => {
  const found = () =>
    page
      .$$eval('[aria-label="The largest blob of each target, in px"] tbody tr', (rows) =>
        rows.map((row) => row.getAttribute("aria-label") ?? ""),
      )
      .catch(() => []);
  await screen.until(what, async () => ask(await found()));
};
