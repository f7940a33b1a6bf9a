import { STOP_LINE } from "@perceptum/core/live";
import { expect, it, vi } from "vitest";
import { fakeSurroundings, SilentWorker } from "../fakes";
import { type BrowserPort, PortLink } from "./PortLink";

it("whose worker breaks off tells the robot to stop, gives the port back and says why", async () => {
  const told: string[] = [];
  let isClosed = false;
  const port: BrowserPort = {
    open: async () => undefined,
    close: async () => {
      isClosed = true;
    },
    readable: new ReadableStream<Uint8Array>(),
    writable: new WritableStream<Uint8Array>({ write: (part) => void told.push(new TextDecoder().decode(part)) }),
  };
  const worker = new SilentWorker();
  const surroundings = fakeSurroundings({ startWorker: () => worker as unknown as Worker });
  const link = new PortLink(115_200, { requestPort: async () => port }, surroundings);
  await vi.waitFor(() => expect(link.now.get().phase).toBe("open"));
  link.act({} as never);
  worker.dispatchEvent(Object.assign(new Event("error"), { message: "no room" }));
  await vi.waitFor(() => expect(isClosed).toBe(true));
  expect(told).toEqual([`${STOP_LINE}\n`]);
  expect(link.now.get()).toMatchObject({
    phase: "closed",
    acting: false,
    trouble: "What acts on the robot broke off (no room). The robot was told to stop, and the link is closed.",
  });
  link.end();
});
