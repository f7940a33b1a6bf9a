import { emptyProject, type ProjectDocument } from "@perceptum/core/project";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { startAutosave } from "./autosave";
import { conflictOverruled, edited, opened } from "./document";
import { type AppStore, makeStore } from "./store";

/** A server that answers when it is told to. */
class FakeServer {
  requests: { revision: string; name: string; answer: (status: number) => Promise<void> }[] = [];
  offline = false;

  readonly fetch = async (
    _: string,
    { headers, body }: { headers: Record<string, string>; body: Blob },
  ): Promise<Response> => {
    if (this.offline) throw new TypeError("Failed to fetch");
    const { name } = JSON.parse(await body.text()) as ProjectDocument;
    return new Promise((done) => {
      this.requests.push({
        revision: headers["If-Match"],
        name,
        answer: async (status) => {
          done(new Response(JSON.stringify({ detail: "changed elsewhere" }), { status }));
          await settled();
        },
      });
    });
  };
}

/** Lets everything that is due run, without time passing. */
const settled = () => vi.advanceTimersByTimeAsync(0);
const named = (name: string) => ({ project: emptyProject(name), what: name });

let server: FakeServer;
let store: AppStore;

beforeEach(() => {
  vi.useFakeTimers();
  server = new FakeServer();
  vi.stubGlobal("fetch", server.fetch);
  vi.stubGlobal("window", { addEventListener() {} });
  store = makeStore();
  startAutosave(store);
  store.dispatch(opened({ id: "a", project: emptyProject("0"), revision: 3 }));
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const saving = () => store.getState().document.saving;

describe("saving by itself", () => {
  it("sends the latest state, within a second, on the revision that it was made on", async () => {
    store.dispatch(edited(named("1")));
    await vi.advanceTimersByTimeAsync(300);
    store.dispatch(edited(named("2")));
    expect(server.requests).toEqual([]);
    await vi.advanceTimersByTimeAsync(500);
    expect(server.requests).toMatchObject([{ revision: '"3"', name: "2" }]);
    await server.requests[0].answer(200);
    expect(saving()).toBe("saved");
  });

  it("has one request at a time, and sends what was changed meanwhile after it", async () => {
    store.dispatch(edited(named("1")));
    await vi.advanceTimersByTimeAsync(500);
    store.dispatch(edited(named("2")));
    await vi.advanceTimersByTimeAsync(2000);
    expect(server.requests).toHaveLength(1);
    await server.requests[0].answer(200);
    expect(saving()).toBe("unsaved");
    await vi.advanceTimersByTimeAsync(500);
    expect(server.requests[1]).toMatchObject({ revision: '"4"', name: "2" });
    await server.requests[1].answer(200);
    expect(saving()).toBe("saved");
  });

  it("sends nothing more in a conflict until the person has chosen", async () => {
    store.dispatch(edited(named("1")));
    await vi.advanceTimersByTimeAsync(500);
    await server.requests[0].answer(412);
    expect(saving()).toBe("conflict");
    store.dispatch(edited(named("2")));
    await vi.advanceTimersByTimeAsync(5000);
    expect(server.requests).toHaveLength(1);
    store.dispatch(conflictOverruled(9));
    await vi.advanceTimersByTimeAsync(500);
    expect(server.requests[1]).toMatchObject({ revision: '"9"', name: "2" });
  });

  it("tries again while the server cannot be reached", async () => {
    server.offline = true;
    store.dispatch(edited(named("1")));
    await vi.advanceTimersByTimeAsync(500);
    expect(saving()).toBe("failed");
    await vi.advanceTimersByTimeAsync(4000);
    expect(saving()).toBe("failed");
    server.offline = false;
    await vi.advanceTimersByTimeAsync(4000);
    await server.requests[0].answer(200);
    expect(saving()).toBe("saved");
  });

  it("sends nothing where nothing was changed", async () => {
    await vi.advanceTimersByTimeAsync(10_000);
    expect(server.requests).toEqual([]);
  });
});
