import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { type AddressInfo, createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { readAddress } from "@perceptum/core/live";
import { afterAll, afterEach, describe, expect, it, vi } from "vitest";
import { freePort } from "../e2e/freePort";
import { listenAt, openPty, openRobotMqtt, openWire, type Wire, type WireListener } from ".";

const folder = mkdtempSync(join(tmpdir(), "perceptum-wires-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const ends: (() => void)[] = [];
afterEach(() => {
  for (const end of ends.splice(0)) end();
});

/** Hears and keeps it. */
function ear() {
  const heard = { text: "", paused: [] as (string | null)[], closed: [] as (string | undefined)[] };
  const hears: WireListener = {
    text: (part) => {
      heard.text += part;
    },
    paused: (why) => heard.paused.push(why),
    closed: (why) => heard.closed.push(why),
  };
  return { heard, hears };
}
const at = (text: string) => {
  const address = readAddress(text);
  if ("problem" in address || address.by === "stdio") throw new Error("no address");
  return address;
};
const kept = <T extends Wire>(wire: T): T => {
  ends.push(() => wire.end());
  return wire;
};
/** More than one packet holds, with letters of several bytes. */
const LONG = `${JSON.stringify({ show: "größe 😀 ".repeat(3000) })}\n`;

describe("an address", () => {
  it.each([
    ["-", { by: "stdio" }],
    ["tcp://cart.local:4190", { by: "tcp", host: "cart.local", port: 4190 }],
    ["tcp://[::1]:80", { by: "tcp", host: "::1", port: 80 }],
    ["serial:/dev/ttyUSB0", { by: "serial", path: "/dev/ttyUSB0", baud: 115_200 }],
    ["serial:COM3?baud=9600", { by: "serial", path: "COM3", baud: 9600 }],
    ["mqtt://broker/glasshouse/cart", { by: "mqtt", host: "broker", port: 1883, topic: "glasshouse/cart" }],
    ["mqtt://10.0.0.7:1900/cart", { by: "mqtt", host: "10.0.0.7", port: 1900, topic: "cart" }],
  ])("%s is read", (text, address) => expect(readAddress(text)).toEqual(address));

  it.each([
    "",
    "tcp://",
    "tcp://a:0",
    "tcp://a:70000",
    "tcp://a b:1",
    "serial:",
    "serial:/dev/x?baud=1",
    "mqtt://b",
    "mqtt://b/#",
    "http://a/b",
    "tcp://a:1/x",
  ])("“%s” is none, which is said", (text) =>
    expect(readAddress(text)).toEqual({ problem: expect.stringContaining("there is tcp://host:port") }),
  );
});

describe("over TCP", () => {
  it("lines go both ways, and who comes second is told so", async () => {
    const robot = ear();
    const wires: Wire[] = [];
    const { port, end } = await listenAt({ host: "127.0.0.1", port: 0 }, robot.hears, (wire) => wires.push(wire));
    ends.push(end);
    const one = ear();
    const wire = kept(await openWire(at(`tcp://127.0.0.1:${port}`), one.hears));
    wire.send(LONG);
    await vi.waitFor(() => expect(robot.heard.text).toBe(LONG));
    wires[0].send(LONG);
    await vi.waitFor(() => expect(one.heard.text).toBe(LONG));
    const two = ear();
    kept(await openWire(at(`tcp://127.0.0.1:${port}`), two.hears));
    await vi.waitFor(() => expect(two.heard.closed).toHaveLength(1));
    expect(two.heard.text).toContain("somebody drives this robot already");
    wire.end();
    await vi.waitFor(() => expect(robot.heard.closed).toHaveLength(1));
    // The next one may.
    const three = ear();
    kept(await openWire(at(`tcp://127.0.0.1:${port}`), three.hears)).send("again\n");
    await vi.waitFor(() => expect(robot.heard.text).toBe(`${LONG}again\n`));
  });

  it("a robot that is switched off in the middle of a line has closed it", async () => {
    const server = createServer((socket) => socket.once("data", () => socket.resetAndDestroy()));
    await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
    ends.push(() => server.close());
    const { heard, hears } = ear();
    const wire = await openWire(at(`tcp://127.0.0.1:${(server.address() as AddressInfo).port}`), hears);
    wire.send(LONG);
    await vi.waitFor(() => expect(heard.closed).toEqual(["the robot closed the line"]));
  });

  it("what cannot be opened is said in words", async () => {
    const port = await freePort();
    await expect(openWire(at(`tcp://127.0.0.1:${port}`), ear().hears)).rejects.toThrow("nothing listens there");
    const server = createServer();
    await new Promise<void>((done) => server.listen(port, "127.0.0.1", done));
    ends.push(() => server.close());
    await expect(listenAt({ host: "127.0.0.1", port }, ear().hears, () => undefined)).rejects.toThrow(
      "the port is taken",
    );
  });
});

const has = (program: string) => spawnSync("sh", ["-c", `command -v ${program}`]).status === 0;

describe.skipIf(!has("socat"))("over a serial line, a pseudo-terminal that socat makes", () => {
  it("lines go both ways, whole", async () => {
    const robot = ear();
    const pty = kept(await openPty(robot.hears));
    const { heard, hears } = ear();
    const wire = kept(await openWire(at(`serial:${pty.path}?baud=115200`), hears));
    wire.send(LONG);
    await vi.waitFor(() => expect(robot.heard.text).toBe(LONG), { timeout: 10_000 });
    pty.send(LONG);
    await vi.waitFor(() => expect(heard.text).toBe(LONG), { timeout: 10_000 });
    pty.end();
    await vi.waitFor(() => expect(heard.closed).toHaveLength(1), { timeout: 10_000 });
  });

  it("a port that is not there, or is taken, is said in words", async () => {
    await expect(openWire(at("serial:/dev/nowhere"), ear().hears)).rejects.toThrow("it is not there");
    const pty = kept(await openPty(ear().hears));
    kept(await openWire(at(`serial:${pty.path}`), ear().hears));
    await expect(openWire(at(`serial:${pty.path}`), ear().hears)).rejects.toThrow("it is taken");
  });
});

/** A broker of its own. */
async function broker(port: number): Promise<ChildProcess> {
  const config = join(folder, `mosquitto-${port}.conf`);
  writeFileSync(config, `listener ${port} 127.0.0.1\nallow_anonymous true\npersistence false\n`);
  const child = spawn("mosquitto", ["-c", config], { stdio: ["ignore", "ignore", "pipe"] });
  ends.push(() => child.kill());
  await new Promise<void>((done, fail) => {
    child.on("exit", (code) => fail(new Error(`the broker ended with ${code}`)));
    child.stderr.on("data", (text) => String(text).includes("running") && done());
  });
  return child;
}

describe.skipIf(!has("mosquitto"))("over MQTT, with mosquitto", () => {
  /** A broker, and over it a robot and who drives it. */
  const linked = async () => {
    const port = await freePort();
    const first = await broker(port);
    const address = at(`mqtt://127.0.0.1:${port}/glasshouse/cart`) as Extract<ReturnType<typeof at>, { by: "mqtt" }>;
    const robot = ear();
    const robotWire = kept(await openRobotMqtt(address, robot.hears));
    const { heard, hears } = ear();
    return { port, first, robot, robotWire, heard, wire: kept(await openWire(address, hears)) };
  };

  it("readings go one way and commands the other, and a broker that went away is waited for", {
    timeout: 30_000,
  }, async () => {
    const { port, first, robot, robotWire, heard, wire } = await linked();
    robotWire.send(LONG);
    await vi.waitFor(() => expect(heard.text).toBe(LONG));
    wire.send(LONG);
    await vi.waitFor(() => expect(robot.heard.text).toBe(LONG));
    const gone = new Promise((done) => first.on("exit", done));
    first.kill();
    await gone;
    await vi.waitFor(() => expect(heard.paused).toContain("the broker went away"));
    // What is commanded meanwhile is not done late.
    wire.send('{"wheels":[1,1]}\n');
    await broker(port);
    await vi.waitFor(() => expect([heard.paused.at(-1), robot.heard.paused.at(-1)]).toEqual([null, null]), {
      timeout: 10_000,
    });
    wire.send('{"stop":"brake"}\n');
    await vi.waitFor(() => expect(robot.heard.text).toBe(`${LONG}{"stop":"brake"}\n`));
  });

  it("what a broker had not taken when it went away is not done after it came back; one that hangs is said", {
    timeout: 30_000,
  }, async () => {
    const { port, first, robot, heard, wire } = await linked();
    first.kill("SIGSTOP");
    wire.send('{"wheels":[1,1]}\n');
    await vi.waitFor(() => expect(heard.paused).toEqual(["the broker does not answer"]), { timeout: 5000 });
    const gone = new Promise((done) => first.on("exit", done));
    first.kill("SIGKILL");
    await gone;
    await vi.waitFor(() => expect(heard.paused.at(-1)).toBe("the broker went away"), { timeout: 5000 });
    await broker(port);
    await vi.waitFor(() => expect([heard.paused.at(-1), robot.heard.paused.at(-1)]).toEqual([null, null]), {
      timeout: 10_000,
    });
    wire.send('{"stop":"brake"}\n');
    await vi.waitFor(() => expect(robot.heard.text).toContain("stop"), { timeout: 5000 });
    expect(robot.heard.text).toBe('{"stop":"brake"}\n');
  });

  it("what listens but does not answer as a broker is given up", { timeout: 20_000 }, async () => {
    const silent = createServer();
    const port = await freePort();
    await new Promise<void>((done) => silent.listen(port, "127.0.0.1", done));
    ends.push(() => silent.close());
    await expect(openWire(at(`mqtt://127.0.0.1:${port}/cart`), ear().hears)).rejects.toThrow(
      "the host does not answer",
    );
  });

  it("a broker that is not there is said in words", async () => {
    await expect(openWire(at(`mqtt://127.0.0.1:${await freePort()}/cart`), ear().hears)).rejects.toThrow(
      "nothing listens there",
    );
  });
});
