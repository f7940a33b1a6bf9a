import { bedWatch } from "@perceptum/core/demo";
import { encodePng } from "@perceptum/core/png";
import { beforeEach, describe, expect, it } from "vitest";
import { packFrame } from "../demo/packFrame";
import type { Screen } from "./Screen";
import { useSession } from "./session";

const session = useSession();
const demo = bedWatch(packFrame);
const [bed] = demo.tapes;
const frames = (bed.frames ?? []).map((name) => Buffer.from(demo.frames?.[name] ?? "", "base64"));
let screen: Screen;

/** Opens the link on Sense, and gives the address to send to. */
async function openLink(): Promise<string> {
  await session.open(demo, "sense");
  await screen.press("radio", "Live");
  await screen.press("button", "Open the link");
  const [address] = await session.page
    .waitForSelector("code")
    .then(() => session.page.$$eval("code", (all) => all.map((e) => e.textContent ?? "")));
  // The link is open once the server takes what is sent.
  await screen.until("the link to be open", async () => (await send(address, Buffer.from("x"))).status === 422);
  return address;
}
const send = (address: string, body: Uint8Array, type = "image/png") =>
  fetch(address, { method: "POST", headers: { "Content-Type": type }, body: Buffer.from(body) });
const found = () =>
  session.page.$$eval('[aria-label="The largest blob of each target, in px"] tbody tr', (rows) =>
    rows.map((row) => row.getAttribute("aria-label") ?? ""),
  );
const recorded = () => session.textOf('[aria-label="Frames recorded"]');

beforeEach(() => {
  ({ screen } = session);
});

describe("pictures over a link", () => {
  it("are looked at as they come, frozen, kept, and recorded to a tape byte for byte", async () => {
    const address = await openLink();
    await send(address, frames[0]);
    await screen.see("image", "What the camera sees");
    await screen.until("the chalk line", async () => (await found()).some((name) => name.startsWith("Chalk")));
    await screen.press("button", "Record");
    for (const [k, frame] of frames.slice(0, 3).entries()) {
      expect((await send(address, frame)).status).toBe(204);
      await screen.until(`frame ${k + 1}`, async () => Number.parseInt(await recorded(), 10) === k + 1);
    }
    await screen.press("button", "Stop and keep");
    await screen.see("image", /^Frame 1 of Bow camera, recorded/);
    await session.atServer("the tape, frames as they were sent, and the link", ({ tapes, links }) => {
      const tape = tapes.at(-1);
      return (
        tape?.origin === "live" &&
        JSON.stringify(tape.frames) === JSON.stringify(bed.frames?.slice(0, 3)) &&
        links?.length === 1 &&
        address.includes(links[0].id)
      );
    });
  });

  it("of another size are scaled, which is said; what cannot be read is refused or named, and nothing is lost", async () => {
    const address = await openLink();
    await send(address, encodePng({ width: 80, height: 60, channels: 3, data: new Uint8Array(3 * 80 * 60).fill(90) }));
    await screen.until("the size", async () =>
      (await session.textOf("main")).includes("The pictures come with 80 × 60 px; they are scaled to 160 × 120 px."),
    );
    // Its head is that of a picture, so only the page finds out.
    await send(address, frames[0].subarray(0, 200));
    await screen.until("the words", async () => /A picture was lost: /.test(await session.textOf('[role="alert"]')));
    await send(address, frames[0]);
    await screen.until("the next one", async () => (await found()).length > 0);
    await screen.press("button", "Freeze");
    await screen.press("button", "Keep this frame");
    await screen.see("image", /^Frame 1 of Bow camera, one frame/);
    expect((await send(address, frames[0])).status).toBe(409);
  });
});
