import type { TapeId } from "@perceptum/core/names";
import { emptyProject, type ProjectDocument } from "@perceptum/core/project";
import { noReadings } from "@perceptum/core/readings";
import { afterEach, beforeAll, beforeEach, describe, expect, it, vi } from "vitest";
import { contract } from "../../server/api";
import { FakeKept, FakePage, FakeWindow, fakeSurroundings } from "../fakes";
import { conflictOverruled, edited, gestureEnded, opened, restored, takenBack, undone } from "../store/document";
import { type AppStore, makeStore } from "../store/store";
import { Autosave } from "./Autosave";
import { Frames } from "./Frames";
import { Readings } from "./Readings";
import { remade } from "./remade";

interface Sent {
  url: string;
  revision: string;
  key: string;
  name: string;
  keepalive: boolean;
  answer(status: number, body?: object): Promise<void>;
}

/** A server that answers when it is told to. */
class FakeServer {
  requests: Sent[] = [];
  offline = false;

  readonly fetch = async (
    url: string,
    { headers, body, keepalive = false, signal }: RequestInit,
  ): Promise<Response> => {
    if (this.offline) throw new TypeError("Failed to fetch");
    const own = headers as Record<string, string>;
    const name = body instanceof Blob ? (JSON.parse(await body.text()) as ProjectDocument).name : "readings";
    return new Promise((done, fail) => {
      signal?.addEventListener("abort", () => fail(signal.reason));
      this.requests.push({
        url,
        revision: own["If-Match"],
        key: own["Idempotency-Key"],
        name,
        keepalive,
        answer: async (status, more = {}) => {
          const revision = Number(own["If-Match"]?.replace(/\D/g, "")) + 1;
          const problem = { type: "about:blank", title: "A problem", status, detail: "it is so" };
          const said = { ...(status < 400 ? { revision } : problem), ...more };
          done(status === 204 ? new Response(null, { status }) : new Response(JSON.stringify(said), { status }));
          await settled();
        },
      });
    });
  };
}

/** Lets everything that is due run, without time passing. */
const settled = () => vi.advanceTimersByTimeAsync(0);
beforeAll(contract);
const named = (name: string) => ({
  edit: { edit: "renameProject" as const, args: { name } },
  project: emptyProject(name),
  did: name,
});

let server: FakeServer;
let kept: FakeKept;
let window: FakeWindow;
let page: FakePage;
let store: AppStore;
let readings: Readings;
let frames: Frames;
let autosave: Autosave;

beforeEach(() => {
  vi.useFakeTimers();
  server = new FakeServer();
  kept = new FakeKept();
  window = new FakeWindow("w");
  page = new FakePage();
  vi.stubGlobal("fetch", server.fetch);
  store = makeStore();
  readings = new Readings("a", new AbortController().signal);
  frames = new Frames("a");
  const surroundings = fakeSurroundings({ kept, window, page });
  autosave = new Autosave({ store, project: "a", surroundings, readings, frames, editsBetween: () => undefined });
  store.dispatch(opened({ id: "a", project: emptyProject("0"), revision: 3 }));
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const saving = () => store.getState().document.saving;
const trouble = () => store.getState().document.trouble;
const keptName = () => kept.held[0] && remade(kept.held[0]).document.name;
const edit = (name: string) => store.dispatch(edited(named(name)));

describe("saving by itself", () => {
  it("sends the latest state, within a second, on the revision that it was made on", async () => {
    edit("1");
    await vi.advanceTimersByTimeAsync(300);
    edit("2");
    expect(server.requests).toEqual([]);
    await vi.advanceTimersByTimeAsync(500);
    expect(server.requests).toMatchObject([{ revision: '"3"', name: "2" }]);
    await server.requests[0].answer(200);
    expect(saving()).toBe("saved");
  });

  it("has one request at a time, and sends what was changed meanwhile after it", async () => {
    edit("1");
    await vi.advanceTimersByTimeAsync(500);
    edit("2");
    await vi.advanceTimersByTimeAsync(2000);
    expect(server.requests).toHaveLength(1);
    await server.requests[0].answer(200);
    expect(saving()).toBe("saving");
    expect(server.requests[1]).toMatchObject({ revision: '"4"', name: "2" });
    await server.requests[1].answer(200);
    expect(saving()).toBe("saved");
  });

  it("sends nothing where nothing was changed", async () => {
    await vi.advanceTimersByTimeAsync(10_000);
    expect(server.requests).toEqual([]);
  });

  it("repeats a change whose answer was lost with the same id, and another change with another", async () => {
    edit("1");
    await vi.advanceTimersByTimeAsync(400);
    // No answer within the limit.
    await vi.advanceTimersByTimeAsync(10_000 + 1000);
    expect(server.requests).toHaveLength(2);
    expect(server.requests[1]).toMatchObject({ revision: '"3"', key: server.requests[0].key });
    await server.requests[1].answer(200, { revision: 4 });
    expect(saving()).toBe("saved");
    edit("2");
    await vi.advanceTimersByTimeAsync(400);
    expect(server.requests[2].key).not.toBe(server.requests[0].key);
  });

  it("is no conflict where an own earlier request made the revision that stands in the way", async () => {
    edit("1");
    await vi.advanceTimersByTimeAsync(400);
    // The server hangs: no answer within the limit, and something more is changed.
    await vi.advanceTimersByTimeAsync(10_000);
    edit("2");
    await vi.advanceTimersByTimeAsync(1000);
    expect(server.requests.map(({ name }) => name)).toEqual(["1", "2"]);
    const [first, second] = server.requests;
    await second.answer(412, { detail: "it was changed elsewhere", revision: 4, send: first.key });
    await vi.advanceTimersByTimeAsync(0);
    expect(server.requests[2]).toMatchObject({ revision: '"4"', name: "2" });
    await server.requests[2].answer(200);
    expect(saving()).toBe("saved");
    // One that somebody else made is one.
    edit("3");
    await vi.advanceTimersByTimeAsync(400);
    await server.requests[3].answer(412, { detail: "it was changed elsewhere", revision: 9, send: "of-somebody-else" });
    expect(saving()).toBe("conflict");
  });

  it("tries again in growing pauses while the server cannot be reached", async () => {
    server.offline = true;
    edit("1");
    await vi.advanceTimersByTimeAsync(500);
    expect(saving()).toBe("failed");
    await vi.advanceTimersByTimeAsync(20_000);
    server.offline = false;
    await vi.advanceTimersByTimeAsync(15_000);
    expect(server.requests).toHaveLength(1);
    await server.requests[0].answer(200);
    expect(saving()).toBe("saved");
  });

  it("waits where the server has trouble of its own, and says what it says", async () => {
    edit("1");
    await vi.advanceTimersByTimeAsync(400);
    await server.requests[0].answer(507, { detail: "the disk of the server is full" });
    expect(saving()).toBe("failed");
    expect(trouble()).toBe(
      "The disk of the server is full. Your changes are kept in this browser and sent as soon as it goes.",
    );
    await vi.advanceTimersByTimeAsync(1000);
    await server.requests[1].answer(200);
    expect(saving()).toBe("saved");
  });
});

describe("what the browser keeps", () => {
  it("is every change before the next one, and nothing once it is saved", async () => {
    edit("1");
    await settled();
    expect(keptName()).toBe("1");
    await vi.advanceTimersByTimeAsync(400);
    // While one is on its way, the next ones are kept, too.
    edit("2");
    await settled();
    expect(keptName()).toBe("2");
    store.dispatch(undone(1));
    await settled();
    expect(keptName()).toBe("1");
    await server.requests[0].answer(200);
    await settled();
    expect([saving(), kept.held.length]).toEqual(["saved", 0]);
  });

  it("of a drag is its end, not every move", async () => {
    const keep = vi.spyOn(kept, "keep");
    for (const name of ["1", "2", "3"]) {
      store.dispatch(edited({ ...named(name), gesture: { by: "drag", of: "a bound" } }));
      await settled();
    }
    expect(keep).not.toHaveBeenCalled();
    store.dispatch(gestureEnded());
    await settled();
    expect([keep.mock.calls.length, keptName()]).toEqual([1, "3"]);
  });

  it("is said to be kept only when it is", async () => {
    server.offline = true;
    kept.full = true;
    edit("1");
    await vi.advanceTimersByTimeAsync(500);
    expect(trouble()).toContain("could not keep your changes");
    expect(page.asks).toBe(true);
    kept.full = false;
    edit("2");
    await vi.advanceTimersByTimeAsync(31_000);
    expect(trouble()).toContain("are kept in this browser");
    expect(page.asks).toBe(false);
  });

  it("are also readings that the server does not have, until it has them", async () => {
    const tape = "tape-new" as TapeId;
    readings.add(tape, noReadings(["r", "g", "b"]));
    const project = emptyProject("1");
    const head = { id: tape, name: "New", sensor: project.sensors[0].id, origin: "bench" as const, marks: [] };
    store.dispatch(edited({ ...named("taped"), project: { ...project, tapes: [head] } }));
    await settled();
    expect([...kept.tapes.keys()]).toEqual(["a tape-new"]);
    await vi.advanceTimersByTimeAsync(400);
    expect(server.requests.map((r) => r.url)).toEqual(["/api/projects/a/tapes/tape-new/readings"]);
    await server.requests[0].answer(204);
    expect(server.requests.map((r) => r.name)).toEqual(["readings", "1"]);
    // The server has lost them meanwhile: they are sent once more, and the change after them.
    await server.requests[1].answer(409, { detail: "no readings", missing: [tape] });
    await server.requests[2].answer(204);
    expect(server.requests.map((r) => r.name)).toEqual(["readings", "1", "readings", "1"]);
    await server.requests[3].answer(200, { revision: 4 });
    await settled();
    expect([saving(), kept.tapes.size]).toEqual(["saved", 0]);
  });
});

it("frames that the server does not have are kept and sent before the document that names them, and then forgotten", async () => {
  const names = ["a", "b", "c", "d", "e"].map((letter) => letter.repeat(64));
  for (const name of names) frames.add(name, new Uint8Array([1]));
  const project = emptyProject("1");
  const head = {
    id: "tape-new" as TapeId,
    name: "New",
    sensor: project.sensors[0].id,
    origin: "import" as const,
    marks: [],
    frames: names,
  };
  store.dispatch(edited({ ...named("taped"), project: { ...project, tapes: [head] } }));
  await settled();
  expect(kept.frames.size).toBe(5);
  await vi.advanceTimersByTimeAsync(400);
  // Four at a time.
  expect(server.requests.map((r) => r.url)).toEqual(names.slice(0, 4).map((name) => `/api/projects/a/frames/${name}`));
  for (const request of server.requests.slice(0, 4)) await request.answer(204);
  await server.requests[4].answer(204);
  expect(server.requests.map((r) => r.name).slice(5)).toEqual(["1"]);
  expect(frames.unsent.size).toBe(0);
  await server.requests[5].answer(200, { revision: 4 });
  await settled();
  expect([saving(), kept.frames.size]).toEqual(["saved", 0]);
});

describe("what the server refuses", () => {
  const refusedWith = async (status: number) => {
    edit("1");
    await vi.advanceTimersByTimeAsync(400);
    await server.requests[0].answer(status);
    await vi.advanceTimersByTimeAsync(120_000);
    expect(server.requests).toHaveLength(1);
    expect(keptName()).toBe("1");
    return saving();
  };

  it.each([400, 409, 413, 422])(
    "with %i is not sent for ever, but again when something was changed",
    async (status) => {
      expect(await refusedWith(status)).toBe("refused");
      expect(trouble()).toBe("It is so.");
      edit("2");
      await vi.advanceTimersByTimeAsync(400);
      expect(server.requests[1].name).toBe("2");
    },
  );

  it("can be taken back to the last saved state, and brought back from there", async () => {
    await refusedWith(422);
    store.dispatch(takenBack());
    expect([saving(), store.getState().document.present?.name]).toEqual(["saved", "0"]);
    store.dispatch(undone(1));
    expect([saving(), store.getState().document.present?.name]).toEqual(["unsaved", "1"]);
  });

  it("because the project is gone is not sent again at all", async () => {
    expect(await refusedWith(404)).toBe("gone");
    edit("2");
    await vi.advanceTimersByTimeAsync(5000);
    expect([saving(), server.requests.length, keptName()]).toEqual(["gone", 1, "2"]);
  });

  it("because it was changed elsewhere waits until the person has chosen", async () => {
    expect(await refusedWith(412)).toBe("conflict");
    edit("2");
    await vi.advanceTimersByTimeAsync(5000);
    expect(server.requests).toHaveLength(1);
    store.dispatch(conflictOverruled(9));
    await vi.advanceTimersByTimeAsync(500);
    expect(server.requests[1]).toMatchObject({ revision: '"9"', name: "2" });
  });

  it("comes up the same way for work that was restored", async () => {
    store.dispatch(restored({ project: emptyProject("old"), revision: 1 }));
    await vi.advanceTimersByTimeAsync(400);
    expect(server.requests[0]).toMatchObject({ revision: '"1"', name: "old" });
    await server.requests[0].answer(412);
    expect(saving()).toBe("conflict");
  });
});

describe("leaving", () => {
  it("a project sends at once what waits, though another one is opened meanwhile", async () => {
    edit("1");
    const left = autosave.leave();
    store.dispatch(opened({ id: "b", project: emptyProject("B"), revision: 7 }));
    await settled();
    expect(server.requests).toMatchObject([{ url: "/api/projects/a", name: "1", revision: '"3"' }]);
    await server.requests[0].answer(200);
    await left;
    await settled();
    expect(kept.held.length).toBe(0);
    expect(store.getState().document).toMatchObject({ id: "b", revision: 7, saving: "saved" });
  });

  it("a project while a change is on its way sends the one that was made after it", async () => {
    edit("1");
    await vi.advanceTimersByTimeAsync(400);
    edit("2");
    const left = autosave.leave();
    store.dispatch(opened({ id: "b", project: emptyProject("B"), revision: 7 }));
    await server.requests[0].answer(200);
    await settled();
    expect(server.requests[1]).toMatchObject({ name: "2", revision: '"4"' });
    await server.requests[1].answer(200);
    await left;
    await settled();
    expect(kept.held.length).toBe(0);
  });

  it("a project whose server hangs goes on after some seconds; the change stays in the browser", async () => {
    edit("1");
    let gone = false;
    void autosave.leave().then(() => {
      gone = true;
    });
    store.dispatch(opened({ id: "b", project: emptyProject("B"), revision: 7 }));
    await vi.advanceTimersByTimeAsync(4000);
    expect(gone).toBe(false);
    await vi.advanceTimersByTimeAsync(2000);
    expect(gone).toBe(true);
    await vi.advanceTimersByTimeAsync(60_000);
    expect([keptName(), server.requests.length, saving()]).toEqual(["1", 1, "saved"]);
  });

  it("the page sends at once, in a request that outlives it", async () => {
    edit("1");
    page.hide();
    // Noted at once: nothing that takes time is sure to be done.
    expect(window.left).toMatchObject({ project: "a", window: "w", revision: 3, base: { name: "1" }, edits: [] });
    await settled();
    expect(server.requests).toMatchObject([{ name: "1", keepalive: true, key: window.left?.send }]);
    expect(keptName()).toBe("1");
  });

  it("with changes that are kept elsewhere sends nothing and keeps nothing", async () => {
    edit("1");
    await settled();
    autosave.drop();
    await vi.advanceTimersByTimeAsync(5000);
    expect([server.requests.length, kept.held.length]).toEqual([0, 0]);
  });
});
