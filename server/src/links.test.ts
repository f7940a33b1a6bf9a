import { bedWatch, glasshouseRound } from "@perceptum/core/demo";
import type { SensorId } from "@perceptum/core/names";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { packFrame } from "../../demo/packFrame";
import { openLink } from "../../e2e/openLink";
import { type RunningServer, startServer } from "../../e2e/server";

const [png] = Object.values(bedWatch(packFrame).frames ?? {}).map((text) => Buffer.from(text, "base64"));
const LINK = "link-0123456789ab";
const { sensors } = glasshouseRound();
const project = {
  sensors: [
    sensors[0],
    { ...sensors[0], id: "left-eye" as SensorId, name: "Left eye", reports: "hue" as const, scale: {} },
  ],
};
let server: RunningServer;

beforeAll(async () => {
  server = await startServer();
});
afterAll(() => server.stop());

const at = (path: string) => `${server.url}/api/links/${path}`;
const send = (body: Uint8Array, type = "image/png", link = LINK) =>
  fetch(at(`${link}/readings`), { method: "POST", headers: { "Content-Type": type }, body: Buffer.from(body) });
const detail = async (response: Response) => [response.status, ((await response.json()) as { detail: string }).detail];

/** Opens a link as a page does; `next` gives what it hears, one event after another. */
async function watching(link = LINK) {
  const leaving = new AbortController();
  const response = await openLink({ url: server.url, link, signal: leaving.signal }, project);
  expect(response.headers.get("Content-Type")).toMatch(/^text\/event-stream/);
  const reader = (response.body as ReadableStream<Uint8Array>).getReader();
  const decoder = new TextDecoder();
  let text = "";
  const next = async (): Promise<{ event: string; data: Record<string, number> } | null> => {
    while (!text.includes("\n\n")) {
      const { value, done } = await reader.read();
      if (done) return null;
      text += decoder.decode(value, { stream: true });
    }
    const [first] = text.split("\n\n", 1);
    text = text.slice(first.length + 2);
    const [event, data] = first.split("\n").map((line) => line.slice(line.indexOf(":") + 2));
    return { event, data: JSON.parse(data) };
  };
  expect(await next()).toEqual({ event: "open", data: {} });
  return { next, leave: () => leaving.abort() };
}

describe("a link", () => {
  it("takes nothing before a page has opened it, nor after that has left", async () => {
    expect(await detail(await send(png))).toEqual([
      409,
      "this link is not open; open it on Sense, at Live, and send again",
    ]);
    const page = await watching();
    expect((await send(png)).status).toBe(204);
    page.leave();
    // The server hears of it a little later than the page leaves.
    let status = 204;
    while (status === 204) status = (await send(png)).status;
    expect(status).toBe(409);
  });

  it("tells the page of each picture, which fetches it once, byte for byte as it was sent", async () => {
    const page = await watching();
    await send(png);
    await send(png);
    expect(await page.next()).toMatchObject({ event: "picture", data: { n: 1, lost: 0 } });
    expect(await page.next()).toMatchObject({ event: "picture", data: { n: 2 } });
    const got = await fetch(at(`${LINK}/pictures/1`));
    expect([got.status, got.headers.get("Content-Type")]).toEqual([200, "image/png"]);
    expect(Buffer.from(await got.arrayBuffer()).equals(png)).toBe(true);
    expect((await fetch(at(`${LINK}/pictures/1`))).status).toBe(404);
    page.leave();
  });

  it("keeps the last eight pictures that nobody has fetched, and counts those that gave way", async () => {
    const page = await watching("link-00000000000a");
    for (let k = 0; k < 10; k++) await send(png, "image/png", "link-00000000000a");
    const told = [];
    for (let k = 0; k < 10; k++) told.push(await page.next());
    expect(told.at(-1)?.data).toMatchObject({ n: 10, lost: 2 });
    const status = async (n: number) => (await fetch(at(`link-00000000000a/pictures/${n}`))).status;
    expect([await status(2), await status(3), await status(10)]).toEqual([404, 200, 200]);
    page.leave();
  });

  it("is watched only by the page that opened it: to look at its address changes nothing", async () => {
    const link = "link-00000000000f";
    const page = await watching(link);
    const events = (query: string) => fetch(at(`${link}/events${query}`));
    expect(await detail(await events(""))).toEqual([409, expect.stringContaining("not open")]);
    expect(await detail(await events("?watch=guessed"))).toEqual([409, expect.stringContaining("not open")]);
    expect((await send(png, "image/png", link)).status).toBe(204);
    expect((await page.next())?.event).toBe("picture");
    page.leave();
  });

  it("goes to the page that opened it last; the one before is told and ends", async () => {
    const first = await watching("link-00000000000b");
    const second = await watching("link-00000000000b");
    expect(await first.next()).toEqual({ event: "taken", data: {} });
    expect(await first.next()).toBeNull();
    expect((await send(png, "image/png", "link-00000000000b")).status).toBe(204);
    expect((await second.next())?.event).toBe("picture");
    second.leave();
  });

  it("takes readings as CSV: the columns are named, the sensor in the address or in a column", async () => {
    const page = await watching();
    const csv = (text: string, query: string) =>
      fetch(at(`${LINK}/readings${query}`), { method: "POST", headers: { "Content-Type": "text/csv" }, body: text });
    const taken = await csv("t_ms,r,g,b\n0,1,2,3\n20,4,x,6\n\n40,7,8,9\n,1,2,3\n60,1,2\n", "?sensor=belly");
    expect(await taken.json()).toEqual({
      readings: 2,
      refused: 3,
      beyond: 0,
      errors: [
        { error: "column g holds “x”, which is not a number", line: 3 },
        { error: "column t_ms is empty", line: 6 },
        { error: "column b is empty", line: 7 },
      ],
    });
    expect(await page.next()).toEqual({
      event: "readings",
      data: {
        s: "belly",
        t: [0, 40],
        v: [
          [1, 2, 3],
          [7, 8, 9],
        ],
        at: expect.any(Number),
      },
    });
    expect(await (await csv("sensor;hue\nleft-eye;20,5\n", "")).json()).toMatchObject({ readings: 1, refused: 0 });
    expect(await page.next()).toMatchObject({ data: { s: "left-eye", v: [[20.5]] } });
    expect(await detail(await csv("r,g,b\n1,2,3\n", ""))).toEqual([422, expect.stringContaining("no sensor is named")]);
    expect(await detail(await csv("1,2,3\n", "?sensor=belly"))).toEqual([
      422,
      expect.stringContaining("names the columns"),
    ]);
    expect(await detail(await csv("t_ms\n1\n", "?sensor=belly"))).toEqual([422, "no column holds values"]);
    page.leave();
  });

  it("takes readings as lines, and says how many it took and what is wrong with the others", async () => {
    const link = "link-00000000000d";
    const page = await watching(link);
    const post = (body: string, type = "application/jsonl") =>
      fetch(at(`${link}/readings`), { method: "POST", headers: { "Content-Type": type }, body });
    const own = { readings: 2, beyond: 1 };
    const lines = [
      '{"hello":"perceptum","version":1}',
      '{"s":"belly","t":20,"v":[1,2,3]}',
      "what",
      '{"s":"belly","v":[4,5,6000]}',
      '{"s":"nose","t":40,"v":[7]}',
      '{"s":"belly","v":[1,2]}',
    ];
    const answer = await post(lines.join("\n"));
    const errors = [
      { error: "the line is no JSON", line: 3 },
      { error: "the project has no sensor nose; it has belly, left-eye", line: 5 },
      { error: "belly reports red, green, blue: 3 values, not 2", line: 6 },
    ];
    expect([answer.status, await answer.json()]).toEqual([200, { ...own, refused: 3, errors }]);
    expect((await page.next())?.data).toMatchObject({
      s: "belly",
      t: [20, null, null],
      v: [
        [1, 2, 3],
        [4, 5, 6000],
        [1, 2],
      ],
    });
    // The page hears of names that the project does not know, and asks whose they are.
    expect((await page.next())?.data).toMatchObject({ s: "nose", t: [40], v: [[7]] });
    const many = Array.from({ length: 20_000 }, (_, i) => `{"s":"belly","t":${i},"v":[${i % 1024},2,3]}`).join("\n");
    expect(await (await post(many, "text/plain")).json()).toEqual({
      readings: 20_000,
      refused: 0,
      beyond: 0,
      errors: [],
    });
    for (let heard = 0; heard < 20_000; ) heard += JSON.stringify(await page.next()).match(/\[\d+,2,3\]/g)?.length ?? 0;
    expect((await post("x\n".repeat(6 * 1024 * 1024))).status).toBe(413);
    page.leave();
  });

  it("takes no more while the page does not keep up, and nothing of what was refused is lost unsaid", async () => {
    const link = "link-00000000000e";
    const page = await watching(link);
    const body = Array.from(
      { length: 100_000 },
      (_, i) => `{"s":"belly","t":${i},"v":[100.0000001,200.0000002,300.0000003]}`,
    ).join("\n");
    const send = () =>
      fetch(at(`${link}/readings`), { method: "POST", headers: { "Content-Type": "application/jsonl" }, body });
    let answer = await send();
    for (let k = 0; k < 100 && answer.status === 200; k++) answer = await send();
    expect(await detail(answer)).toEqual([
      503,
      "the page that watches this link does not keep up; send these again later",
    ]);
    page.leave();
  });

  it("refuses what is no picture, or too large, in a sentence", async () => {
    const page = await watching("link-00000000000c");
    const to = "link-00000000000c";
    expect(await detail(await send(Buffer.from("nothing"), "image/png", to))).toEqual([
      422,
      "what was sent is no image/png",
    ]);
    expect(await detail(await send(png, "image/jpeg", to))).toEqual([422, "what was sent is no image/jpeg"]);
    expect(await detail(await send(Buffer.alloc(0), "image/webp", to))).toEqual([
      422,
      "what was sent is no image/webp",
    ]);
    expect((await send(png, "text/html", to)).status).toBe(415);
    expect(await detail(await send(Buffer.alloc(11 * 1024 * 1024), "image/png", to))).toEqual([
      413,
      "this picture has more than 10 MB, which is the most that is read",
    ]);
    expect((await send(png, "image/png", "elsewhere")).status).toBe(422);
    expect((await send(png, "image/png", to)).status).toBe(204);
    page.leave();
  });
});
