import { spawn } from "node:child_process";
import { rmSync, writeFileSync } from "node:fs";
import { createServer, request } from "node:http";
import { type AddressInfo, connect } from "node:net";
import { join } from "node:path";
import { bedWatch, glasshouseRound } from "@perceptum/core/demo";
import { emptyProject, joinReadings, type ProjectDocument, splitProject } from "@perceptum/core/project";
import { decodeReadings, encodeReadings } from "@perceptum/core/readings";
import { RUN_LIMIT_MS, run, traceJsonLines } from "@perceptum/core/world";
import Database from "better-sqlite3";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { packFrame } from "../../demo/packFrame";
import { freshFolder, ROOT, type RunningServer, startServer } from "../../e2e/server";
import { MOST_A_MINUTE } from "./app";

const demo = glasshouseRound();
const { document } = splitProject(demo);
let server: RunningServer;
let id: string;

beforeAll(async () => {
  server = await startServer();
  [{ id }] = (await (await fetch(`${server.url}/api/projects`)).json()) as { id: string }[];
});
afterAll(() => server.stop());

/** The answer to a request whose headers never end: it is sent first, since that takes a while. */
let endless: Promise<string>;
beforeAll(() => {
  endless = new Promise((done) => {
    let text = "";
    const socket = connect(Number(new URL(server.url).port), "127.0.0.1", () =>
      socket.write("GET / HTTP/1.1\r\nHost: 127"),
    );
    socket.on("data", (chunk) => {
      text += chunk;
    });
    socket.on("close", () => done(text));
  });
});

const at = (path: string) => `${server.url}/api/projects${path}`;
const put = (path: string, body: unknown, revision?: number) =>
  fetch(at(path), {
    method: "PUT",
    headers: { "Content-Type": "application/json", ...(revision !== undefined && { "If-Match": `"${revision}"` }) },
    body: JSON.stringify(body),
  });
const revisionOf = (response: Response) => Number(response.headers.get("ETag")?.replaceAll('"', ""));
const problem = async (response: Response) => {
  expect(response.headers.get("Content-Type")).toContain("application/problem+json");
  return (await response.json()) as { status: number; title: string; detail: string; place?: string };
};

describe("projects", () => {
  it("begin with the demo in a new database, not opened yet", async () => {
    const list = (await (await fetch(at(""))).json()) as { name: string; revision: number; openedAt: number | null }[];
    expect(list).toMatchObject([
      {
        name: "Glasshouse round",
        revision: 1,
        openedAt: null,
        paints: ["#e4573d", "#12868a", "#e8a317", "#7a4bb5", "#f1efe8"],
      },
      { name: "Route cards", revision: 1, openedAt: null },
      { name: "Pipe-rail carrier", revision: 1, openedAt: null },
      { name: "Potting shed", revision: 1, openedAt: null },
      { name: "Bed watch", revision: 1, openedAt: null },
    ]);
    expect((await fetch(at(`/${id}/opened`), { method: "PUT" })).status).toBe(204);
    expect(((await (await fetch(at(""))).json()) as { openedAt: number }[])[0].openedAt).toBeGreaterThan(0);
  });

  it("come as a document without readings, with a revision as ETag", async () => {
    const response = await fetch(at(`/${id}`));
    expect(revisionOf(response)).toBe(1);
    expect(await response.json()).toEqual(document);
  });

  it("are replaced on the right revision only, and never without one", async () => {
    const revision = revisionOf(await fetch(at(`/${id}`)));
    const renamed = { ...document, name: "Renamed" };
    const first = await put(`/${id}`, renamed, revision);
    expect([first.status, revisionOf(first)]).toEqual([200, revision + 1]);
    const stale = await put(`/${id}`, document, revision);
    expect(await problem(stale)).toMatchObject({ status: 412, detail: expect.stringContaining(`made on ${revision}`) });
    expect(await problem(await put(`/${id}`, document))).toMatchObject({ status: 428 });
    expect(((await (await fetch(at(`/${id}`))).json()) as ProjectDocument).name).toBe("Renamed");
    await put(`/${id}`, document, revision + 1);
  });

  it("of two changes at once let one through and tell the other", async () => {
    const revision = revisionOf(await fetch(at(`/${id}`)));
    const answers = await Promise.all(
      Array.from({ length: 8 }, (_, i) => put(`/${id}`, { ...document, name: `Window ${i}` }, revision)),
    );
    expect(answers.map((a) => a.status).sort()).toEqual([200, 412, 412, 412, 412, 412, 412, 412]);
  });

  it("that are not valid are refused with the place, and nothing is changed", async () => {
    const revision = revisionOf(await fetch(at(`/${id}`)));
    const broken = structuredClone(document) as unknown as { ruleSets: { rules: { target: string }[] }[] };
    broken.ruleSets[0].rules[0].target = "azure";
    const refused = await put(`/${id}`, broken, revision);
    expect(await problem(refused)).toMatchObject({
      status: 422,
      place: "ruleSets[0].rules[0].target",
      detail: expect.stringContaining("azure"),
    });
    expect(revisionOf(await fetch(at(`/${id}`)))).toBe(revision);
  });

  it("that name a tape whose readings were never sent are refused", async () => {
    const revision = revisionOf(await fetch(at(`/${id}`)));
    const bare = { ...document, tapes: [...document.tapes, { ...document.tapes[0], id: "ghost", name: "Ghost" }] };
    expect(await problem(await put(`/${id}`, bare, revision))).toMatchObject({
      status: 409,
      detail: expect.stringContaining("Ghost"),
    });
  });

  it("come in and go out whole; of a deleted one only a window that has it open can still fetch the readings", async () => {
    const added = await fetch(at(""), {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(demo),
    });
    expect(added.status).toBe(201);
    const { id: other } = (await added.json()) as { id: string };
    expect(await (await fetch(at(`/${other}/file`))).json()).toEqual(demo);
    expect((await fetch(at(`/${other}`), { method: "DELETE" })).status).toBe(204);
    expect(await problem(await fetch(at(`/${other}`)))).toMatchObject({ status: 404 });
    expect(await problem(await fetch(at(`/${other}/file`)))).toMatchObject({ status: 404 });
    const readings = at(`/${other}/tapes/${demo.tapes[0].id}/readings`);
    const bytes = await (await fetch(readings)).arrayBuffer();
    expect(decodeReadings(new Uint8Array(bytes)).t).toHaveLength(demo.tapes[0].readings.t.length);
    const again = await fetch(readings, {
      method: "PUT",
      headers: { "Content-Type": "application/octet-stream" },
      body: bytes,
    });
    expect(await problem(again)).toMatchObject({ status: 404 });
  });

  it("with a camera come and go with their frames, each of which can be put and got by its name", async () => {
    const watch = bedWatch(packFrame);
    const [[name, png]] = Object.entries(watch.frames ?? {});
    const added = await fetch(at(""), {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(watch),
    });
    expect(added.status).toBe(201);
    const { id: other } = (await added.json()) as { id: string };
    expect(await (await fetch(at(`/${other}/file`))).json()).toEqual(watch);
    const bytes = Buffer.from(png, "base64");
    const got = await fetch(at(`/${other}/frames/${name}`));
    expect([got.headers.get("Content-Type"), Buffer.from(await got.arrayBuffer())]).toEqual(["image/png", bytes]);
    const put = (to: string, body: Uint8Array<ArrayBuffer>, type = "image/png") =>
      fetch(at(`/${to}/frames/${name}`), { method: "PUT", headers: { "Content-Type": type }, body });
    // Another project does not hold it until it has sent it itself.
    expect((await fetch(at(`/${id}/frames/${name}`))).status).toBe(404);
    expect((await put(id, bytes)).status).toBe(204);
    expect((await fetch(at(`/${id}/frames/${name}`))).status).toBe(200);
    const cut = new Uint8Array(bytes.subarray(0, bytes.length - 1));
    expect(await problem(await put(id, cut))).toMatchObject({
      status: 422,
      detail: expect.stringContaining("not the one that its name says"),
    });
    expect(await problem(await put(id, bytes, "image/jpeg"))).toMatchObject({ status: 415 });
    expect(await problem(await put("nowhere", bytes))).toMatchObject({ status: 404 });
    expect(
      await problem(
        await fetch(at(`/${id}/frames/short`), { method: "PUT", headers: { "Content-Type": "image/png" } }),
      ),
    ).toMatchObject({ status: 422 });
    expect((await fetch(at(`/${other}`), { method: "DELETE" })).status).toBe(204);
  });

  it("that are no JSON, or too large, are refused", async () => {
    const send = (body: string) =>
      fetch(at(""), { method: "POST", headers: { "Content-Type": "application/json" }, body });
    expect(await problem(await send('{"format": '))).toMatchObject({ status: 400 });
    expect(await problem(await send(" ".repeat(51 * 1024 * 1024)))).toMatchObject({
      status: 422,
      detail: expect.stringContaining("50 MB"),
    });
    // What is announced as too large is refused before it comes.
    const status = await new Promise<number | undefined>((answered, failed) => {
      const asked = request(at(""), { method: "POST", headers: { "Content-Length": 201 * 1024 * 1024 } }, (answer) => {
        answered(answer.statusCode);
        asked.destroy();
      });
      asked.on("error", failed);
      asked.flushHeaders();
    });
    expect(status).toBe(413);
  });
});

describe("tapes", () => {
  const tape = document.tapes[0].id;
  const { readings } = splitProject(demo);

  it("come as float64 chunks and as CSV", async () => {
    const bytes = new Uint8Array(await (await fetch(at(`/${id}/tapes/${tape}/readings`))).arrayBuffer());
    expect(decodeReadings(bytes)).toEqual(readings.get(tape));
    const csv = await (await fetch(at(`/${id}/tapes/${tape}/readings.csv`))).text();
    expect(csv.split("\r\n")[0]).toBe("t_ms,r,g,b");
  });

  it("of many readings are kept in several chunks and come back whole", async () => {
    const n = 150_000;
    const long = {
      t: Float64Array.from({ length: n }, (_, i) => i),
      channels: {
        r: new Float64Array(n).fill(1),
        g: new Float64Array(n),
        b: Float64Array.from({ length: n }, (_, i) => i % 7),
      },
    };
    const send = await fetch(at(`/${id}/tapes/long/readings`), {
      method: "PUT",
      headers: { "Content-Type": "application/octet-stream" },
      body: encodeReadings(long),
    });
    expect(send.status).toBe(204);
    expect(decodeReadings(new Uint8Array(await (await fetch(at(`/${id}/tapes/long/readings`))).arrayBuffer()))).toEqual(
      long,
    );
  });

  it("that are cut off are refused, and what was there stays", async () => {
    const send = await fetch(at(`/${id}/tapes/${tape}/readings`), {
      method: "PUT",
      headers: { "Content-Type": "application/octet-stream" },
      body: new Uint8Array(20),
    });
    expect(await problem(send)).toMatchObject({ status: 422, detail: expect.stringContaining("cut off") });
    expect((await fetch(at(`/${id}/tapes/${tape}/readings`))).status).toBe(200);
  });
});

describe("runs", () => {
  it("give the same trace as the core gives anywhere, byte for byte", async () => {
    const revision = revisionOf(await fetch(at(`/${id}`)));
    await put(`/${id}`, document, revision);
    const choice = { course: "aisle", light: "noon-sun", seed: 7 };
    const response = await fetch(at(`/${id}/runs`), {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(choice),
    });
    expect(await response.text()).toBe(traceJsonLines(run(document, choice)));
  });

  it("on a course that is not there say which there are", async () => {
    const response = await fetch(at(`/${id}/runs`), {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: '{"course":"attic"}',
    });
    expect(await problem(response)).toMatchObject({ status: 422, detail: expect.stringContaining("Aisle") });
  });
});

describe("work that takes long", () => {
  const post = (url: string, body: unknown) =>
    fetch(url, { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify(body) });

  it("keeps nobody else waiting: the server answers while it runs", async () => {
    // A behaviour that never ends drives until the limit.
    const endless: ProjectDocument = {
      ...document,
      behaviour: { ...document.behaviour, modes: document.behaviour.modes.map((mode) => ({ ...mode, responses: [] })) },
    };
    const added = (await (await post(at(""), joinReadings(endless, splitProject(demo).readings))).json()) as {
      id: string;
    };
    let running = true;
    const made = post(at(`/${added.id}/runs`), { course: "aisle", limitMs: RUN_LIMIT_MS }).then(async (response) => {
      const lines = (await response.text()).split("\n").length;
      running = false;
      return lines;
    });
    let answered = 0;
    while (running) {
      expect((await fetch(`${server.url}/api/health`)).status).toBe(200);
      answered++;
    }
    expect(await made).toBeGreaterThan(1000);
    // One that does it on the way answers the first question and the last.
    expect(answered).toBeGreaterThan(4);
  });

  it("is done so often a minute, and then refused for a while", async () => {
    const own = await startServer();
    const answers: number[] = [];
    for (let i = 0; i < MOST_A_MINUTE + 1; i += 50)
      answers.push(
        ...(await Promise.all(
          Array.from({ length: Math.min(50, MOST_A_MINUTE + 1 - i) }, async () => {
            const response = await post(`${own.url}/api/projects/none/runs`, { course: "aisle" });
            await response.arrayBuffer();
            return response.status;
          }),
        )),
      );
    expect(answers.filter((status) => status === 404)).toHaveLength(MOST_A_MINUTE);
    expect(answers.filter((status) => status === 429)).toHaveLength(1);
    const refused = await post(`${own.url}/api/projects`, {});
    expect(Number(refused.headers.get("Retry-After"))).toBeGreaterThan(0);
    expect(await problem(refused)).toMatchObject({
      status: 429,
      detail: expect.stringContaining("600 times a minute"),
    });
    // What was begun is still saved.
    const [first] = (await (await fetch(`${own.url}/api/projects`)).json()) as { id: string }[];
    expect((await fetch(`${own.url}/api/projects/${first.id}`)).status).toBe(200);
    await own.stop();
  });
});

describe("the log", () => {
  it("tells of each request where that is asked for, without what it held", async () => {
    const own = await startServer({ command: [process.execPath, "server/dist/main.js", "--log-level", "info"] });
    await fetch(`${own.url}/api/projects?any`);
    await own.stop();
    const lines = own
      .errors()
      .trim()
      .split("\n")
      .map((line) => JSON.parse(line) as Record<string, unknown>);
    expect(lines).toContainEqual(
      expect.objectContaining({
        level: 30,
        req: { method: "GET", url: "/api/projects?any" },
        res: { status: 200 },
        responseTime: expect.any(Number),
      }),
    );
  });

  it("tells nothing of what goes well where nothing is asked for", async () => {
    const own = await startServer();
    await fetch(`${own.url}/api/projects`);
    await own.stop();
    expect(own.errors()).toBe("");
  });
});

describe("the door", () => {
  const ask = (headers: Record<string, string>, path = "/api/projects") =>
    new Promise<number>((done, fail) => {
      request(server.url + path, { headers }, (response) => {
        response.resume();
        done(response.statusCode ?? 0);
      })
        .on("error", fail)
        .end();
    });

  it("is shut for other pages and for other names of this address", async () => {
    expect(await ask({})).toBe(200);
    expect(await ask({ Host: "example.test" })).toBe(403);
    expect(await ask({ Origin: "http://example.test" })).toBe(403);
    expect(await ask({ Origin: server.url })).toBe(200);
  });

  it("is shut for what another page asks, but lets a link on it lead here", async () => {
    const foreign = { "Sec-Fetch-Site": "cross-site" };
    expect(await ask({ ...foreign, "Sec-Fetch-Mode": "no-cors" })).toBe(403);
    const navigates = { ...foreign, "Sec-Fetch-Mode": "navigate", "Sec-Fetch-Dest": "document" };
    expect(await ask(navigates, "/")).toBe(200);
    expect(await ask(navigates, `/p/${id}/decide`)).toBe(200);
    // No document of another page, and no frame in it, leads to what is for our own page.
    expect(await ask(navigates)).toBe(403);
    expect(await ask(navigates, "/API/projects")).toBe(403);
    expect(await ask({ ...navigates, "Sec-Fetch-Dest": "iframe" }, "/")).toBe(403);
    expect(await ask({ "Sec-Fetch-Site": "same-origin", "Sec-Fetch-Mode": "cors" })).toBe(200);
    const write = await fetch(at(`/${id}`), { method: "DELETE", headers: { Origin: "http://example.test" } });
    expect([write.status, (await fetch(at(`/${id}`))).status]).toEqual([403, 200]);
  });

  it("answers whatever comes with problem details", async () => {
    const { port } = new URL(server.url);
    const raw = (text: string) =>
      new Promise<string>((done) => {
        let answer = "";
        const socket = connect(Number(port), "127.0.0.1", () => socket.write(text));
        socket.on("data", (chunk) => {
          answer += chunk;
        });
        // What is refused half-way is reset behind the answer.
        socket.on("close", () => done(answer)).on("error", () => undefined);
      });
    const host = `Host: 127.0.0.1:${port}\r\n`;
    const hostile = {
      "400": "this is no HTTP\r\n\r\n",
      "431": `GET / HTTP/1.1\r\n${host}X: ${"x".repeat(40_000)}\r\n\r\n`,
      "404": `GET /assets/none.js HTTP/1.1\r\n${host}Connection: close\r\n\r\n`,
      "405": `POST /p/abc HTTP/1.1\r\n${host}Connection: close\r\nContent-Length: 0\r\n\r\n`,
    };
    for (const [status, text] of Object.entries(hostile)) {
      const answer = await raw(text);
      expect(answer).toMatch(new RegExp(`^HTTP/1.1 ${status} `));
      expect(answer).toContain("application/problem+json");
      expect(answer).toContain(`"status":${status}`);
    }
    expect(await problem(await fetch(`${server.url}/api/projects/%E0%A4%A`))).toMatchObject({ status: 400 });
  });

  it("does not wait for ever for headers", async () => {
    expect(await endless).toMatch(/^HTTP\/1.1 408 /);
  });

  it("logs no error of its own where who sends something goes away", async () => {
    const own = await startServer();
    const sent = request(`${own.url}/api/projects`, {
      method: "POST",
      headers: { "Content-Type": "application/json", "Content-Length": 1_000_000 },
    }).on("error", () => undefined);
    await new Promise((done) => sent.write("{", done));
    // The server has the first part once it has answered something else; it ends when all connections have.
    await fetch(own.url);
    sent.destroy();
    await own.stop();
    expect(own.errors()).toBe("");
  });

  it("gives out the page where the database cannot be read: what is wrong is said there", async () => {
    const own = await startServer();
    const [{ id: project }] = (await (await fetch(`${own.url}/api/projects`)).json()) as { id: string }[];
    const other = new Database(join(own.data, "perceptum.sqlite"));
    other.exec("ALTER TABLE project RENAME TO elsewhere");
    other.close();
    expect((await fetch(`${own.url}/api/projects/${project}`)).status).toBe(500);
    const page = await fetch(`${own.url}/p/${project}/decide`);
    expect([page.status, await page.text()]).toEqual([200, expect.stringContaining('<div id="root">')]);
    await own.stop();
  });

  it("allows the page no scripts but its own", async () => {
    const policy = (await fetch(server.url)).headers.get("Content-Security-Policy") ?? "";
    expect(policy).toContain("default-src 'self'");
    expect(policy).not.toMatch(/script-src[^;]*unsafe/);
  });

  it("answers an unknown address with problem details, and every page's address with the page", async () => {
    expect(await problem(await fetch(`${server.url}/api/nowhere`))).toMatchObject({ status: 404 });
    expect(await (await fetch(`${server.url}/p/abc/decide`)).text()).toContain('<div id="root">');
  });

  it("has the browser send for a project and its readings ahead of the scripts, as they are", async () => {
    const link = (await fetch(`${server.url}/p/${id}/decide`)).headers.get("Link") ?? "";
    const urls = [...link.matchAll(/<([^>]+)>; rel=preload; as=fetch; crossorigin/g)].map(([, url]) => url);
    const tapes = document.tapes.map((tape) => `/api/projects/${id}/tapes/${tape.id}/readings`);
    expect(urls).toEqual([`/api/projects/${id}`, ...tapes]);
    for (const url of urls) expect((await fetch(server.url + url)).status).toBe(200);
    const readings = await fetch(server.url + tapes[0], { headers: { "Accept-Encoding": "gzip" } });
    expect(readings.headers.get("Content-Encoding")).toBeNull();
    expect((await fetch(`${server.url}/p/nothing/decide`)).headers.get("Link")).toBeNull();
  });
});

describe("what was answered", () => {
  it("is there after kill -9 right behind the answer", async () => {
    const data = freshFolder();
    try {
      for (let round = 0; round < 3; round++) {
        const victim = await startServer({ data });
        const [{ id: project }] = (await (await fetch(`${victim.url}/api/projects`)).json()) as { id: string }[];
        const before = await fetch(`${victim.url}/api/projects/${project}`);
        const changed = { ...((await before.json()) as ProjectDocument), name: `Round ${round}` };
        const answer = await fetch(`${victim.url}/api/projects/${project}`, {
          method: "PUT",
          headers: { "Content-Type": "application/json", "If-Match": `"${revisionOf(before)}"` },
          body: JSON.stringify(changed),
        });
        const dead = new Promise((done) => victim.process.once("exit", done));
        victim.process.kill("SIGKILL");
        expect(answer.status).toBe(200);
        await dead;
        const next = await startServer({ data });
        expect(((await (await fetch(`${next.url}/api/projects/${project}`)).json()) as ProjectDocument).name).toBe(
          `Round ${round}`,
        );
        await next.stop();
      }
    } finally {
      rmSync(data, { recursive: true, force: true });
    }
  });
});

describe("a server that is told to end", () => {
  it("answers what is under way, and what it answered is there", async () => {
    const data = freshFolder();
    const victim = await startServer({ data });
    const before = ((await (await fetch(`${victim.url}/api/projects`)).json()) as unknown[]).length;
    const gone = new Promise((done) => victim.process.once("exit", done));
    const answer = await new Promise<number>((done, fail) => {
      const send = request(
        `${victim.url}/api/projects`,
        { method: "POST", headers: { "Content-Type": "application/json", "Transfer-Encoding": "chunked" } },
        (response) => {
          response.resume();
          done(response.statusCode ?? 0);
        },
      ).on("error", fail);
      const text = JSON.stringify(demo);
      send.write(text.slice(0, 100), () => {
        victim.process.kill("SIGTERM");
        // The server no longer takes connections: the signal has come.
        const look = () =>
          fetch(victim.url).then(
            () => setImmediate(look),
            () => send.end(text.slice(100)),
          );
        void look();
      });
    });
    await gone;
    expect(answer).toBe(201);
    const next = await startServer({ data });
    expect((await (await fetch(`${next.url}/api/projects`)).json()) as unknown[]).toHaveLength(before + 1);
    await next.stop();
    rmSync(data, { recursive: true, force: true });
  });

  it("leaves an emptied list empty at the next start", async () => {
    const data = freshFolder();
    const first = await startServer({ data });
    for (const { id: project } of (await (await fetch(`${first.url}/api/projects`)).json()) as { id: string }[])
      await fetch(`${first.url}/api/projects/${project}`, { method: "DELETE" });
    await first.stop();
    const next = await startServer({ data });
    expect(await (await fetch(`${next.url}/api/projects`)).json()).toEqual([]);
    await next.stop();
    rmSync(data, { recursive: true, force: true });
  });
});

describe("a server that cannot start", () => {
  /** Runs the server until it ends by itself. */
  const ended = (...args: string[]) =>
    new Promise<{ code: number | null; errors: string }>((done) => {
      const child = spawn(process.execPath, ["server/dist/main.js", ...args], { cwd: ROOT });
      let errors = "";
      child.stderr.on("data", (chunk: Buffer) => {
        errors += chunk;
      });
      child.on("exit", (code) => done({ code, errors }));
    });

  it("says that the port is in use", async () => {
    const other = createServer().listen(0, "127.0.0.1");
    await new Promise((done) => other.once("listening", done));
    const data = freshFolder();
    const { code, errors } = await ended("--port", String((other.address() as AddressInfo).port), "--data", data);
    other.close();
    rmSync(data, { recursive: true, force: true });
    expect(code).toBe(1);
    expect(errors).toMatch(/port \d+ is in use by another program/);
    expect(errors.trim().split("\n")).toHaveLength(1);
  });

  it("says that the database is locked by another program", async () => {
    const data = freshFolder();
    const holder = new Database(join(data, "perceptum.sqlite"));
    holder.exec("CREATE TABLE x (y)");
    holder.exec("BEGIN EXCLUSIVE");
    const { code, errors } = await ended("--port", "0", "--data", data);
    holder.close();
    rmSync(data, { recursive: true, force: true });
    expect(code).toBe(1);
    expect(errors).toContain("another program holds it locked");
  });

  it("says that the file is no database, and that the folder is no folder", async () => {
    const data = freshFolder();
    writeFileSync(join(data, "perceptum.sqlite"), "this is a shopping list, and it is longer than a header");
    expect(await ended("--port", "0", "--data", data)).toMatchObject({
      code: 1,
      errors: expect.stringContaining("it is not a database"),
    });
    expect(await ended("--port", "0", "--data", join(data, "perceptum.sqlite"))).toMatchObject({
      code: 1,
      errors: expect.stringContaining("cannot be used"),
    });
    rmSync(data, { recursive: true, force: true });
  });

  it("says what is wrong with its words, with code 2", async () => {
    expect(await ended("--port", "many")).toMatchObject({
      code: 2,
      errors: expect.stringContaining("is not a number"),
    });
    expect(await ended("--log-level", "loud")).toMatchObject({
      code: 2,
      errors: expect.stringContaining("“loud” is no log level; there are error, warn, info, debug, silent"),
    });
    expect(await ended("--prot", "1")).toMatchObject({ code: 2, errors: expect.stringContaining("serve") });
  });
});

it("an empty project can be added", async () => {
  const body = JSON.stringify(joinReadings(emptyProject("New project"), new Map()));
  const response = await fetch(at(""), { method: "POST", headers: { "Content-Type": "application/json" }, body });
  expect(response.status).toBe(201);
});
