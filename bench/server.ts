import { readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { numbered, type TapeId } from "@perceptum/core/names";
import { emptyProject, joinReadings, type ProjectDocument, writeProject } from "@perceptum/core/project";
import { encodeReadings, type RawReadings } from "@perceptum/core/readings";
import { tryFaults } from "../e2e/faults";
import { freshFolder, type RunningServer, startServer } from "../e2e/server";
import type { Row } from "./table";

const CLIENTS = 30;
const SAVE_EVERY_MS = 2000;
const LASTING_MS = 60_000;
const DOCUMENT_BYTES = 100_000;
const READINGS = 20_000;
const MB = 2 ** 20;

const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** One student's project at the server: saved over and over, its tape loaded now and then. */
class Client {
  private constructor(
    private readonly url: string,
    private readonly document: ProjectDocument,
    private revision: number,
    readonly times: number[] = [],
    readonly loads: number[] = [],
    public errors = 0,
  ) {}

  static async begin(server: RunningServer, i: number, tape: Uint8Array<ArrayBuffer>): Promise<Client> {
    const base = emptyProject(`Student ${i}`);
    const head = { id: "long" as TapeId, name: "Long", sensor: base.sensors[0].id, origin: "bench" as const };
    const mark = { id: "mark-10000", from: 0, to: 1, target: base.targets[0].id };
    const count = Math.ceil(DOCUMENT_BYTES / JSON.stringify(mark).length);
    const document = {
      ...base,
      tapes: [
        {
          ...head,
          marks: numbered(
            "mark",
            Array.from({ length: count }, () => mark),
          ),
        },
      ],
    };
    const added = await fetch(`${server.url}/api/projects`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(joinReadings(base, new Map())),
    });
    const url = `${server.url}/api/projects/${((await added.json()) as { id: string }).id}`;
    await fetch(`${url}/tapes/long/readings`, {
      method: "PUT",
      headers: { "Content-Type": "application/octet-stream" },
      body: tape,
    });
    return new Client(url, document, 1);
  }

  async save(): Promise<void> {
    const body = JSON.stringify({ ...this.document, name: `${this.document.name}, ${this.revision}` });
    const start = performance.now();
    const answer = await fetch(this.url, {
      method: "PUT",
      headers: { "Content-Type": "application/json", "If-Match": `"${this.revision}"` },
      body,
    }).catch(() => undefined);
    if (answer?.ok) {
      await answer.arrayBuffer();
      this.times.push(performance.now() - start);
      this.revision++;
    } else this.errors++;
  }

  async load(): Promise<void> {
    const start = performance.now();
    const answer = await fetch(`${this.url}/tapes/long/readings`).catch(() => undefined);
    const bytes = answer?.ok ? (await answer.arrayBuffer()).byteLength : 0;
    if (bytes < READINGS * 32) this.errors++;
    this.loads.push(performance.now() - start);
  }

  /** Saves every so often until the end; every fourth time the tape is loaded, too. */
  async work(until: number, first: number): Promise<void> {
    await wait(first);
    for (let round = 0; performance.now() < until; round++) {
      const next = performance.now() + SAVE_EVERY_MS;
      await this.save();
      if (round % 4 === 0) await this.load();
      await wait(Math.max(0, next - performance.now()));
    }
  }

  async lost(): Promise<boolean> {
    const { name } = (await (await fetch(this.url)).json()) as { name: string };
    return name !== `${this.document.name}, ${this.revision - 1}`;
  }
}

function someReadings(count: number): RawReadings {
  const column = (k: number) => Float64Array.from({ length: count }, (_, i) => (i * k) % 1024);
  return {
    t: Float64Array.from({ length: count }, (_, i) => i * 20),
    channels: { r: column(37), g: column(11), b: column(5) },
  };
}

const quantile = (values: readonly number[], q: number) => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * q))];
};
const ms = (value: number) => `${Math.round(value)} ms`;

/** The most memory that a process has had, in MB. */
const mostMemory = (server: RunningServer) =>
  Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${server.process.pid}/status`, "utf8"))?.[1]) / 1024;

/** A class of students at one server. */
export async function benchClass(): Promise<Row[]> {
  const server = await startServer();
  const tape = encodeReadings(someReadings(READINGS));
  const clients = await Promise.all(Array.from({ length: CLIENTS }, (_, i) => Client.begin(server, i, tape)));
  const until = performance.now() + LASTING_MS;
  await Promise.all(clients.map((client, i) => client.work(until, (i * SAVE_EVERY_MS) / CLIENTS)));
  const lost = (await Promise.all(clients.map((client) => client.lost()))).filter(Boolean).length;
  const times = clients.flatMap((client) => client.times);
  const loads = clients.flatMap((client) => client.loads);
  const errors = clients.reduce((sum, client) => sum + client.errors, 0);
  const memory = mostMemory(server);
  await server.stop();
  const slow = quantile(times, 0.95);
  return [
    {
      what: `${CLIENTS} clients for a minute, 100 kB saved every 2 s each: 95 % of ${times.length} saves`,
      measured: `${ms(slow)} (half of them ${ms(quantile(times, 0.5))}), ${errors} errors, ${lost} lost`,
      budget: "≤ 250 ms, none",
      met: slow <= 250 && errors === 0 && lost === 0,
    },
    {
      what: `… their tapes of 20,000 readings loaded: 95 % of ${loads.length}`,
      measured: `${ms(quantile(loads, 0.95))}; the server took ${Math.round(memory)} MB at most`,
      budget: "",
    },
  ];
}

/** Large files that come in while another one saves. */
export async function benchFiles(): Promise<Row[]> {
  const data = freshFolder();
  const server = await startServer({ data });
  const base = emptyProject("Large");
  const ids = ["long-a", "long-b"] as TapeId[];
  const head = { sensor: base.sensors[0].id, origin: "bench" as const, marks: [] };
  const document = { ...base, tapes: ids.map((id) => ({ ...head, id, name: id })) };
  const file = join(data, "large.json");
  writeFileSync(file, writeProject(joinReadings(document, new Map(ids.map((id) => [id, someReadings(1_200_000)])))));
  const body = readFileSync(file);
  const client = await Client.begin(server, 0, encodeReadings(someReadings(READINGS)));
  await client.save();
  client.times.length = 0;
  let done = false;
  const began = performance.now();
  const all = Promise.all(
    Array.from({ length: 4 }, async () => {
      const answer = await fetch(`${server.url}/api/projects`, {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body,
      });
      if (answer.status !== 201) throw new Error(`the file was answered ${answer.status}: ${await answer.text()}`);
    }),
  ).finally(() => {
    done = true;
  });
  while (!done) {
    await client.save();
    await wait(100);
  }
  await all;
  const took = performance.now() - began;
  const memory = mostMemory(server);
  await server.stop();
  rmSync(data, { recursive: true, force: true });
  const slow = quantile(client.times, 0.95);
  return [
    {
      what: `another one's saves while four files of ${Math.round(body.length / MB)} MB come in: 95 % of ${client.times.length}`,
      measured: `${ms(slow)} (half of them ${ms(quantile(client.times, 0.5))}), ${client.errors} errors; all in after ${(took / 1000).toFixed(1)} s`,
      budget: "≤ 150 ms",
      met: slow <= 150 && client.errors === 0,
    },
    {
      what: "… the most memory that the server takes",
      measured: `${Math.round(memory)} MB`,
      budget: "≤ 500 MB",
      met: memory <= 500,
    },
  ];
}

/** What is left after kills and failed commits. */
export async function benchFaults(): Promise<Row[]> {
  const data = freshFolder();
  const { answered, refused, lost } = await tryFaults(data, { kills: 200, failedCommits: 50 });
  rmSync(data, { recursive: true, force: true });
  return [
    {
      what: "200 kills and stops right behind an answer, failed commits in between",
      measured: `${answered} answered, ${refused} refused for want of room, ${lost} lost`,
      budget: "none lost",
      met: lost === 0 && refused >= 50,
    },
  ];
}
