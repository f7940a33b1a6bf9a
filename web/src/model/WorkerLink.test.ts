import type { Remote } from "comlink";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { type Thread, WorkerGone, WorkerLink } from "./WorkerLink";

/** A worker as the page sees it; what it answers is decided by the test through `remote`. */
class FakeWorker extends EventTarget {
  ended = false;
  postMessage(): void {}
  terminate(): void {
    this.ended = true;
  }
  die(message: string): void {
    this.dispatchEvent(Object.assign(new Event("error"), { message }));
  }
}

let made: FakeWorker[];
let told: string[];
let link: WorkerLink<object>;
const make = () => {
  const worker = new FakeWorker();
  made.push(worker);
  return worker as unknown as Worker;
};
const never = () => new Promise<never>(() => undefined);

beforeEach(() => {
  vi.useFakeTimers();
  made = [];
  told = [];
  link = new WorkerLink(make, {
    limitMs: 1000,
    prepare: async (_: Remote<object>) => told.push(`prepared ${made.length}`),
    broke: (message) => told.push(message),
  });
});
afterEach(() => vi.useRealTimers());

describe("a link to a worker", () => {
  it("makes it when it is first asked, and prepares it before the question", async () => {
    expect(made).toHaveLength(0);
    expect(await link.ask(async () => [...told, "asked"])).toEqual(["prepared 1", "asked"]);
    expect(await link.ask(async () => "again")).toBe("again");
    expect(made).toHaveLength(1);
  });

  it("loses a worker that cannot take what it is told, and says so", async () => {
    await link.ask(async () => undefined);
    link.tell(async () => {
      throw new Error("no room");
    });
    await vi.advanceTimersByTimeAsync(0);
    expect([told, made[0].ended]).toEqual([["prepared 1", "no room"], true]);
    expect(await link.ask(async () => "anew")).toBe("anew");
    expect(made).toHaveLength(2);
  });

  it("lets a worker that is prepared hear at once, in the order in which it is told and asked", async () => {
    const heard: string[] = [];
    const first = link.ask(async () => {
      heard.push("first");
      // Asked in between, when the others still wait for it to be prepared.
      void link.ask(async () => heard.push("between"));
    });
    void link.ask(async () => heard.push("second"));
    link.tell(async () => heard.push("third"));
    expect(heard).toEqual([]);
    await first;
    await link.ask(async () => undefined);
    expect(heard).toEqual(["first", "second", "third", "between"]);
    link.tell(async () => heard.push("told"));
    const answer = link.ask(async () => heard.push("asked"));
    expect(heard.slice(4)).toEqual(["told", "asked"]);
    await answer;
  });

  it("ends every question when the worker dies, says so, and makes a new one for the next", async () => {
    const asked = [link.ask(never), link.ask(never)].map((q) => q.catch((error: WorkerGone) => error));
    await vi.advanceTimersByTimeAsync(10);
    made[0].die("out of memory");
    for (const error of await Promise.all(asked)) {
      expect(error).toBeInstanceOf(WorkerGone);
      expect(error).toMatchObject({ message: "out of memory", wanted: false });
    }
    expect(made[0].ended).toBe(true);
    expect(await link.ask(async () => "new")).toBe("new");
    expect(told).toEqual(["prepared 1", "out of memory", "prepared 2"]);
  });

  it("gives up a question that takes too long", async () => {
    const asked = link.ask(never).catch((error: WorkerGone) => error.message);
    await vi.advanceTimersByTimeAsync(1001);
    expect(await asked).toBe("it took more than 1 s");
    expect(made[0].ended).toBe(true);
  });

  it("that is cancelled or ended leaves no question open and tells nobody", async () => {
    const first = link.ask(never).catch((error: WorkerGone) => error.wanted);
    await vi.advanceTimersByTimeAsync(1);
    link.cancel();
    expect(await first).toBe(true);
    expect(await link.ask(async () => 1)).toBe(1);
    link.end();
    await expect(link.ask(async () => 1)).rejects.toThrow("ended");
    expect(told.filter((t) => !t.startsWith("prepared"))).toEqual([]);
  });

  it("leaves its worker to the next link, which prepares it anew and hears of its failures alone", async () => {
    const spares: Thread<object>[] = [];
    const linked = (name: string) =>
      new WorkerLink<object>(make, {
        limitMs: 1000,
        prepare: async () => told.push(`prepared for ${name}`),
        broke: () => told.push(`broke for ${name}`),
        spares,
      });
    const [first, second] = [linked("first"), linked("second")];
    await first.ask(async () => undefined);
    first.end();
    expect(made[0].ended).toBe(false);
    await second.ask(async () => undefined);
    expect([made.length, spares.length]).toEqual([1, 0]);
    made[0].die("out of memory");
    expect(told).toEqual(["prepared for first", "prepared for second", "broke for second"]);
    expect(made[0].ended).toBe(true);
  });

  it("leaves no worker that still works", async () => {
    const spares: Thread<object>[] = [];
    const busy = new WorkerLink<object>(make, { limitMs: 1000, spares });
    const asked = busy.ask(never).catch((error: WorkerGone) => error.wanted);
    await vi.advanceTimersByTimeAsync(1);
    busy.end();
    expect([await asked, made[0].ended, spares]).toEqual([true, true, []]);
  });

  it("hands on what the worker throws, and keeps it", async () => {
    await expect(
      link.ask(async () => {
        throw new RangeError("no such course");
      }),
    ).rejects.toThrow("no such course");
    expect(made[0].ended).toBe(false);
  });
});
