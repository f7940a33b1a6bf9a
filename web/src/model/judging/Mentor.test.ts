import type { Finding } from "@perceptum/core/findings";
import { emptyProject } from "@perceptum/core/project";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { failedBy } from "../failed";
import { fakeSurroundings, workerOf } from "../fakes";
import { Published } from "../Published";
import type { Readings } from "../session/Readings";
import { Mentor } from "./Mentor";

const finding = { code: "too-dark", level: "hint", sentence: "It is dark.", stage: "sense" } as unknown as Finding;
const fix = { label: "Apply" } as unknown as Finding["fix"];
const calls: string[] = [];
/** Findings are there once this is. */
let ready: Promise<void>;

/** What the worker answers, without working anything out. */
const answers = {
  setReadings: () => undefined,
  findings: async () => {
    calls.push("findings");
    await ready;
    return { list: [finding], fixes: [0] };
  },
  tried: () => {
    calls.push("tried");
    return { ...finding, fix };
  },
  tryStep: () => undefined,
};

const mentorOf = (readings: Readings) =>
  new Mentor(
    readings,
    fakeSurroundings({ startWorker: () => workerOf(answers) }),
    () => undefined,
    failedBy((sentence) => {
      throw new Error(sentence);
    }),
  );

beforeEach(() => {
  calls.length = 0;
  ready = Promise.resolve();
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
});
afterEach(() => {
  vi.useRealTimers();
});

it("tries fixes once the project has rested, and not while it is edited", async () => {
  const readings = {
    taughtBy: (heads: unknown) => ({ heads, readings: new Map() }),
    version: new Published(0),
  } as unknown as Readings;
  const mentor = mentorOf(readings);
  const found = () => new Promise<void>((done) => mentor.findings.subscribe(() => done()));
  const answered = () => mentor.tryStep(emptyProject("any") as never, { step: "finish" }, null);
  for (const name of ["one", "two"]) {
    const first = found();
    mentor.advise(emptyProject(name) as never, null);
    await first;
    vi.advanceTimersByTime(400);
  }
  await answered();
  expect(calls).toEqual(["findings", "findings"]);
  expect(mentor.findings.get().list[0].fix).toBeUndefined();

  const offered = found();
  vi.advanceTimersByTime(300);
  await offered;
  expect(calls).toEqual(["findings", "findings", "tried"]);
  expect(mentor.findings.get().list[0].fix).toEqual(fix);
  mentor.end();
});

it("tries none of a project that was changed while its findings were worked out", async () => {
  const readings = {
    taughtBy: (heads: unknown) => ({ heads, readings: new Map() }),
    version: new Published(0),
  } as unknown as Readings;
  const mentor = mentorOf(readings);
  const first = new Promise<void>((done) => mentor.findings.subscribe(() => done()));
  mentor.advise(emptyProject("one") as never, null);
  mentor.advise(emptyProject("two") as never, null);
  await first;
  // Those of the change take long.
  let answer = () => {};
  ready = new Promise((done) => {
    answer = done;
  });
  await vi.waitFor(() => expect(calls).toEqual(["findings", "findings"]));
  vi.advanceTimersByTime(1000);
  await mentor.tryStep(emptyProject("any") as never, { step: "finish" }, null);
  expect(calls).toEqual(["findings", "findings"]);
  answer();
  mentor.end();
});
