import type { Socket } from "node:net";
import mqtt from "mqtt";
import { CONNECT_MS, type Wire, type WireListener, wordsOf } from "./wire";

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
