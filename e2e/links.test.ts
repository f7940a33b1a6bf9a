import { bedWatch, glasshouseRound } from "@perceptum/core/demo";
import { encodePng } from "@perceptum/core/png";
import { beforeEach, describe, expect, it } from "vitest";
import { packFrame } from "../demo/packFrame";
import { openLink as openElsewhere } from "./openLink";
import type { Screen } from "./Screen";
import { useSession } from "./session";
import { waitingRobot } from "./waitingRobot";

const session = useSession({ pages: true });
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

describe("readings over a link", () => {
  const round = glasshouseRound();
  const [walk] = round.tapes;
  const lineOf = (i: number, s = "belly") => {
    const { t, channels } = walk.readings;
    return JSON.stringify({ s, t: 5000 + t[i], v: [channels.r?.[i], channels.g?.[i], channels.b?.[i]] });
  };
  const post = (address: string, lines: readonly string[]) =>
    fetch(address, {
      method: "POST",
      headers: { "Content-Type": "application/jsonl" },
      body: lines.join("\n"),
    });
  const open = async () => {
    await session.open(round, "sense");
    await screen.press("radio", "Live");
    await screen.choose(/How the robot is linked/, "POST from this computer");
    expect(await session.textOf('[aria-label="Link"]')).toContain("What runs on this computer can send by POST");
    await screen.press("button", "Open the link");
    await session.page.waitForSelector("code");
    const address = await session.page.$eval("code", (e) => e.textContent ?? "");
    await screen.until("the link to be open", async () => (await post(address, [])).status === 200);
    return address;
  };

  it("are shown as they come, marked and recorded to a tape with the robot's own times", async () => {
    const address = await open();
    const part = (from: number, to: number) => Array.from({ length: to - from }, (_, k) => lineOf(from + k));
    await post(address, part(0, 20));
    await screen.see("region", "The last second");
    await screen.press("button", /Record$/);
    expect(await (await post(address, part(20, 120))).json()).toEqual({
      readings: 100,
      refused: 0,
      beyond: 0,
      errors: [],
    });
    await screen.until("all of them", async () => (await session.textOf('[aria-label="Recorded"]')).endsWith("100"));
    await screen.press("button", /Stop and keep$/);
    await session.atServer("the tape", ({ tapes }) => tapes.at(-1)?.origin === "live" && tapes.length > 2);
    const { tapes } = (await (
      await fetch(`${session.server.url}/api/projects/${session.id}/file`)
    ).json()) as typeof round;
    const { t, channels } = tapes.at(-1)?.readings ?? { t: [], channels: {} };
    expect(t).toEqual(walk.readings.t.slice(20, 120).map((x) => x - walk.readings.t[20]));
    expect(channels.r).toEqual(walk.readings.channels.r?.slice(20, 120));
  });

  it("of another sensor, or with too few values, are left out and named; a second page that opens the link takes it", async () => {
    const address = await open();
    const said = () => session.page.$$eval('[role="alert"]', (all) => all.map((e) => e.textContent ?? "").join("\n"));
    await post(address, [lineOf(0, "nose"), lineOf(1, "nose")]);
    // The project learns which sensor the robot means; what comes of it then is shown.
    await screen.choose(/Which sensor nose is/, "Belly sensor");
    await session.atServer("the name", ({ links }) => JSON.stringify(links?.[0].sensors) === '{"nose":"belly"}');
    await post(address, [lineOf(0, "nose"), lineOf(1, "nose")]);
    await screen.see("region", "The last second");
    await post(address, ['{"s":"belly","v":[1,2]}']);
    await screen.until("the short reading", async () =>
      (await said()).includes("A reading came with 2 values; Belly sensor has 3."),
    );
    const leaving = new AbortController();
    const [, link] = /links\/([^/]+)\//.exec(address) as RegExpExecArray;
    await openElsewhere({ url: session.server.url, link, signal: leaving.signal }, round);
    await screen.until("that it is taken", async () => (await said()).includes("Another page has opened this link."));
    await screen.see("button", "Open the link");
    leaving.abort();
  });
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
    // The page lets go of the link when it shows the frame; the server hears of it a moment later.
    await screen.until("the link to be over", async () => (await send(address, frames[0])).status === 409);
  });
});

describe("a robot on a line", () => {
  const happened = () => session.textOf('[aria-label="What happened"]');
  const opened = async (address: string) => {
    await session.open(glasshouseRound(), "sense");
    await screen.press("radio", "Live");
    await screen.choose(/How the robot is linked/, "TCP, serial or MQTT");
    await screen.enter("Address of the robot", address);
    await screen.press("button", "Open the link");
  };
  const driven = async (address: string) => {
    await opened(address);
    await screen.see("region", "The last second");
    await screen.press("button", "Let it act");
    await screen.until("the wheels", async () => (await happened()).includes("drive 35 %"));
  };

  it("is driven by the page over TCP, and stopped by Esc; leaving the page stops it too", async () => {
    const robot = await waitingRobot();
    try {
      await driven(robot.address);
      await screen.until("Coral tag", async () => /sees Coral tag arrive/.test(await happened()));
      await session.page.keyboard.press("Escape");
      await screen.see("button", "Let it act");
      await screen.seeNo("button", /^Stop/);
      // Watched only, it hears nothing more, and says that it stopped.
      await screen.until("that it stopped", async () => robot.said().includes("nothing was heard for 1.5 s"));
      await screen.see("region", "The last second");
      await screen.press("button", "Let it act");
      await screen.see("button", /^Stop/);
      await screen.until("that it is heard again", async () => robot.said().includes("somebody is heard again"));
      await screen.press("link", /^Decide,/);
      await screen.until("that it stopped again", async () => robot.said().split("nothing was heard").length === 3);
    } finally {
      robot.end();
    }
  });

  it("is stopped when the page that watches it stands still", async () => {
    const robot = await waitingRobot();
    try {
      await driven(robot.address);
      await session.page.evaluate(() => {
        const end = performance.now() + 2500;
        while (performance.now() < end);
      });
      await screen.see("button", "Let it act");
      await screen.until("why", async () =>
        (await session.textOf('[role="alert"]')).includes(
          "The page did not answer for 1.5 s, so the robot was stopped",
        ),
      );
    } finally {
      robot.end();
    }
  });

  it("that is not there, or goes, is said", async () => {
    const alerts = () => session.page.$$eval('[role="alert"]', (all) => all.map((e) => e.textContent ?? "").join("\n"));
    await opened("tcp://127.0.0.1:9");
    await screen.until("what is wrong", async () =>
      (await alerts()).includes("The line could not be opened: nothing listens there."),
    );
    session.complaints.length = 0; // the browser tells of the answer 502
    await screen.enter("Address of the robot", "cart");
    await screen.until("that it is no address", async () =>
      (await session.textOf("main")).includes("“cart” is no line to a robot; there is"),
    );
    const robot = await waitingRobot();
    await screen.enter("Address of the robot", robot.address);
    await screen.press("button", "Open the link");
    await screen.press("button", "Let it act");
    await screen.until("the wheels", async () => (await happened()).includes("drive 35 %"));
    await screen.press("button", "● Record");
    await screen.see("timer", "Recorded");
    robot.end();
    await screen.until("that it went", async () => (await alerts()).includes("The robot closed the line."));
    await screen.see("button", "Open the link");
    // The list of commands stays, and the keys that mark are typed nowhere.
    await screen.see("button", "Save trace");
    expect(await happened()).toContain("drive 35 %");
    await session.atServer("what was recorded", ({ tapes }) => tapes.at(-1)?.origin === "live");
    await session.page.keyboard.press("1");
    expect(await session.page.evaluate(() => document.activeElement?.tagName)).not.toMatch(/INPUT|TEXTAREA/);
    expect(await screen.valueOf("textbox", "Address of the robot")).toBe(robot.address);
  });

  it("is driven over a serial port of the browser, in a worker of the page", async () => {
    // A port object in the place of the browser's: it says what a robot says, and keeps what it is told.
    await session.page.evaluateOnNewDocument(() => {
      const told: string[] = [];
      let say: ReadableStreamDefaultController<Uint8Array> | undefined;
      const port = {
        open: async () => undefined,
        close: async () => undefined,
        readable: new ReadableStream<Uint8Array>({
          start(controller) {
            say = controller;
          },
        }),
        writable: new WritableStream<Uint8Array>({
          write(part) {
            told.push(new TextDecoder().decode(part));
          },
        }),
      };
      Object.defineProperty(navigator, "serial", { value: { requestPort: async () => port } });
      Object.assign(window, { told, say: (text: string) => say?.enqueue(new TextEncoder().encode(text)) });
    });
    await session.open(glasshouseRound(), "sense");
    await screen.press("radio", "Live");
    await screen.choose(/How the robot is linked/, "serial port of this browser");
    await screen.press("button", "Open the link");
    await screen.press("button", "Let it act");
    const told = () => session.page.evaluate(() => (window as unknown as { told: string[] }).told.join(""));
    const say = (t: number) =>
      session.page.evaluate(
        (line) => (window as unknown as { say: (text: string) => void }).say(line),
        `{"s":"belly","t":${t},"v":[700,150,100]}\n`,
      );
    await screen.until("that it lives", async () => (await told()).includes('{"alive":1}'));
    for (const t of [0, 20, 40, 60, 80]) await say(t);
    await screen.until("the lamp", async () => (await told()).includes('{"lamp":"main","rgb":"#e4573d","blink":2}'));
    await screen.see("region", "The last second");
    await session.page.keyboard.press("Escape");
    await screen.until("the stop", async () => (await told()).trim().endsWith('{"stop":"brake"}'));
    // A page that goes says it at once: its worker would not come to it any more.
    await screen.press("button", "Let it act");
    const alive = (await told()).split("alive").length;
    await screen.until("that it lives again", async () => (await told()).split("alive").length > alive);
    const last = await session.page.evaluate(() => {
      dispatchEvent(new PageTransitionEvent("pagehide"));
      return (window as unknown as { told: string[] }).told.at(-1);
    });
    expect(last).toBe('{"stop":"brake"}\n');
    await screen.see("button", "Let it act");
    await screen.press("button", "Close the link");
    await screen.see("button", "Open the link");
  });
});
