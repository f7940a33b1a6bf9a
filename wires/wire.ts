import { connect, type Socket } from "node:net";
import type { Address } from "@perceptum/core/live";
import mqtt from "mqtt";
import { SerialPort } from "serialport";

/** Who hears what comes over a wire. */
export interface WireListener {
  text(part: string): void;
  /** The other end went away and may come back; null: it is there again. */
  paused?(why: string | null): void;
  /** It is over; with what went wrong, where something did. */
  closed(why?: string): void;
}

/** An open line of text. */
export interface Wire {
  send(text: string): void;
  /** Closes it once all that was sent is gone. */
  end(): void;
}

/** So long an answer is waited for when a line is opened, in ms. */
const CONNECT_MS = 5000;

const WORDS: Readonly<Record<string, string>> = {
  ECONNREFUSED: "nothing listens there",
  ENOTFOUND: "there is no such host",
  EHOSTUNREACH: "the host cannot be reached",
  ETIMEDOUT: "the host does not answer",
  EADDRINUSE: "the port is taken",
  EACCES: "this program may not use it",
  ENOENT: "it is not there",
  EBUSY: "it is taken",
};

/** What went wrong, in words. */
export function wordsOf(error: unknown): string {
  const { code, message } = error as NodeJS.ErrnoException;
  if (code !== undefined && code in WORDS) return WORDS[code];
  const known = Object.keys(WORDS).find((word) => message.includes(word));
  if (known !== undefined) return WORDS[known];
  if (/timeout/i.test(message)) return WORDS.ETIMEDOUT;
  if (/no such file/i.test(message)) return WORDS.ENOENT;
  if (/cannot lock|resource busy|temporarily unavailable/i.test(message)) return WORDS.EBUSY;
  if (/permission denied|access denied/i.test(message)) return WORDS.EACCES;
  if (/input\/output error|bad file descriptor|port is not open|disconnected|no such device/i.test(message))
    return "it was unplugged";
  return message;
}

/** Opens the line to a robot. @throws Error in words, where it cannot be opened */
export function openWire(address: Exclude<Address, { by: "stdio" }>, hears: WireListener): Promise<Wire> {
  if (address.by === "tcp") return openTcp(address, hears);
  return address.by === "serial" ? openSerial(address, hears) : openMqtt(address, "readings", "commands", hears);
}

/** A socket as a wire. */
export function overSocket(socket: Socket, hears: WireListener): Wire {
  socket.setNoDelay(true);
  socket.setEncoding("utf8");
  let wrong: string | undefined;
  socket.on("data", (text) => hears.text(String(text)));
  socket.on("error", (error) => {
    wrong = wordsOf(error);
  });
  socket.on("close", () => hears.closed(wrong));
  return {
    send: (text) => void (socket.writable && socket.write(text)),
    end: () => void socket.end(),
  };
}

function openTcp({ host, port }: { host: string; port: number }, hears: WireListener): Promise<Wire> {
  return new Promise((done, fail) => {
    const socket = connect({ host, port });
    const refused = (error: Error) => fail(new Error(wordsOf(error)));
    socket.once("error", refused);
    socket.setTimeout(CONNECT_MS, () => socket.destroy(new Error(WORDS.ETIMEDOUT)));
    socket.once("connect", () => {
      socket.off("error", refused);
      socket.setTimeout(0);
      done(overSocket(socket, hears));
    });
  });
}

function openSerial({ path, baud }: { path: string; baud: number }, hears: WireListener): Promise<Wire> {
  return new Promise((done, fail) => {
    const port = new SerialPort({ path, baudRate: baud, autoOpen: false });
    const decoder = new TextDecoder();
    port.open((error) => {
      if (error) return fail(new Error(wordsOf(error)));
      let wrong: string | undefined;
      port.on("data", (bytes: Buffer) => hears.text(decoder.decode(bytes, { stream: true })));
      port.on("error", (trouble) => {
        wrong = wordsOf(trouble);
      });
      port.on("close", (trouble: Error | null) => hears.closed(wrong ?? (trouble ? "it was unplugged" : undefined)));
      done({
        send: (text) => void (port.isOpen && port.write(text)),
        end: () => void port.drain(() => port.isOpen && port.close()),
      });
    });
  });
}

/** So long a broker that went away is waited for between two tries, in ms. */
const AGAIN_MS = 1000;

/** A broker that has not taken a command after so long is away, in ms. */
const ACK_MS = 1000;

/** Forgets commands on their way to a broker that went away: a command counts now, not when the broker is back. */
class Forgetful extends mqtt.Store {
  private readonly onTheWay = new Set<number>();

  override put(...[packet, done]: Parameters<mqtt.Store["put"]>): this {
    if (packet.messageId !== undefined) this.onTheWay.add(packet.messageId);
    return super.put(packet, done);
  }

  override createStream(): ReturnType<mqtt.Store["createStream"]> {
    for (const messageId of this.onTheWay) this.del({ messageId } as Parameters<mqtt.Store["del"]>[0], () => undefined);
    this.onTheWay.clear();
    return super.createStream();
  }
}

/** A line over a broker: what comes stands under one topic, what goes under another. Readings go once, commands at least once. */
export function openMqtt(
  { host, port, topic }: { host: string; port: number; topic: string },
  incoming: "readings" | "commands",
  outgoing: "readings" | "commands",
  hears: WireListener,
): Promise<Wire> {
  return new Promise((done, fail) => {
    const client = mqtt.connect({
      host,
      port,
      protocol: "mqtt",
      reconnectPeriod: AGAIN_MS,
      connectTimeout: CONNECT_MS,
      // What could not be sent is not sent late: a command counts now.
      queueQoSZero: false,
      outgoingStore: new Forgetful(),
    });
    /** The times of commands that the broker has not taken yet. */
    const open = new Map<number, number>();
    let sent = 0;
    let hangs = false;
    const look = () => {
      const [first] = open.values();
      const late = client.connected && first !== undefined && performance.now() - first > ACK_MS;
      if (late === hangs) return;
      hangs = late;
      if (client.connected) hears.paused?.(hangs ? "the broker does not answer" : null);
    };
    const decoder = new TextDecoder();
    let isOpen = false;
    let ended = false;
    client.on("connect", () => {
      // A command counts now: it does not wait for others.
      (client.stream as unknown as Partial<Socket>).setNoDelay?.(true);
      client.subscribe(`${topic}/${incoming}`, { qos: incoming === "commands" ? 1 : 0 }, (error) => {
        if (error) return fail(new Error(wordsOf(error)));
        if (isOpen) return hears.paused?.(null);
        isOpen = true;
        const looking = setInterval(look, ACK_MS / 10);
        done({
          send: (text) => {
            if (!client.connected) return;
            const qos = outgoing === "commands" ? 1 : 0;
            const n = ++sent;
            if (qos === 1) open.set(n, performance.now());
            client.publish(`${topic}/${outgoing}`, text, { qos }, () => open.delete(n));
          },
          end: () => {
            ended = true;
            clearInterval(looking);
            client.end(false, {}, () => hears.closed());
          },
        });
      });
    });
    client.on("message", (_, payload) => {
      const text = decoder.decode(payload);
      hears.text(text.endsWith("\n") ? text : `${text}\n`);
    });
    client.on("error", (error) => {
      if (isOpen) return;
      client.end(true);
      fail(new Error(wordsOf(error)));
    });
    client.on("close", () => {
      open.clear();
      hangs = false;
      if (isOpen && !ended) hears.paused?.("the broker went away");
    });
  });
}
