import { type ChildProcess, spawn } from "node:child_process";
import { EventEmitter } from "node:events";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { createServer, type Socket } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { bedWatch, glasshouseRound } from "@perceptum/core/demo";
import { type LinkState, type LiveMoment, readAddress } from "@perceptum/core/live";
import { encodePng } from "@perceptum/core/png";
import { splitProject, writeProject } from "@perceptum/core/project";
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from "vitest";
import { packFrame } from "../../demo/packFrame";
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
const ask = async (method: string, path: string, body?: object): Promise<[number, string]> => {
  const response = await fetch(at(path), {
    method,
    headers: { "Content-Type": "application/json" },
    ...(body && { body: JSON.stringify(body) }),
  });
  return [response.status, response.status === 204 ? "" : ((await response.json()) as { detail: string }).detail];
};

/** Server-sent events as they come. */
async function events(path: string) {
  const leaving = new AbortController();
  const response = await fetch(at(path), { signal: leaving.signal });
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
  const listener = createServer((own) => {
    socket = own;
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
    say: (...lines: object[]) => socket?.write(lines.map((line) => `${JSON.stringify(line)}\n`).join("")),
  };
}
const coral = (t: number) => ({ s: "belly", t, v: [700, 150, 100] });

describe("a link that acts", { timeout: 30_000 }, () => {
  it("reads over its line, commands once it is let, and stops when it is stopped or its page leaves", async () => {
    expect(await ask("PUT", `${LINK}/act`, document)).toEqual([409, expect.stringContaining("not open")]);
    const page = await events(`${LINK}/events`);
    const cart = await robot();
    expect(await ask("PUT", `${LINK}/wire`, { address: cart.address })).toEqual([204, ""]);
    cart.say({ hello: "perceptum", version: 1 }, coral(0), coral(20));
    await vi.waitFor(() => expect(page.heard.some(({ event }) => event === "readings")).toBe(true));
    expect(cart.told).toEqual([]);
    expect(await ask("PUT", `${LINK}/act`, document)).toEqual([204, ""]);
    await vi.waitFor(() => expect(cart.told).toContainEqual({ alive: 1 }));
    cart.say(...[100, 120, 140, 160, 180].map(coral));
    await vi.waitFor(() => expect(cart.told).toContainEqual({ lamp: "main", rgb: "#e4573d", blink: 2 }));
    expect(page.moments().flatMap(({ notes }) => notes)).toContainEqual(
      expect.objectContaining({ kind: "fires", response: "water" }),
    );
    expect(page.states().at(-1)).toMatchObject({ acting: true, trouble: null });

    // A line that is opened anew: what acted over the old one stops first.
    const stops = cart.told.filter(({ stop }) => stop === "brake").length;
    expect(await ask("PUT", `${LINK}/wire`, { address: cart.address })).toEqual([204, ""]);
    await vi.waitFor(() => expect(cart.told.filter(({ stop }) => stop === "brake").length).toBeGreaterThan(stops));
    await vi.waitFor(() => expect(page.states().at(-1)).toMatchObject({ acting: false }));
    expect(await ask("PUT", `${LINK}/act`, document)).toEqual([204, ""]);
    await vi.waitFor(() => expect(page.states().at(-1)).toMatchObject({ acting: true, trouble: null }));

    // Another may not act meanwhile.
    await events(`${OTHER}/events`);
    expect(await ask("PUT", `${OTHER}/act`, document)).toEqual([409, expect.stringContaining("another link acts")]);

    expect(await ask("DELETE", `${LINK}/act`)).toEqual([204, ""]);
    await vi.waitFor(() => expect(cart.told.at(-1)).toEqual({ stop: "brake" }));
    await vi.waitFor(() => expect(page.states().at(-1)).toMatchObject({ acting: false }));
    const { length } = cart.told;
    cart.say(coral(600), coral(620), coral(640));
    // Acting again begins anew, and ends with the page.
    expect(await ask("PUT", `${LINK}/act`, document)).toEqual([204, ""]);
    await vi.waitFor(() => expect(cart.told.length).toBeGreaterThan(length));
    page.leave();
    await vi.waitFor(() => expect(cart.isGone()).toBe(true));
    expect(cart.told.at(-1)).toEqual({ stop: "brake" });
    expect(await ask("PUT", `${OTHER}/act`, document)).toEqual([204, ""]);
    await ask("DELETE", `${OTHER}/act`);
  });

  it("goes by changed rules from the next reading on, and begins anew with another behaviour", async () => {
    const page = await events(`${LINK}/events`);
    const cart = await robot();
    await ask("PUT", `${LINK}/wire`, { address: cart.address });
    await ask("PUT", `${LINK}/act`, document);
    cart.say(...[0, 20].map(coral));
    await vi.waitFor(() => expect(cart.told).toContainEqual({ wheels: [0.35, 0.35] }));
    const blind = structuredClone(document);
    for (const ruleSet of blind.ruleSets) ruleSet.rules = [];
    await ask("PUT", `${LINK}/act`, blind);
    cart.say(...[40, 60, 80, 100, 120].map(coral));
    await ask("PUT", `${LINK}/act`, document);
    cart.say(...[140, 160, 180, 200].map(coral));
    await vi.waitFor(() => expect(cart.told.some((line) => "lamp" in line)).toBe(true));
    const arrived = page.moments().flatMap(({ notes }) => notes.filter(({ kind }) => kind === "arrives"));
    expect(arrived.map(({ t }) => t)).toEqual([180]);
    const calm = structuredClone(document);
    calm.behaviour.modes[0].entering = [];
    const before = cart.told.length;
    await ask("PUT", `${LINK}/act`, calm);
    await vi.waitFor(() => expect(cart.told.slice(before)).toContainEqual({ stop: "brake" }));
    page.leave();
  });

  it("says what is wrong: a line that cannot be opened, or is lost while it acts", async () => {
    const page = await events(`${LINK}/events`);
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
    expect(await ask("PUT", `${LINK}/act`, { not: "a project" })).toEqual([422, expect.any(String)]);
    await ask("PUT", `${LINK}/act`, document);
    cart.say(coral(0));
    await vi.waitFor(() => expect(cart.told.length).toBeGreaterThan(0));
    cart.lose();
    await vi.waitFor(() =>
      expect(page.states().at(-1)).toMatchObject({ acting: false, over: true, trouble: "the robot closed the line" }),
    );
    page.leave();
  });

  it("commands a robot that sends by POST over server-sent events", async () => {
    const page = await events(`${LINK}/events`);
    const commands = await events(`${LINK}/commands`);
    await ask("PUT", `${LINK}/act`, document);
    const lines = [0, 20, 40, 60].map((t) => JSON.stringify(coral(t))).join("\n");
    const taken = await fetch(at(`${LINK}/readings`), {
      method: "POST",
      headers: { "Content-Type": "application/jsonl" },
      body: lines,
    });
    expect(await taken.json()).toMatchObject({ readings: 4 });
    const told = () => commands.heard.map(({ data }) => data);
    await vi.waitFor(() => expect(told()).toContainEqual({ lamp: "main", rgb: "#e4573d", blink: 2 }));
    page.leave();
    await vi.waitFor(() => expect(told().at(-1)).toEqual({ stop: "brake" }));
  });
});

describe("pictures over a link that acts", { timeout: 30_000 }, () => {
  it("are answered by what the camera's rules find in them; one that cannot be looked at is said", async () => {
    const watch = bedWatch(packFrame);
    const bed = splitProject(watch).document;
    const page = await events(`${LINK}/events`);
    const commands = await events(`${LINK}/commands`);
    await ask("PUT", `${LINK}/act`, bed);
    const [tape] = watch.tapes;
    const post = (bytes: Buffer, type = "image/png") =>
      fetch(at(`${LINK}/readings`), { method: "POST", headers: { "Content-Type": type }, body: new Uint8Array(bytes) });
    for (const name of [...(tape.frames ?? []), ...(tape.frames ?? [])])
      expect((await post(Buffer.from(watch.frames?.[name] ?? "", "base64"))).status).toBe(204);
    const notes = () => page.moments().flatMap((moment) => moment.notes);
    await vi.waitFor(() => expect(notes().some(({ kind }) => kind === "arrives")).toBe(true));
    expect(commands.heard.length).toBeGreaterThan(0);
    await post(Buffer.from(encodePng({ width: 8, height: 6, channels: 3, data: new Uint8Array(144) })));
    await vi.waitFor(() =>
      expect(page.states().map(({ trouble }) => trouble)).toContainEqual(
        expect.stringContaining("a picture was not answered: it has 8 × 6 px"),
      ),
    );
    await post(Buffer.from("RIFF0000WEBPVP8 "), "image/webp");
    await vi.waitFor(() =>
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
    const hub = new LinkHub();
    ends.push(() => hub.end());
    hub.watch(LINK, page as never);
    await hub.connect(LINK, readAddress(cart.address) as never);
    hub.act(LINK, document);
    behind = 17 * 1024 * 1024;
    cart.say(...[0, 20, 40, 60].map(coral));
    await vi.waitFor(() => expect(cart.told).toContainEqual({ lamp: "main", rgb: "#e4573d", blink: 2 }));
    // So much was kept back once the readings' own time had come.
    await vi.waitFor(() => {
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
    await vi.waitFor(() => expect(said).toMatch(/listens at/), { timeout: 20_000 });
    const [, address] = /listens at (\S+)/.exec(said) as RegExpExecArray;
    const own_ = (path: string) => `${own.url}/api/links/${LINK}/${path}`;
    const put = (path: string, body: object) =>
      fetch(own_(path), { method: "PUT", headers: { "Content-Type": "application/json" }, body: JSON.stringify(body) });
    const watching = await fetch(own_("events"));
    expect((await put("wire", { address })).status).toBe(204);
    expect((await put("act", document)).status).toBe(204);
    const decoder = new TextDecoder();
    let heard = "";
    for await (const part of watching.body as unknown as AsyncIterable<Uint8Array>) {
      heard += decoder.decode(part, { stream: true });
      if (heard.includes('"kind":"wheels"')) break;
    }
    own.process.kill("SIGKILL");
    await vi.waitFor(() => expect(said).toContain("nothing was heard for 1.5 s: the robot stopped"), {
      timeout: 10_000,
    });
  });
});
