import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { bedWatch } from "@perceptum/core/demo";
import { afterAll, describe, it } from "vitest";
import { packFrame } from "../demo/packFrame";
import { doneBy } from "./jobs/doneBy";
import { fakeCamera, ownCamera } from "./jobs/ownCamera";
import { useSession } from "./session";

const folder = mkdtempSync(join(tmpdir(), "perceptum-camera-"));
const session = useSession({ pages: true, browser: fakeCamera(join(folder, "film.y4m")) });

afterAll(() => rmSync(folder, { recursive: true }));

describe("a job with the computer's own camera, from an empty project", () => {
  it("is done by keyboard", () => doneBy(session, "keyboard", ownCamera), 180_000);
});

describe("a camera that the browser asks about", () => {
  it("is off where the page was left meanwhile", async () => {
    await session.open(bedWatch(packFrame), "sense");
    const { screen, page } = session;
    await page.evaluate(() => {
      const asked = { allow: () => {}, given: null as MediaStream | null };
      const devices = navigator.mediaDevices;
      const give = devices.getUserMedia.bind(devices);
      devices.getUserMedia = async (wanted) => {
        await new Promise<void>((done) => {
          asked.allow = done;
        });
        asked.given = await give(wanted);
        return asked.given;
      };
      Object.assign(window, { asked });
    });
    await screen.press("radio", "Camera");
    await screen.press("button", "Start the camera");
    await screen.press("link", /^Decide,/);
    await screen.see("button", "Suggest rules");
    await page.evaluate(() => (window as unknown as { asked: { allow(): void } }).asked.allow());
    await screen.until("the camera to be off", () =>
      page.evaluate(() => {
        const { given } = (window as unknown as { asked: { given: MediaStream | null } }).asked;
        return given?.getTracks().every(({ readyState }) => readyState === "ended");
      }),
    );
  });
});
