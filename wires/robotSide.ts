import { spawn } from "node:child_process";
import { createServer } from "node:net";
import { overSocket } from "./tcp";
import { type Wire, type WireListener, wordsOf } from "./wire";

/** Listens for who wants to drive a robot over TCP; a second one while there is a first is told so and let go. */
export function listenAt(
  { host, port }: { host: string; port: number },
  hears: WireListener,
  take: (wire: Wire) => void,
): Promise<{ port: number; end: () => void }> {
  return new Promise((done, fail) => {
    let taken = false;
    let current: Wire | null = null;
    const server = createServer((socket) => {
      if (taken) {
        socket.end('{"error":"somebody drives this robot already","line":0}\n');
        return;
      }
      taken = true;
      current = overSocket(socket, {
        ...hears,
        closed: (why) => {
          taken = false;
          current = null;
          hears.closed(why);
        },
      });
      take(current);
    });
    server.once("error", (error) => fail(new Error(wordsOf(error))));
    server.listen(port, host, () => {
      const address = server.address();
      done({
        port: typeof address === "object" && address !== null ? address.port : port,
        end: () => {
          current?.end();
          server.close();
        },
      });
    });
  });
}

/** The robot's end of a line over a broker. @throws Error in words */
export const openRobotMqtt = async (
  address: { host: string; port: number; topic: string },
  hears: WireListener,
): Promise<Wire> => (await import("./broker")).openMqtt(address, "commands", "readings", hears);

/** A pseudo-terminal as a robot's serial line: the path that others open, and the robot's own end. @throws Error in words */
export function openPty(hears: WireListener): Promise<Wire & { path: string }> {
  return new Promise((done, fail) => {
    const socat = spawn("socat", ["-d", "-d", "PTY,raw,echo=0", "STDIO"], { stdio: ["pipe", "pipe", "pipe"] });
    socat.once("error", () =>
      fail(new Error("a pseudo-terminal needs socat, which is not there (on Debian: apt-get install socat)")),
    );
    socat.stdout.setEncoding("utf8");
    socat.stdout.on("data", (text) => hears.text(String(text)));
    socat.stdin.on("error", () => undefined);
    socat.once("close", () => hears.closed());
    let said = "";
    socat.stderr.on("data", (text) => {
      said += String(text);
      const path = /PTY is (\S+)/.exec(said)?.[1];
      if (path === undefined) return;
      socat.stderr.removeAllListeners("data").resume();
      done({ path, send: (out) => void socat.stdin.write(out), end: () => void socat.kill() });
    });
  });
}
