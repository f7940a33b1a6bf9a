import { glasshouseRound } from "@perceptum/core/demo";
import type { EditName } from "@perceptum/core/edits";
import { emptyProject, type ProjectDocument, splitProject } from "@perceptum/core/project";
import { encodeReadings, type RawReadings } from "@perceptum/core/readings";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { DRAWN, Draw } from "../../../../core/edits/arbitrary";
import { FakeKept, FakePage, FakeWindow, fakeSurroundings, SilentWorker, workerOf } from "../fakes";
import { StandStream } from "../live/StandStream";
import { Sweeps } from "../runs/Sweeps";
import { gestureEnded, undone } from "../store/document";
import { type AppStore, makeStore } from "../store/store";
import type { Surroundings } from "../surroundings";
import type { Editing } from "./Editing";
import type { KeptChange } from "./kept";
import type { ProjectSession } from "./ProjectSession";
import { remade } from "./remade";
import { Sessions } from "./Sessions";

const { document: demo, readings } = splitProject(glasshouseRound());

/** A server with projects; answers to what is asked can be held back. */
class FakeServer {
  projects = new Map<string, { document: ProjectDocument; revision: number }>();
  tapes = new Map<string, RawReadings>();
  asked: string[] = [];
  keys: string[] = [];
  held: (() => void)[] = [];
  holding = false;

  readonly fetch = async (url: string, init: RequestInit = {}): Promise<Response> => {
    const method = init.method ?? "GET";
    this.asked.push(`${method} ${url}`);
    if (this.holding)
      await new Promise<void>((done, fail) => {
        init.signal?.addEventListener("abort", () => fail(init.signal?.reason));
        this.held.push(done);
      });
    const [, id, tape] = /projects\/(\w+)(?:\/tapes\/([\w-]+)\/readings)?$/.exec(url) ?? [];
    const project = this.projects.get(id);
    if (project === undefined) return new Response(JSON.stringify({ detail: "not there" }), { status: 404 });
    if (tape !== undefined) {
      if (method === "PUT") this.tapes.set(tape, { t: new Float64Array(), channels: {} });
      const raw = this.tapes.get(tape);
      return method === "PUT" || raw === undefined
        ? new Response(null, { status: raw ? 204 : 404 })
        : new Response(encodeReadings(raw));
    }
    if (method !== "PUT")
      return new Response(JSON.stringify(project.document), { headers: { ETag: `"${project.revision}"` } });
    this.keys.push((init.headers as Record<string, string>)["Idempotency-Key"]);
    project.document = JSON.parse(await (init.body as Blob).text()) as ProjectDocument;
    project.revision++;
    return new Response(JSON.stringify({ revision: project.revision }));
  };
  release(): void {
    this.holding = false;
    for (const go of this.held.splice(0)) go();
  }
}

let server: FakeServer;
let store: AppStore;
let sessions: Sessions;
let kept: FakeKept;
let alive: Set<string>;
let window: FakeWindow;
let workers: SilentWorker[];
let surroundings: Surroundings;

beforeEach(() => {
  vi.useFakeTimers();
  server = new FakeServer();
  server.projects.set("demo", { document: demo, revision: 4 });
  server.projects.set("other", { document: emptyProject("Other"), revision: 1 });
  for (const [tape, raw] of readings) server.tapes.set(tape, raw);
  vi.stubGlobal("fetch", server.fetch);
  kept = new FakeKept();
  alive = new Set();
  window = new FakeWindow("now", null, alive);
  // What is asked of workers must end with the session: they never answer.
  workers = [];
  const startWorker = () => {
    const made = new SilentWorker();
    workers.push(made);
    return made as unknown as Worker;
  };
  surroundings = fakeSurroundings({ kept, window, startWorker });
  store = makeStore();
  sessions = new Sessions(store, surroundings);
});
afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const opened = async (id: string): Promise<ProjectSession> => {
  const session = sessions.make(id);
  const opening = sessions.open(session);
  await vi.advanceTimersByTimeAsync(0);
  await opening;
  await session.prepare();
  return session;
};
const never = () => new Promise<never>(() => undefined);
const settled = (ms = 0) => vi.advanceTimersByTimeAsync(ms);
const name = () => store.getState().document.present?.name;

describe("what fails while a project is open is told", () => {
  const broken = () => {
    throw new Error("no light");
  };
  const answers = { begin() {}, setReadings() {}, setProject() {}, compareWith() {}, judge: broken, findings: broken };
  const openedWith = (startWorker: Surroundings["startWorker"]) => {
    sessions = new Sessions(store, { ...surroundings, startWorker });
    return opened("demo");
  };

  it("where a worker throws as it judges", async () => {
    const session = await openedWith(() => workerOf(answers));
    await vi.waitFor(() => expect(session.notice.get()).not.toBeNull());
    expect(session.notice.get()).toBe(
      "The readings could not be judged (no light). What is shown may be older; your project is untouched.",
    );
    // It is asked again with the next change.
    session.notice.set(null);
    session.do("renameProject", { name: "Again" });
    await vi.waitFor(() => expect(session.notice.get()).toContain("no light"));
    sessions.leave(session);
  });

  it("where a worker throws as it looks for findings", async () => {
    const session = await openedWith((name) => workerOf(name === "mentor" ? answers : { ...answers, judge: never }));
    session.mentor.advise(demo, null);
    await vi.waitFor(() => expect(session.notice.get()).toContain("Findings could not be worked out (no light)."));
    sessions.leave(session);
  });

  it("where what makes an edit does not come", async () => {
    const session = sessions.make("demo");
    const opening = sessions.open(session);
    await settled();
    await opening;
    const editing = (session as unknown as { editing: Editing }).editing;
    Object.assign(editing, { prepare: never });
    session.do("renameProject", { name: "Waits" });
    await settled(2999);
    expect(session.notice.get()).toBeNull();
    await settled(1);
    expect(session.notice.get()).toContain("Your change waits for a part of the page");
    expect(name()).toBe("Glasshouse round");
    // Who leaves does not wait for ever.
    sessions.leave(session);
    await settled(4999);
    expect(session.isOpen).toBe(true);
    await settled(1);
    expect(session.isOpen).toBe(false);
  });

  it("where nothing else caught it, as long as it is open", async () => {
    const page = new FakePage();
    sessions = new Sessions(store, { ...surroundings, page });
    const session = await opened("demo");
    page.fail(new Error("no ink"));
    expect(session.notice.get()).toContain("Something failed (no ink).");
    session.notice.set(null);
    sessions.leave(session);
    page.fail(new Error("no ink"));
    expect(session.notice.get()).toBeNull();
  });
});

describe("a session", () => {
  it("has the project, its readings and its judge when it is open", async () => {
    const session = await opened("demo");
    expect([name(), store.getState().document.revision]).toEqual(["Glasshouse round", 4]);
    expect([...session.readings.all.keys()]).toEqual([...readings.keys()]);
    expect(session.marked.get()).toHaveLength(2);
    expect(session.marked.get()).toBe(session.marked.get());
    expect(workers).toHaveLength(1);
  });

  it("that is left while it loads brings nothing into the one that comes after it", async () => {
    server.holding = true;
    const first = sessions.make("demo");
    const opening = sessions.open(first).catch((error: Error) => error.name);
    await settled();
    sessions.leave(first);
    server.holding = false;
    const second = await opened("other");
    server.release();
    await settled(100);
    expect(await opening).toBe("AbortError");
    expect([name(), first.isOpen, second.isOpen]).toEqual(["Other", false, true]);
    expect([...second.readings.all.keys()]).toEqual([]);
  });

  it("that is left changes nothing any more, and its workers end", async () => {
    const first = await opened("demo");
    const asked = first.mentor.run(demo, { course: "aisle" }).catch((error: Error) => error.message);
    const suggested = first.teacher.suggest(demo, demo.ruleSets[0].id).catch((error: Error) => error.message);
    const sweeping = first.service(Sweeps).start(demo, {
      course: "aisle",
      start: ["South door"],
      light: [demo.lights[0].id],
      speed: [1],
      height: [0],
      noise: [1],
      seeds: 10,
    });
    await settled();
    sessions.leave(first);
    await opened("other");
    first.do("renameProject", { name: "Too late" });
    first.changeTapes({ did: "too late", made: [] });
    expect([await asked, await suggested]).toEqual(["this was cancelled", "this was cancelled"]);
    await sweeping;
    expect(first.service(Sweeps).sweeping.get()?.ended).toBe("cancelled");
    expect(workers.slice(0, -1).every((worker) => worker.ended)).toBe(true);
    expect(workers.at(-1)?.ended).toBe(false);
    expect(name()).toBe("Other");
    await settled(2000);
    expect(server.projects.get("demo")?.document).toEqual(demo);
  });

  it("takes one change before it can make it; a second would undo it, and is refused", async () => {
    const session = sessions.make("demo");
    const opening = sessions.open(session);
    await settled();
    await opening;
    const moved = (course: number, x: number) => ({
      course: demo.courses[course].id,
      change: { size: [x, 4000] as [number, number] },
    });
    // More moves of a drag are taken, and what was dragged before them stays.
    session.do("changeCourse", moved(1, 3900), "drag");
    for (const x of [4000, 4100]) expect(session.do("changeCourse", moved(0, x), "drag")).toBeUndefined();
    const tooSoon = /^Nothing was changed: the change before this one is not made yet/;
    expect(session.do("changeCourse", moved(0, 4200), "keys")).toMatch(tooSoon);
    expect(session.do("renameProject", { name: "Again" })).toMatch(tooSoon);
    expect(session.notice.get()).toMatch(tooSoon);
    // A tape is not lost, not even by who leaves at once.
    const { sensor } = demo.tapes[0];
    const [walk] = readings.values();
    session.changeTapes({
      did: "walk recorded",
      made: [{ name: "Walk", sensor, readings: walk, marks: [], origin: "bench" }],
    });
    sessions.leave(session);
    await opened("demo");
    const { present } = store.getState().document;
    expect(present?.courses.slice(0, 2).map(({ size }) => size)).toEqual([
      [4100, 4000],
      [3900, 4000],
    ]);
    expect(present?.tapes.at(-1)?.name).toBe("Walk");
    expect(name()).toBe("Glasshouse round");
  });

  it("tells at once why its first edit is not made, where another project was open before", async () => {
    sessions.leave(await opened("other"));
    const second = sessions.make("demo");
    const opening = sessions.open(second);
    await settled();
    await opening;
    expect(second.do("renameProject", { name: "" })).toMatch(/^Nothing was changed: /);
    expect(second.notice.get()).toBeNull();
  });

  it("sends its last change when it is left, and is opened again only after that", async () => {
    const first = await opened("demo");
    first.do("renameProject", { name: "Renamed" });
    sessions.leave(first);
    await opened("demo");
    expect([name(), store.getState().document.revision]).toEqual(["Renamed", 5]);
  });
});

describe("a browser that cannot keep work", () => {
  it("is told of where it does not say what an earlier visit left; the project opens", async () => {
    kept.broken = true;
    const session = await opened("demo");
    await settled();
    expect(session.notice.get()).toMatch(
      /^This browser did not tell whether an earlier visit left (unsent changes|recordings) \(the store is damaged\)/,
    );
    expect(name()).toBe("Glasshouse round");
  });

  it("is told of once where it has no room for what is being recorded", async () => {
    const session = await opened("demo");
    const { sensors } = store.getState().document.present as ProjectDocument;
    kept.full = true;
    let told = 0;
    session.notice.subscribe(() => told++);
    const readings = {
      t: Float64Array.of(0),
      channels: { r: Float64Array.of(1), g: Float64Array.of(1), b: Float64Array.of(1) },
    };
    session.beginRecording({ name: "Walk", sensor: sensors[0].id, origin: "bench" }, () => ({ readings, marks: [] }));
    await settled(20_000);
    expect(session.notice.get()).toMatch(/^What is being recorded cannot be kept in this browser \(no room\)/);
    expect(told).toBe(1);
  });
});

describe("what the browser keeps of a project", () => {
  it("is what the server acknowledged and the edits since; made again, they give the same bytes", async () => {
    const session = await opened("demo");
    const { base } = store.getState().document;
    server.holding = true;
    const draw = new Draw(7);
    for (let i = 0; i < 60; i++) {
      const { present } = store.getState().document;
      const edit = present && DRAWN[draw.of(Object.keys(DRAWN) as EditName[])](present, draw);
      if (edit != null) session.do(edit.edit, edit.args as never, draw.share() < 0.2 ? "drag" : undefined);
    }
    store.dispatch(gestureEnded());
    session.do("renameProject", { name: "Twice" });
    await settled();
    const { present } = store.getState().document;
    expect(kept.held).toMatchObject([{ revision: 4, base: { name: "Glasshouse round" } }]);
    expect(kept.held[0].base).toEqual(base);
    expect(kept.held[0].edits.length).toBeGreaterThan(20);
    expect(kept.held[0].edits.at(-1)).toEqual({ edit: "renameProject", args: { name: "Twice" } });
    expect(JSON.stringify(remade(kept.held[0]).document)).toBe(JSON.stringify(present));
  });

  it("goes back with undo, also behind what was acknowledged, and says what cannot be made again", async () => {
    const session = await opened("demo");
    session.do("renameProject", { name: "Once" });
    await settled(1000);
    expect(kept.held).toEqual([]);
    server.holding = true;
    session.do("renameProject", { name: "Twice" });
    await settled();
    expect(kept.held).toMatchObject([{ revision: 5, base: { name: "Once" }, edits: [{ args: { name: "Twice" } }] }]);
    store.dispatch(undone(2));
    await settled();
    expect(kept.held).toMatchObject([{ revision: 5, base: { name: "Glasshouse round" }, edits: [] }]);
    session.do("renameProject", { name: "Anew" });
    await settled();
    expect(kept.held).toMatchObject([{ base: { name: "Glasshouse round" }, edits: [{ args: { name: "Anew" } }] }]);
    const foreign = { edit: "turnEverything", args: {} } as never;
    expect(remade({ ...kept.held[0], edits: [foreign, ...kept.held[0].edits] })).toMatchObject({
      document: { name: "Anew" },
      lost: 1,
    });
  });
});

describe("a change that was refused", () => {
  it("and taken back is not offered at the next visit; undo still has it, and it is kept again", async () => {
    const session = await opened("demo");
    session.do("renameProject", { name: "Refused" });
    vi.stubGlobal("fetch", async () => new Response(JSON.stringify({ detail: "it is so" }), { status: 422 }));
    await settled(1000);
    expect([store.getState().document.saving, kept.held.map((k) => remade(k).document.name)]).toEqual([
      "refused",
      ["Refused"],
    ]);
    await session.takeBack();
    expect([name(), kept.held]).toEqual(["Glasshouse round", []]);
    store.dispatch(undone(1));
    await settled();
    expect([name(), kept.held.map((k) => remade(k).document.name)]).toEqual(["Refused", ["Refused"]]);
  });
});

describe("a project that the server gives", () => {
  it("is checked once it is shown, and what is none is told", async () => {
    const session = await opened("demo");
    await session.prepare();
    expect(session.notice.get()).toBeNull();
    const held = server.projects.get("demo");
    if (held === undefined) throw new Error("there is no demo");
    held.document = { ...held.document, rails: 1 } as never;
    const wrong = await opened("demo");
    await wrong.prepare();
    expect(wrong.notice.get()).toMatch(/^The server answered something that this page does not understand/);
  });
});

describe("a judge that cannot be loaded", () => {
  it("is tried again a few times, then at the next change", async () => {
    const session = await opened("demo");
    for (let i = 0; i < 10; i++) {
      workers.at(-1)?.dispatchEvent(new Event("error"));
      await settled();
    }
    expect(workers).toHaveLength(3);
    expect(session.notice.get()).toContain("its code could not be loaded");
    session.do("renameProject", { name: "Renamed" });
    await settled();
    expect(workers).toHaveLength(4);
  });
});

describe("tapes", () => {
  const tape = (label: string) => ({
    name: label,
    sensor: demo.sensors[0].id,
    origin: "bench" as const,
    readings: {
      t: new Float64Array(2),
      channels: { r: new Float64Array(2), g: new Float64Array(2), b: new Float64Array(2) },
    },
    marks: [],
  });

  it("of one name have ids of their own, and are chosen when they come", async () => {
    const session = await opened("demo");
    session.changeTapes({ did: "one", made: [tape("Belly")] });
    session.changeTapes({ did: "two", made: [tape("Belly")] });
    const heads = store.getState().document.present?.tapes.slice(-2) ?? [];
    expect(heads.map((head) => head.name)).toEqual(["Belly", "Belly"]);
    expect(new Set(heads.map((head) => head.id)).size).toBe(2);
    expect(store.getState().view.tape).toBe(heads[1].id);
    expect([...session.readings.unsent]).toEqual(heads.map((head) => head.id));
    await settled(500);
    expect([...session.readings.unsent]).toEqual([]);
    const puts = server.asked.filter((line) => line.startsWith("PUT") && !line.endsWith("opened"));
    // The readings first, then the document that names them.
    expect(puts.map((line) => line.split("/").at(-1))).toEqual(["readings", "readings", "demo"]);
  });

  it("take the place of those that go", async () => {
    const session = await opened("demo");
    const [first, second] = demo.tapes;
    session.changeTapes({ did: "trimming", made: [tape("Shorter")], gone: [first.id] });
    const heads = store.getState().document.present?.tapes ?? [];
    expect(heads.map((head) => head.name)).toEqual(["Shorter", second.name]);
  });

  it("that undo takes away are not looked at any more", async () => {
    const session = await opened("demo");
    session.changeTapes({ did: "one", made: [tape("Belly")] });
    store.dispatch(undone(1));
    expect(store.getState().view.tape).toBe(demo.tapes[1].id);
  });

  it("that are being recorded when the project is left are kept", async () => {
    const session = await opened("demo");
    session.bench.start((live) => new StandStream(demo.sensors[0], demo, store.getState().sense.stand, live));
    session.toggleRecording();
    await settled(1000);
    expect(session.bench.live.get().recording?.count).toBeGreaterThan(20);
    sessions.leave(session);
    await settled(500);
    const tapes = server.projects.get("demo")?.document.tapes ?? [];
    expect(tapes).toHaveLength(3);
    expect(tapes[2].name).toContain("Belly sensor");
  });

  it("show their last seconds while they are recorded, however long that is", async () => {
    const session = await opened("demo");
    session.bench.start((live) => new StandStream(demo.sensors[0], demo, store.getState().sense.stand, live));
    session.toggleRecording();
    await settled(90_000);
    const { recording } = session.bench.live.get();
    expect(recording?.count).toBeGreaterThan(4000);
    expect(recording?.readings.t.length).toBeLessThanOrEqual(1500);
    session.toggleRecording();
    const head = store.getState().document.present?.tapes.at(-1);
    expect(head && session.readings.get(head.id)?.t.length).toBe(recording?.count);
  });
});

describe("work that an earlier visit left unsent", () => {
  const unsent = (window: string, change: Partial<KeptChange> = {}): KeptChange => ({
    project: "demo",
    window,
    revision: 4,
    base: { ...demo, name: `From ${window}` },
    edits: [],
    at: 1,
    ...change,
  });

  it("is offered, the latest of it, unless the server has it or another window keeps it", async () => {
    // The server puts fields into the order of its schema.
    const turned = Object.fromEntries(Object.entries(demo).reverse()) as ProjectDocument;
    kept.held = [
      unsent("old", { at: 1 }),
      unsent("latest", { at: 3 }),
      unsent("alive", { at: 9 }),
      unsent("same", { at: 8, base: turned }),
    ];
    alive.add("alive");
    const session = await opened("demo");
    await settled();
    expect(session.earlier.unsent.get()?.window).toBe("latest");
    expect(kept.held.map((k) => k.window).sort()).toEqual(["alive", "latest", "old"]);
  });

  it("of the same window, loaded anew, goes on where it was, by the id that it is sent by", async () => {
    const before = window.name;
    kept.held = [unsent(before, { send: "the-id" })];
    sessions = new Sessions(store, { ...surroundings, window: window.loadedAnew("anew") });
    const session = await opened("demo");
    await settled();
    expect([session.earlier.unsent.get(), name()]).toEqual([null, `From ${before}`]);
    await settled(500);
    expect(server.keys).toContain("the-id");
    expect(kept.held).toEqual([]);
  });

  it("goes on, too, where the page was gone before the browser had kept it or let go of its lock", async () => {
    const left = unsent(window.name, { send: "the-id" });
    window.leave(left);
    alive.add(window.name);
    const anew = window.loadedAnew("anew");
    sessions = new Sessions(store, { ...surroundings, window: anew });
    const session = await opened("demo");
    await settled();
    expect([session.earlier.unsent.get(), name()]).toEqual([null, left.base.name]);
    await settled(500);
    expect(server.keys).toContain("the-id");
    // It is taken up once.
    expect(anew.takeLeft("demo")).toBeNull();
  });

  it("of the same window is offered as any other where somebody saved since", async () => {
    const before = window.name;
    kept.held = [unsent(before, { revision: 3 })];
    sessions = new Sessions(store, { ...surroundings, window: window.loadedAnew("anew") });
    const session = await opened("demo");
    await settled();
    expect([session.earlier.unsent.get()?.window, name()]).toEqual([before, "Glasshouse round"]);
  });

  it("of several visits is offered one after the other, and none is forgotten unasked", async () => {
    kept.held = [unsent("first", { at: 1 }), unsent("second", { at: 2 })];
    const session = await opened("demo");
    await settled();
    const offered = [];
    for (let left = session.earlier.unsent.get(); left !== null; left = session.earlier.unsent.get()) {
      offered.push(left.window);
      await session.earlier.discard(left);
    }
    expect([offered, kept.held]).toEqual([["second", "first"], []]);

    kept.held = [unsent("first", { at: 1 }), unsent("second", { at: 2 })];
    const again = await opened("demo");
    await settled();
    await again.earlier.restore(remade(kept.held[1]));
    expect(kept.held.map((k) => remade(k).document.name).sort()).toEqual(["From first", "From second"]);
    expect(kept.held.some((k) => k.window === "second")).toBe(false);
  });

  it("stays where it was until this window has kept it", async () => {
    kept.held = [unsent("old")];
    const session = await opened("demo");
    await settled();
    kept.full = true;
    await session.earlier.restore(remade(kept.held[0]));
    expect([name(), kept.held.map((k) => k.window)]).toEqual(["From old", ["old"]]);
  });

  it("comes back on the revision that it was made on", async () => {
    kept.held = [unsent("old", { revision: 2 })];
    const session = await opened("demo");
    await settled();
    const left = session.earlier.unsent.get();
    if (left === null) throw new Error("nothing was offered");
    await session.earlier.restore(left);
    expect(store.getState().document).toMatchObject({ revision: 2, saving: "unsaved" });
    expect(name()).toBe("From old");
    store.dispatch(undone(1));
    expect(name()).toBe("Glasshouse round");
  });

  it("is forgotten when it is discarded", async () => {
    kept.held = [unsent("old")];
    const session = await opened("demo");
    await settled();
    const left = session.earlier.unsent.get();
    if (left !== null) await session.earlier.discard(left);
    expect([session.earlier.unsent.get(), kept.held, name()]).toEqual([null, [], "Glasshouse round"]);
  });
});
