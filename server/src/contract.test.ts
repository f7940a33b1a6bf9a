import { type AddressInfo, createServer, type Server } from "node:net";
import { CONTRACT, type Endpoint, type EndpointName, PATHS, PROBLEM, ProblemDetails, RAW } from "@perceptum/contract";
import { bedWatch, glasshouseRound } from "@perceptum/core/demo";
import { listensOf } from "@perceptum/core/live";
import { emptyProject, joinReadings, splitProject } from "@perceptum/core/project";
import { encodeReadings, packReadings } from "@perceptum/core/readings";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { packFrame } from "../../demo/packFrame";
import { type RunningServer, startServer } from "../../e2e/server";

const demo = glasshouseRound();
const { document } = splitProject(demo);
const [[frame, png]] = Object.entries(bedWatch(packFrame).frames ?? {});
const LINK = "link-0123456789ab";
const ACT = "0a8a3f0e-3a51-4b62-8f6f-0d8f5c1f2a11";
const CSV = "t,r,g,b\n0,700,150,100\n";

let server: RunningServer;
let robot: Server;
/** A project that is there, and one that is deleted on the way. */
let id: string;
let passing: string;
/** What the link is watched by, and how its page leaves. */
let watch: string;
const leaving = new AbortController();

beforeAll(async () => {
  server = await startServer();
  robot = createServer().listen(0, "127.0.0.1");
});
afterAll(async () => {
  leaving.abort();
  robot.close();
  await server.stop();
});

/** What is asked of an endpoint: names of its path, a query, headers, a body. */
interface Asking {
  params?: Record<string, string>;
  query?: string;
  headers?: Record<string, string>;
  type?: string;
  body?: string | Uint8Array;
}
const json = (value: unknown): Asking => ({ type: "application/json", body: JSON.stringify(value) });

/** Asks an endpoint, and holds that what comes is what the contract says. */
async function ask(name: EndpointName, { params = {}, query = "", headers = {}, type, body }: Asking): Promise<number> {
  const { method, path, answers, problems = [] }: Endpoint = CONTRACT[name];
  const address = PATHS[path].replace(/\{(\w+)\}/g, (_, key: string) => params[key]);
  const response = await fetch(`${server.url}${address}${query}`, {
    method: method.toUpperCase(),
    headers: { ...headers, ...(type !== undefined && { "Content-Type": type }) },
    signal: leaving.signal,
    ...(body !== undefined && { body: typeof body === "string" ? body : Buffer.from(body) }),
  });
  const { status } = response;
  const came = response.headers.get("Content-Type")?.split(";")[0] ?? null;
  const answer = answers[status];
  if (answer === undefined) {
    expect(came, `${name} ${status}`).toBe(PROBLEM);
    const problem = ProblemDetails.strict().parse(await response.json());
    expect(problem.status).toBe(status);
    if (SOME.has(status)) expect(problems, `${name} ${status}`).toContain(status);
    return status;
  }
  for (const header of Object.keys(answer.headers ?? {})) expect(response.headers.get(header), header).not.toBeNull();
  if (answer.content === undefined) expect(await response.text()).toBe("");
  else {
    expect(answer.content.types, name).toContain(came);
    if (came === "text/event-stream") return status; // it goes on
    if (answer.content.schema === RAW) expect((await response.arrayBuffer()).byteLength).toBeGreaterThan(0);
    else {
      const said = (await response.json()) as { id?: string; watch?: string };
      answer.content.schema.parse(said);
      if (name === "addProject") passing = said.id as string;
      if (name === "openLink") watch = said.watch as string;
      if (name === "projects") id ??= (said as { id: string }[])[0].id;
    }
  }
  return status;
}
/** Statuses that only some endpoints answer with. */
const SOME = new Set([409, 412, 415, 428, 502]);

/** One way to each answer and each problem of its own that an endpoint has, in an order that holds. */
const WAYS: [EndpointName, status: number, () => Asking][] = [
  ["health", 200, () => ({})],
  ["ownDescription", 200, () => ({})],
  ["projects", 200, () => ({})],
  ["addProject", 201, () => json(joinReadings(emptyProject("Passing"), new Map()))],
  ["addProject", 400, () => ({ type: "application/json", body: "{" })],
  ["addProject", 422, () => json({ name: 1 })],
  ["project", 200, () => ({ params: { id } })],
  ["project", 404, () => ({ params: { id: "gone" } })],
  ["replaceProject", 428, () => ({ params: { id }, ...json(document) })],
  ["replaceProject", 412, () => ({ params: { id }, headers: { "If-Match": '"7"' }, ...json(document) })],
  [
    "replaceProject",
    422,
    () => ({ params: { id }, headers: { "If-Match": '"1"', "Idempotency-Key": "?" }, ...json(document) }),
  ],
  ["replaceProject", 409, () => ({ params: { id: passing }, headers: { "If-Match": '"1"' }, ...json(document) })],
  [
    "replaceProject",
    200,
    () => ({ params: { id }, headers: { "If-Match": '"1"', "Idempotency-Key": "a-first-send" }, ...json(document) }),
  ],
  ["markOpened", 204, () => ({ params: { id } })],
  ["projectFile", 200, () => ({ params: { id } })],
  ["readings", 200, () => ({ params: { id, tape: demo.tapes[0].id } })],
  ["readings", 404, () => ({ params: { id, tape: "tape-none" } })],
  ["readingsCsv", 200, () => ({ params: { id, tape: demo.tapes[0].id } })],
  ["keepReadings", 204, () => sent("application/octet-stream", encodeReadings(packReadings(demo.tapes[0].readings)))],
  [
    "keepReadings",
    409,
    () =>
      sent("application/octet-stream", encodeReadings(packReadings({ t: [0], channels: { r: [1], g: [1], b: [1] } }))),
  ],
  ["keepReadings", 415, () => sent("text/plain", new Uint8Array([1]))],
  ["keepReadings", 422, () => sent("application/octet-stream", new Uint8Array([1]))],
  ["keepFrame", 204, () => ({ params: { id, name: frame }, type: "image/png", body: Buffer.from(png, "base64") })],
  ["keepFrame", 415, () => ({ params: { id, name: frame }, type: "image/jpeg", body: Buffer.from(png, "base64") })],
  ["frame", 200, () => ({ params: { id, name: frame } })],
  ["run", 200, () => ({ params: { id }, ...json({ course: "aisle", limitMs: 500 }) })],
  ["run", 422, () => ({ params: { id }, ...json({ course: "aisle", seed: -1 }) })],
  ["deleteProject", 204, () => ({ params: { id: passing } })],
  ["deleteProject", 404, () => ({ params: { id: passing } })],
  ["watchLink", 409, () => ({ params: { link: LINK }, query: "?watch=0" })],
  ["hearCommands", 409, () => ({ params: { link: LINK } })],
  ["listenBy", 409, () => ({ params: { link: LINK }, ...json(listensOf(document)) })],
  ["connectLine", 409, () => ({ params: { link: LINK }, ...json(addressOf(robot)) })],
  ["startAct", 409, () => ({ params: { link: LINK, act: ACT }, ...json(document) })],
  ["changeAct", 409, () => ({ params: { link: LINK, act: ACT }, ...json(document) })],
  ["sendReadings", 409, () => ({ params: { link: LINK }, type: "text/csv", body: CSV })],
  ["openLink", 201, () => ({ params: { link: LINK }, ...json(listensOf(document)) })],
  ["openLink", 422, () => ({ params: { link: "elsewhere" }, ...json(listensOf(document)) })],
  ["watchLink", 200, () => ({ params: { link: LINK }, query: `?watch=${watch}` })],
  ["hearCommands", 200, () => ({ params: { link: LINK } })],
  ["listenBy", 204, () => ({ params: { link: LINK }, ...json(listensOf(document)) })],
  ["sendReadings", 415, () => ({ params: { link: LINK }, type: "text/html", body: "<p>" })],
  ["sendReadings", 200, () => ({ params: { link: LINK }, query: "?sensor=belly", type: "text/csv", body: CSV })],
  ["sendReadings", 204, () => ({ params: { link: LINK }, type: "image/png", body: Buffer.from(png, "base64") })],
  ["picture", 200, () => ({ params: { link: LINK, n: "1" } })],
  ["picture", 404, () => ({ params: { link: LINK, n: "1" } })],
  ["connectLine", 502, () => ({ params: { link: LINK }, ...json({ address: "tcp://127.0.0.1:1" }) })],
  ["connectLine", 204, () => ({ params: { link: LINK }, ...json(addressOf(robot)) })],
  ["startAct", 201, () => ({ params: { link: LINK, act: ACT }, ...json(document) })],
  ["changeAct", 204, () => ({ params: { link: LINK, act: ACT }, ...json(document) })],
  ["watchAct", 204, () => ({ params: { link: LINK, act: ACT } })],
  ["stopAct", 204, () => ({ params: { link: LINK, act: ACT } })],
  ["stopAct", 422, () => ({ params: { link: LINK, act: "none" } })],
];
const sent = (type: string, body: Uint8Array): Asking => ({ params: { id, tape: demo.tapes[0].id }, type, body });
const addressOf = (at: Server) => ({ address: `tcp://127.0.0.1:${(at.address() as AddressInfo).port}` });

describe("the server", () => {
  it("has a way here to every answer and every problem of its own that the contract names", () => {
    const said = Object.entries(CONTRACT as Record<string, Endpoint>).flatMap(([name, { answers, problems = [] }]) =>
      [...Object.keys(answers).map(Number), ...problems].map((status) => `${name} ${status}`),
    );
    const here = new Set(WAYS.map(([name, status]) => `${name} ${status}`));
    expect(said.filter((one) => !here.has(one))).toEqual([]);
  });

  it.each(WAYS)("answers as the contract says: %s, %i", async (name, status, asking) => {
    expect(await ask(name, asking())).toBe(status);
  });

  it("answers no other address, and says so as a problem", async () => {
    const response = await fetch(`${server.url}/api/more`);
    expect(response.headers.get("Content-Type")).toContain(PROBLEM);
    expect(ProblemDetails.parse(await response.json())).toMatchObject({ status: 404 });
  });
});
