import { spawn, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { createServer, type Socket } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { glasshouseRound } from "@perceptum/core/demo";
import type { ReadingsEvent } from "@perceptum/core/live";
import type { ModeId, ResponseId } from "@perceptum/core/names";
import { writeProject } from "@perceptum/core/project";
import mqtt from "mqtt";
import { freePort } from "../e2e/freePort";
import { openLink } from "../e2e/openLink";
import { startServer } from "../e2e/server";
import { quantile, type Row } from "./table";

const project = glasshouseRound();
const BATCHES = 120;
const AT_ONCE = 1000;
const ASKED = 1000;

/** Readings by POST, counted at both ends; and how soon a reading over TCP has its command. */
export async function benchLinks(): Promise<Row[]> {
  return [...(await overHttp()), ...(await overMqtt()), ...(await overTcp())];
}

/** Counts the readings that a page hears of; `all` is there once it has heard of so many. */
function hearing(events: Response, wanted: number): { heard: () => number; all: Promise<void> } {
  let heard = 0;
  const all = new Promise<void>((done) => {
    const listen = async () => {
      const decoder = new TextDecoder();
      let text = "";
      for await (const part of events.body as unknown as AsyncIterable<Uint8Array>) {
        text += decoder.decode(part, { stream: true });
        const ends = text.split("\n\n");
        text = ends.pop() ?? "";
        for (const event of ends)
          if (event.startsWith("event: readings"))
            heard += (JSON.parse(event.slice(event.indexOf("data: ") + 6)) as ReadingsEvent).v.length;
        if (heard >= wanted) return done();
      }
    };
    listen().catch(() => done());
  });
  return { heard: () => heard, all };
}

async function overHttp(): Promise<Row[]> {
  const server = await startServer();
  try {
    const at = `${server.url}/api/links/link-0123456789ab`;
    const leaving = new AbortController();
    const events = await openLink({ url: server.url, link: "link-0123456789ab", signal: leaving.signal }, project);
    const { heard, all } = hearing(events, BATCHES * AT_ONCE);
    const body = (batch: number) =>
      Array.from(
        { length: AT_ONCE },
        (_, i) => `{"s":"belly","t":${batch * AT_ONCE + i},"v":[${i},${(i * 7) % 1024},${(i * 3) % 1024}]}`,
      ).join("\n");
    const bodies = Array.from({ length: BATCHES }, (_, batch) => body(batch));
    const start = performance.now();
    let taken = 0;
    for (const text of bodies) {
      const headers = { "Content-Type": "application/jsonl" };
      const answer = await fetch(`${at}/readings`, { method: "POST", headers, body: text });
      taken += ((await answer.json()) as { readings: number }).readings;
    }
    await all;
    const rate = (1000 * heard()) / (performance.now() - start);
    leaving.abort();
    const lost = BATCHES * AT_ONCE - heard();
    return [
      {
        what: `readings over HTTP, ${AT_ONCE} lines a request, until the page has heard of them`,
        measured: `${Math.round(rate).toLocaleString("en")} readings/s; ${taken.toLocaleString("en")} taken, ${lost} lost`,
        budget: "≥ 20,000 readings/s, none lost",
        met: rate >= 20_000 && lost === 0,
      },
    ];
  } finally {
    await server.stop();
  }
}

const MESSAGES = 60_000;

/** Readings over a broker, a message each, counted by who sends them and by the page that hears of them. */
async function overMqtt(): Promise<Row[]> {
  const what = "readings over MQTT, a message each, until the page has heard of them";
  if (spawnSync("sh", ["-c", "command -v mosquitto"]).status !== 0)
    return [{ what, measured: "mosquitto is not there", budget: "" }];
  const folder = mkdtempSync(join(tmpdir(), "perceptum-bench-"));
  const port = await freePort();
  writeFileSync(
    join(folder, "broker.conf"),
    `listener ${port} 127.0.0.1\nallow_anonymous true\nmax_queued_messages 0\n`,
  );
  const broker = spawn("mosquitto", ["-c", join(folder, "broker.conf")], { stdio: ["ignore", "ignore", "pipe"] });
  const server = await startServer();
  try {
    await new Promise<void>((done) => broker.stderr.on("data", (text) => String(text).includes("running") && done()));
    const at = `${server.url}/api/links/link-0123456789ab`;
    const leaving = new AbortController();
    const events = await openLink({ url: server.url, link: "link-0123456789ab", signal: leaving.signal }, project);
    const opened = await fetch(`${at}/wire`, {
      method: "PUT",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ address: `mqtt://127.0.0.1:${port}/cart` }),
    });
    if (!opened.ok) throw new Error(await opened.text());
    const { heard, all } = hearing(events, MESSAGES);
    const client = mqtt.connect(`mqtt://127.0.0.1:${port}`);
    await new Promise<void>((done) => client.on("connect", () => done()));
    const start = performance.now();
    for (let i = 0; i < MESSAGES; i++) {
      const line = `{"s":"belly","t":${i},"v":[${i % 1024},${(i * 7) % 1024},${(i * 3) % 1024}]}`;
      const sent = new Promise<void>((done) => client.publish("cart/readings", line, { qos: 0 }, () => done()));
      // A sender does not run away from its own socket.
      if (i % 200 === 0) await sent;
    }
    await Promise.race([all, new Promise((done) => setTimeout(done, 30_000))]);
    const rate = (1000 * heard()) / (performance.now() - start);
    client.end(true);
    leaving.abort();
    return [
      {
        what,
        measured: `${Math.round(rate).toLocaleString("en")} readings/s; ${MESSAGES.toLocaleString("en")} sent, ${MESSAGES - heard()} lost`,
        budget: "≥ 5,000 readings/s, none lost",
        met: rate >= 5000 && heard() === MESSAGES,
      },
    ];
  } finally {
    broker.kill();
    await server.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The demo, but a coral tag is seen at once and shows a word. */
function quick(): ReturnType<typeof glasshouseRound> {
  const project = glasshouseRound();
  for (const set of project.ruleSets) set.steady = { hits: 1, of: 1, release: 1, rejoinMs: 0 };
  // What is to hold on its courses names what is no longer there.
  for (const course of project.courses) course.checks = [];
  const when = { arrives: [project.targets[0].id] };
  project.behaviour = {
    start: "watch" as ModeId,
    counters: [],
    lists: [],
    routines: [],
    modes: [
      {
        id: "watch" as ModeId,
        name: "Watch",
        entering: [],
        responses: [
          {
            id: "coral" as ResponseId,
            when,
            steps: [{ id: "step-1" as never, step: "show", what: { text: "coral" } }],
            fires: "once per visit",
            busy: "take over",
            on: true,
          },
        ],
      },
    ],
  };
  return project;
}

async function overTcp(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), "perceptum-bench-"));
  const file = join(folder, "quick.perceptum.json");
  writeFileSync(file, writeProject(quick()));
  const server = createServer();
  const called = new Promise<Socket>((done) => server.once("connection", done));
  await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
  const { port } = server.address() as { port: number };
  const live = spawn(process.execPath, ["cli/dist/main.js", "live", file, "--link", `tcp://127.0.0.1:${port}`]);
  const ended = new Promise<never>((_, fail) => {
    live.once("exit", (code) => fail(new Error(`perceptum live ended with ${code}`)));
  });
  ended.catch(() => undefined);
  try {
    const line = await Promise.race([called, ended]);
    line.setNoDelay(true);
    line.setEncoding("utf8");
    let told: () => void = () => undefined;
    line.on("data", (text) => {
      if (String(text).includes('"show"')) told();
    });
    const waits: number[] = [];
    for (let k = 0; k < ASKED; k++) {
      const shown = new Promise<void>((done) => {
        told = done;
      });
      line.write(`{"s":"belly","t":${40 * k},"v":[40,40,40]}\n`);
      await new Promise((go) => setTimeout(go, 3));
      const start = performance.now();
      line.write(`{"s":"belly","t":${40 * k + 20},"v":[660,130,90]}\n`);
      await Promise.race([shown, ended]);
      waits.push(performance.now() - start);
    }
    waits.sort((a, b) => a - b);
    const late = quantile(waits, 0.99);
    return [
      {
        what: `from a reading over TCP to its command back: 99 % of ${ASKED}`,
        measured: `${late.toFixed(1)} ms (half of them ${quantile(waits, 0.5).toFixed(1)} ms)`,
        budget: "≤ 5 ms",
        met: late <= 5,
      },
    ];
  } finally {
    live.kill();
    server.close();
    rmSync(folder, { recursive: true, force: true });
  }
}
