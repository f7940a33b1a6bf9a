import { type ChildProcess, spawn } from "node:child_process";
import { randomUUID } from "node:crypto";
import { EventEmitter } from "node:events";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { createServer, type Socket } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { deflateSync } from "node:zlib";
import { bedWatch, glasshouseRound } from "@perceptum/core/demo";
import { type LinkState, type LiveMoment, listensOf, readAddress } from "@perceptum/core/live";
import { encodePng } from "@perceptum/core/png";
import { splitProject, writeProject } from "@perceptum/core/project";
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from "vitest";
import { packFrame } from "../../demo/packFrame";
import { openLink } from "../../e2e/openLink";
import { ROOT, type RunningServer, startServer } from "../../e2e/server";
import { LinkHub } from "./links/LinkHub";

const demo = glasshouseRound();
const { document } = splitProject(demo);
const LINK = "link-aaaaaaaaaaaa";
const OTHER = "link-bbbbbbbbbbbb";
let server: RunningServer;
let folder: string;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), "perceptum-acting-"));
  writeFileSync(join(folder, "demo.json"), writeProject(demo));
  server = await startServer();
});
afterAll(async () => {
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
});
const ends: (() => void)[] = [];
afterEach(() => {
  for (const end of ends.splice(0)) end();
});

const at = (path: string) => `${server.url}/api/links/${path}`;
const ask = async (method: string, path: string, body?: object, url = server.url): Promise<[number, string]> => {
  const response = await fetch(`${url}/api/links/${path}`, {
    method,
    headers: { "Content-Type": "application/json" },
    ...(body && { body: JSON.stringify(body) }),
  });
  return [response.status, response.status < 300 ? "" : ((await response.json()) as { detail: string }).detail];
};

/** Waits until a check holds. */
const soon = (check: () => void | Promise<void>, options = {}) => vi.waitFor(check, { timeout: 10_000, ...options });

/** Opens a link as a page does, and hears what it is told. */
async function opened(link: string, project: Parameters<typeof openLink>[1] = document, url = server.url) {
  const leaving = new AbortController();
  return { ...hearing(await openLink({ url, link, signal: leaving.signal }, project), leaving), ...actsOf(link, url) };
}

/** The requests of a page that lets a behaviour act; it says all the time that it is there. */
function actsOf(link: string, url: string) {
  let act = "";
  const send = (method: string, path: string, body?: object) => ask(method, `${link}/acts/${path}`, body, url);
  const watching = setInterval(() => void send("PUT", `${act}/watch`).catch(() => undefined), 300);
  ends.push(() => clearInterval(watching));
  return {
    /** Lets a project act. */
    begin: (project: object) => {
      act = randomUUID();
      return send("POST", act, project);
    },
    change: (project: object) => send("PUT", act, project),
    stop: () => send("DELETE", act),
    /** The page stands still. */
    freeze: () => clearInterval(watching),
  };
}

/** Server-sent events as they come. */
async function events(path: string) {
  const leaving = new AbortController();
  return hearing(await fetch(at(path), { signal: leaving.signal }), leaving);
}

function hearing(response: Response, leaving: AbortController) {
  const heard: { event: string; data: unknown }[] = [];
  const read = async () => {
    let text = "";
    const decoder = new TextDecoder();
    for await (const part of response.body as unknown as AsyncIterable<Uint8Array>) {
      text += decoder.decode(part, { stream: true });
      for (let end = text.indexOf("\n\n"); end >= 0; end = text.indexOf("\n\n")) {
        const lines = text.slice(0, end).split("\n");
        text = text.slice(end + 2);
        const of = (key: string) => lines.find((line) => line.startsWith(`${key}: `))?.slice(key.length + 2);
        const data = of("data");
        if (data !== undefined) heard.push({ event: of("event") ?? "", data: JSON.parse(data) });
      }
    }
  };
  void read().catch(() => undefined);
  const leave = () => leaving.abort();
  ends.push(leave);
  const states = () => heard.flatMap(({ event, data }) => (event === "state" ? [data as LinkState] : []));
  const moments = () => heard.flatMap(({ event, data }) => (event === "moment" ? [data as LiveMoment] : []));
  return { heard, states, moments, leave };
}

/** A robot that a test plays: it listens, and keeps what it is told. */
async function robot() {
  const told: Record<string, unknown>[] = [];
  let socket: Socket | undefined;
  let gone = false;
  /** Lines that were said before the server's connection was heard of here. */
  let unsaid = "";
  const listener = createServer((own) => {
    socket = own;
    own.write(unsaid);
    unsaid = "";
    let text = "";
    own.on("error", () => undefined);
    own.on("close", () => {
      if (socket === own) gone = true;
    });
    own.on("data", (part) => {
      text += String(part);
      const lines = text.split("\n");
      text = lines.pop() as string;
      told.push(...lines.map((line) => JSON.parse(line) as Record<string, unknown>));
    });
  });
  await new Promise<void>((done) => listener.listen(0, "127.0.0.1", done));
  ends.push(() => {
    socket?.destroy();
    listener.close();
  });
  const { port } = listener.address() as { port: number };
  return {
    address: `tcp://127.0.0.1:${port}`,
    told,
    isGone: () => gone,
    lose: () => socket?.destroy(),
    say(...lines: object[]) {
      const text = lines.map((line) => `${JSON.stringify(line)}\n`).join("");
      if (socket === undefined) unsaid += text;
      else socket.write(text);
    },
  };
}
const coral = (t: number) => ({ s: "belly", t, v: [700, 150, 100] });

describe("a link that acts", { timeout: 30_000 }, () => {
  it("reads over its line, commands once it is let, and stops when it is stopped or its page leaves", async () => {
    expect(await ask("POST", `${LINK}/acts/${randomUUID()}`, document)).toEqual([
      409,
      expect.stringContaining("not open"),
    ]);
    const page = await opened(LINK);
    const cart = await robot();
    expect(await ask("PUT", `${LINK}/wire`, { address: cart.address })).toEqual([204, ""]);
    cart.say({ hello: "perceptum", version: 1 }, coral(0), coral(20));
    await soon(() => expect(page.heard.some(({ event }) => event === "readings")).toBe(true));
    expect(cart.told).toEqual([]);
    expect(await page.begin(document)).toEqual([201, ""]);
    await soon(() => expect(cart.told).toContainEqual({ alive: 1 }));
    cart.say(...[100, 120, 140, 160, 180].map(coral));
    await soon(() => expect(cart.told).toContainEqual({ lamp: "main", rgb: "#e4573d", blink: 2 }));
    expect(page.moments().flatMap(({ notes }) => notes)).toContainEqual(
      expect.objectContaining({ kind: "fires", response: "water" }),
    );
    expect(page.states().at(-1)).toMatchObject({ acting: true, trouble: null });

    // A line that is opened anew: what acted over the old one stops first.
    const stops = cart.told.filter(({ stop }) => stop === "brake").length;
    expect(await ask("PUT", `${LINK}/wire`, { address: cart.address })).toEqual([204, ""]);
    await soon(() => expect(cart.told.filter(({ stop }) => stop === "brake").length).toBeGreaterThan(stops));
    await soon(() => expect(page.states().at(-1)).toMatchObject({ acting: false }));
    expect(await page.begin(document)).toEqual([201, ""]);
    await soon(() => expect(page.states().at(-1)).toMatchObject({ acting: true, trouble: null }));

    // Another may not act meanwhile.
    const other = await opened(OTHER);
    expect(await other.begin(document)).toEqual([409, expect.stringContaining("another link acts")]);

    expect(await page.stop()).toEqual([204, ""]);
    await soon(() => expect(cart.told.at(-1)).toEqual({ stop: "brake" }));
    await soon(() => expect(page.states().at(-1)).toMatchObject({ acting: false }));
    const { length } = cart.told;
    cart.say(coral(600), coral(620), coral(640));
    // Acting again begins anew, and ends with the page.
    expect(await page.begin(document)).toEqual([201, ""]);
    await soon(() => expect(cart.told.length).toBeGreaterThan(length));
    page.leave();
    await soon(() => expect(cart.isGone()).toBe(true));
    expect(cart.told.at(-1)).toEqual({ stop: "brake" });
    expect(await other.begin(document)).toEqual([201, ""]);
    await other.stop();
  });

  it("goes by changed rules from the next reading on, and begins anew with another behaviour", async () => {
    const page = await opened(LINK);
    const cart = await robot();
    await ask("PUT", `${LINK}/wire`, { address: cart.address });
    await page.begin(document);
    cart.say(...[0, 20].map(coral));
    await soon(() => expect(cart.told).toContainEqual({ wheels: [0.35, 0.35] }));
    const blind = structuredClone(document);
    for (const ruleSet of blind.ruleSets) ruleSet.rules = [];
    await page.change(blind);
    cart.say(...[40, 60, 80, 100, 120].map(coral));
    await page.change(document);
    cart.say(...[140, 160, 180, 200].map(coral));
    await soon(() => expect(cart.told.some((line) => "lamp" in line)).toBe(true));
    const arrived = page.moments().flatMap(({ notes }) => notes.filter(({ kind }) => kind === "arrives"));
    // Three readings by the rules that came back; more time may have passed until they came.
    expect(arrived).toHaveLength(1);
    expect(arrived[0].t).toBeGreaterThanOrEqual(180);
    const calm = structuredClone(document);
    calm.behaviour.modes[0].entering = [];
    const before = cart.told.length;
    await page.change(calm);
    await soon(() => expect(cart.told.slice(before)).toContainEqual({ stop: "brake" }));
    page.leave();
  });

  it("says what is wrong: a line that cannot be opened, or is lost while it acts", async () => {
    const page = await opened(LINK);
    expect(await ask("PUT", `${LINK}/wire`, { address: "ftp://x" })).toEqual([
      422,
      expect.stringContaining("is no line to a robot"),
    ]);
    expect(await ask("PUT", `${LINK}/wire`, { address: "-" })).toEqual([
      422,
      expect.stringContaining("only a terminal"),
    ]);
    expect(await ask("PUT", `${LINK}/wire`, { address: "serial:/dev/nowhere" })).toEqual([
      502,
      "the line could not be opened: it is not there",
    ]);
    const cart = await robot();
    await ask("PUT", `${LINK}/wire`, { address: cart.address });
    expect(await page.begin({ not: "a project" })).toEqual([422, expect.any(String)]);
    await page.begin(document);
    cart.say(coral(0));
    await soon(() => expect(cart.told.length).toBeGreaterThan(0));
    cart.lose();
    await soon(() =>
      expect(page.states().at(-1)).toMatchObject({ acting: false, over: true, trouble: "the robot closed the line" }),
    );
    page.leave();
  });

  it("commands a robot that sends by POST over server-sent events", async () => {
    const page = await opened(LINK);
    const commands = await events(`${LINK}/commands`);
    await page.begin(document);
    const lines = [0, 20, 40, 60].map((t) => JSON.stringify(coral(t))).join("\n");
    const taken = await fetch(at(`${LINK}/readings`), {
      method: "POST",
      headers: { "Content-Type": "application/jsonl" },
      body: lines,
    });
    expect(await taken.json()).toMatchObject({ readings: 4 });
    const told = () => commands.heard.map(({ data }) => data);
    await soon(() => expect(told()).toContainEqual({ lamp: "main", rgb: "#e4573d", blink: 2 }));
    page.leave();
    await soon(() => expect(told().at(-1)).toEqual({ stop: "brake" }));
  });
});

/** Has a robot say a reading every 20 ms; gives how far its clock has come. */
function reading(cart: Awaited<ReturnType<typeof robot>>): () => number {
  let t = 0;
  const timer = setInterval(() => {
    t += 20;
    cart.say(coral(t));
  }, 20);
  ends.push(() => clearInterval(timer));
  return () => t;
}

describe("Stop", { timeout: 120_000 }, () => {
  it("stops: whatever was asked for before it, however large and however late it is answered, the robot only hears stop", async () => {
    const page = await opened(LINK);
    const cart = await robot();
    await ask("PUT", `${LINK}/wire`, { address: cart.address });
    const read = reading(cart);
    /** The project with names as long as there may be, until it has about so many bytes. */
    const grown = (bytes: number) => {
      const project = structuredClone(document);
      const { length } = JSON.stringify(project);
      const mark = { id: "mark-10000", from: 0, to: 1, target: project.targets[0].id };
      const count = Math.max(0, Math.round((bytes - length) / (JSON.stringify(mark).length + 1)));
      project.tapes[0].marks = Array.from({ length: count }, (_, i) => ({
        ...mark,
        id: `mark-${i}` as never,
        from: 2 * i,
        to: 2 * i + 1,
      }));
      return project;
    };
    const sizes = [10_000, 50_000, 300_000, 1_000_000, 5_000_000].map(grown);
    for (let round = 0; round < 40; round++) {
      // Large ones take long: a few of them will do.
      const project = sizes[round === 0 ? 4 : round % 20 === 0 ? 3 : round % 3];
      const begun = page.begin(document);
      // Some are stopped while they begin, some while they are being changed, some long after.
      if (round % 3 !== 0) await begun;
      const changed = page.change(project);
      if (round % 5 === 0) await changed;
      expect(await page.stop()).toEqual([204, ""]);
      await Promise.all([begun, changed]);
      const mark = cart.told.length;
      const { length } = page.states();
      // Some readings later.
      const until = read() + 80;
      await soon(() => expect(read()).toBeGreaterThan(until), { interval: 10 });
      const since = cart.told.slice(mark).filter((line) => !("alive" in line) && !("stop" in line));
      expect(since, `round ${round}`).toEqual([]);
      expect(
        page
          .states()
          .slice(length)
          .some(({ acting }) => acting),
      ).toBe(false);
    }
    page.leave();
  });

  it("is what a page that stands still comes to, after 1.5 s, and a server that did, too", async () => {
    const page = await opened(LINK);
    const cart = await robot();
    await ask("PUT", `${LINK}/wire`, { address: cart.address });
    reading(cart);
    await page.begin(document);
    await soon(() => expect(cart.told.some((line) => "wheels" in line)).toBe(true));
    page.freeze();
    await soon(() => expect(page.states().at(-1)).toMatchObject({ acting: false }));
    expect(page.states().at(-1)?.trouble).toMatch(/^the page did not answer for 1.5 s, so the robot was stopped/);
    expect(cart.told.at(-1)).toEqual({ stop: "brake" });
    page.leave();

    const next = await opened(LINK);
    await ask("PUT", `${LINK}/wire`, { address: cart.address });
    await next.begin(document);
    await soon(() => expect(next.states().at(-1)).toMatchObject({ acting: true }));
    server.process.kill("SIGSTOP");
    const stood = performance.now();
    await soon(() => expect(performance.now() - stood).toBeGreaterThan(1700));
    server.process.kill("SIGCONT");
    await soon(() => expect(next.states().at(-1)).toMatchObject({ acting: false }));
    expect(next.states().at(-1)?.trouble).toMatch(/so the robot (has stopped by itself|was stopped)/);
    next.leave();
  });

  it("comes to a robot that has fallen silent, which is said before", async () => {
    const page = await opened(LINK);
    const cart = await robot();
    await ask("PUT", `${LINK}/wire`, { address: cart.address });
    await page.begin(document);
    cart.say(coral(0), coral(20));
    const troubles = () => page.states().map(({ trouble }) => trouble);
    await soon(() => expect(troubles()).toContain("nothing has been heard from the robot for 2 s"));
    await soon(() => expect(page.states().at(-1)).toMatchObject({ acting: false }));
    expect(troubles().at(-1)).toMatch(/^nothing was heard from the robot for 5 s, so it was stopped/);
    page.leave();
  });

  it("leaves no line open where two were asked for at once", async () => {
    const page = await opened(LINK);
    const carts = [await robot(), await robot()];
    const answers = await Promise.all(carts.map(({ address }) => ask("PUT", `${LINK}/wire`, { address })));
    // The last of them has the line, whichever that is. The other was refused it, or had it until then.
    const statuses = answers.map(([status]) => status);
    expect(statuses.filter((status) => status !== 409)).toContain(204);
    expect(statuses.every((status) => status === 204 || status === 409)).toBe(true);
    await soon(() => expect(carts.filter((cart) => cart.isGone())).toHaveLength(1));
    page.leave();
    await soon(() => expect(carts.every((cart) => cart.isGone())).toBe(true));
  });
});

describe("what is large", { timeout: 60_000 }, () => {
  it("keeps no robot waiting: bodies of 10 MB, and pictures that would fill the memory", async () => {
    // This process takes long to make them: they are made before anything is timed.
    const body = Array.from({ length: 200_000 }, (_, i) => `{"s":"belly","t":${i},"v":[1,2,3]}`).join("\n");
    const bomb = bombOf(160, 120);
    const page = await opened(LINK);
    const cart = await robot();
    await ask("PUT", `${LINK}/wire`, { address: cart.address });
    const watch = splitProject(bedWatch(packFrame)).document;
    const other = await opened(OTHER, watch);
    await page.begin(document);
    await soon(() => expect(cart.told).toContainEqual({ alive: 1 }));
    /** When the robot heard answers to what it asked. */
    const answered: number[] = [];
    let asked = 0;
    const asking = setInterval(() => cart.say({ ask: ++asked }), 20);
    ends.push(() => clearInterval(asking));
    let seen = 0;
    const listening = setInterval(() => {
      const done = cart.told.filter((line) => "done" in line).length;
      if (done > seen) answered.push(performance.now());
      seen = done;
    }, 2);
    ends.push(() => clearInterval(listening));
    const begun = performance.now();
    const headers = { "Content-Type": "application/jsonl" };
    expect((await fetch(at(`${OTHER}/readings`), { method: "POST", headers, body })).status).toBe(200);
    for (let k = 0; k < 5; k++)
      await fetch(at(`${OTHER}/readings`), {
        method: "POST",
        headers: { "Content-Type": "image/png" },
        body: new Uint8Array(bomb),
      });
    const pauses = answered.slice(1).map((at, i) => at - answered[i]);
    expect(pauses.length).toBeGreaterThan(10);
    // A server that takes them in by itself answers nothing until one is done.
    expect(Math.max(...pauses)).toBeLessThan((performance.now() - begun) / 2);
    other.leave();
    page.leave();
  });

  it("is not unpacked, and said: a picture that holds more than its head says", async () => {
    const watch = bedWatch(packFrame);
    const page = await opened(LINK, splitProject(watch).document);
    await page.begin(splitProject(watch).document);
    const post = () =>
      fetch(at(`${LINK}/readings`), {
        method: "POST",
        headers: { "Content-Type": "image/png" },
        body: new Uint8Array(bombOf(160, 120)),
      });
    expect((await post()).status).toBe(204);
    const troubles = () => page.states().map(({ trouble }) => trouble);
    await soon(() =>
      expect(troubles()).toContain("a picture was not answered: the PNG holds more than the size in its head says"),
    );
    // A good one afterwards: what was wrong is no longer said.
    const [name] = watch.tapes[0].frames ?? [];
    await fetch(at(`${LINK}/readings`), {
      method: "POST",
      headers: { "Content-Type": "image/png" },
      body: new Uint8Array(Buffer.from(watch.frames?.[name] ?? "", "base64")),
    });
    await soon(() => expect(troubles().at(-1)).toBeNull());
    page.leave();
  });
});

/** A PNG whose head tells a small size, and whose data would unpack to 100 MB. */
function bombOf(width: number, height: number): Buffer {
  const png = Buffer.from(encodePng({ width, height, channels: 3, data: new Uint8Array(3 * width * height) }));
  const data = deflateSync(new Uint8Array(100 * 1024 * 1024));
  const head = Buffer.alloc(8);
  head.writeUInt32BE(data.length);
  head.write("IDAT", 4, "latin1");
  // Behind the signature of 8 bytes and the head of 25.
  return Buffer.concat([png.subarray(0, 33), head, data, Buffer.alloc(4), png.subarray(png.length - 12)]);
}

describe("pictures over a link that acts", { timeout: 30_000 }, () => {
  it("are answered by what the camera's rules find in them; one that cannot be looked at is said", async () => {
    const watch = bedWatch(packFrame);
    const bed = splitProject(watch).document;
    const page = await opened(LINK, bed);
    const commands = await events(`${LINK}/commands`);
    await page.begin(bed);
    const [tape] = watch.tapes;
    const post = (bytes: Buffer, type = "image/png") =>
      fetch(at(`${LINK}/readings`), { method: "POST", headers: { "Content-Type": type }, body: new Uint8Array(bytes) });
    const notes = () => page.moments().flatMap((moment) => moment.notes);
    let n = 0;
    await soon(async () => {
      const name = tape.frames?.[n++ % tape.frames.length] ?? "";
      expect((await post(Buffer.from(watch.frames?.[name] ?? "", "base64"))).status).toBe(204);
      expect(notes().some(({ kind }) => kind === "arrives")).toBe(true);
    });
    expect(commands.heard.length).toBeGreaterThan(0);
    await post(Buffer.from(encodePng({ width: 8, height: 6, channels: 3, data: new Uint8Array(144) })));
    await soon(() =>
      expect(page.states().map(({ trouble }) => trouble)).toContainEqual(
        expect.stringContaining("a picture was not answered: it has 8 × 6 px"),
      ),
    );
    await post(Buffer.from("RIFF0000WEBPVP8 "), "image/webp");
    await soon(() =>
      expect(page.states().map(({ trouble }) => trouble)).toContain(
        "a picture was not answered: only PNG and JPEG can be looked at here",
      ),
    );
    page.leave();
  });
});

describe("a page that does not keep up", () => {
  it("hears how many readings it was not told of; what acts goes on", async () => {
    const cart = await robot();
    const told: string[] = [];
    let behind = 0;
    const page = Object.assign(new EventEmitter(), {
      status: () => page,
      set: () => page,
      end: () => undefined,
      write: (text: string) => told.push(text),
    });
    Object.defineProperty(page, "writableLength", { get: () => behind });
    const hub = new LinkHub("no worker");
    ends.push(() => hub.end());
    hub.watch(LINK, hub.openFor(LINK, listensOf(document)), page as never);
    await hub.connect(LINK, readAddress(cart.address) as never);
    hub.start(LINK, "own", document);
    behind = 17 * 1024 * 1024;
    cart.say(...[0, 20, 40, 60].map(coral));
    await soon(() => expect(cart.told).toContainEqual({ lamp: "main", rgb: "#e4573d", blink: 2 }));
    // So much was kept back once the readings' own time had come.
    await soon(() => {
      behind = 0;
      cart.say(coral(80));
      expect(told.join("")).toContain('event: missed\ndata: {"count":4}');
    });
  });
});

describe("a server that is killed while it acts", { timeout: 60_000 }, () => {
  it("leaves a robot that stops by itself within 1.5 s", async () => {
    const own = await startServer();
    const cli = join(ROOT, "cli/dist/main.js");
    const args = [cli, "robot", join(folder, "demo.json"), "--course", "aisle", "--link", "tcp://:0"];
    const child: ChildProcess = spawn(process.execPath, args, { stdio: ["ignore", "ignore", "pipe"] });
    ends.push(() => child.kill("SIGKILL"));
    let said = "";
    child.stderr?.on("data", (text) => {
      said += String(text);
    });
    await soon(() => expect(said).toMatch(/listens at/));
    const [, address] = /listens at (\S+)/.exec(said) as RegExpExecArray;
    const page = await opened(LINK, document, own.url);
    expect(await ask("PUT", `${LINK}/wire`, { address }, own.url)).toEqual([204, ""]);
    expect(await page.begin(document)).toEqual([201, ""]);
    await soon(() => expect(JSON.stringify(page.moments())).toContain('"kind":"wheels"'));
    own.process.kill("SIGKILL");
    await soon(() => expect(said).toContain("nothing was heard for 1.5 s: the robot stopped"));
  });
});
