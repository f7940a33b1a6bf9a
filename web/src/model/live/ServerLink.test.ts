import { afterEach, expect, it, vi } from "vitest";
import { ServerLink } from "./ServerLink";

/** A stream of events that the test tells. */
class FakeEvents extends EventTarget {
  static made: FakeEvents[] = [];
  constructor() {
    super();
    FakeEvents.made.push(this);
  }
  close(): void {}
  tell(kind: string, data: object): void {
    this.dispatchEvent(Object.assign(new Event(kind), { data: JSON.stringify(data) }));
  }
}

afterEach(() => vi.unstubAllGlobals());

it("says that the server does not know the sensors as they are now, where that cannot be told", async () => {
  vi.stubGlobal("EventSource", FakeEvents);
  let status = 201;
  vi.stubGlobal("fetch", async () =>
    status === 201
      ? new Response(JSON.stringify({ watch: "0a8a3f0e-3a51-4b62-8f6f-0d8f5c1f2a11" }), { status })
      : new Response("", { status }),
  );
  FakeEvents.made = [];
  const link = new ServerLink("one", null, {} as never);
  await vi.waitFor(() => expect(FakeEvents.made).toHaveLength(1));
  FakeEvents.made[0].tell("open", {});
  await vi.waitFor(() => expect(link.now.get().phase).toBe("open"));
  status = 500;
  link.listenBy({} as never);
  await vi.waitFor(() =>
    expect(link.now.get().trouble).toBe(
      "The server does not know the sensors as they are now: the server answered 500. Open the link again.",
    ),
  );
});

it("that is over says why, also where its events end before anybody has looked", async () => {
  vi.stubGlobal("EventSource", FakeEvents);
  vi.stubGlobal(
    "fetch",
    async () => new Response(JSON.stringify({ watch: "0a8a3f0e-3a51-4b62-8f6f-0d8f5c1f2a11" }), { status: 201 }),
  );
  FakeEvents.made = [];
  const link = new ServerLink("one", "tcp://robot:1", {} as never);
  await vi.waitFor(() => expect(FakeEvents.made).toHaveLength(1));
  const [events] = FakeEvents.made;
  events.tell("state", { act: null, acting: false, trouble: "the robot closed the line", over: true, counts: null });
  events.dispatchEvent(new Event("error"));
  expect(link.now.get()).toMatchObject({ phase: "closed", trouble: "The robot closed the line." });
});
