import { describe, expect, it } from "vitest";
import { parseStep } from "../behaviour";
import { NAMES } from "../behaviour/arbitrary";
import { glasshouseRound } from "../demo";
import { numbered, type SensorId, type TargetId } from "../names";
import { type ProjectDocument, splitProject } from "../project";
import { type Course, judgeCheck, parseCheck, reportThings, run } from ".";
import { crossingsOf } from "./crossings";

const { document } = splitProject(glasshouseRound());
const t = (id: string) => id as TargetId;

/** The demo's cart, whose first sensor reads seldom, on a floor with these patches; it does what it is told. */
function cart(patches: Course["patches"], steps: string[], periodMs = 100): ProjectDocument {
  const project = structuredClone(document);
  project.sensors[0].periodMs = periodMs;
  const [course] = project.courses;
  project.courses = [
    { ...course, patches, lines: [], checks: [], starts: [{ name: "Here", x: 100, y: 400, heading: 0 }] as never },
  ];
  project.behaviour = {
    ...project.behaviour,
    modes: [
      {
        id: project.behaviour.start,
        name: "Go",
        entering: numbered(
          "step",
          steps.map((phrase) => {
            const parsed = parseStep(phrase, NAMES);
            if ("problem" in parsed) throw new Error(parsed.problem.message);
            return parsed.value;
          }),
        ),
        responses: [],
      },
    ],
    routines: [],
  };
  return project;
}
const patch = (target: string, x: number, along: number): Course["patches"][number] => ({
  id: `patch-${x}` as never,
  shape: { rect: [along, 200] },
  target: t(target),
  at: [x, 400],
  angle: 0,
});
const made = (project: ProjectDocument) => run(project, { course: "aisle", seed: 3 });

describe("edges and places", () => {
  it("go by geometry, however seldom the sensor reads: the way to a stand counts from the edge itself", () => {
    for (const periodMs of [5, 100, 237]) {
      const trace = made(
        cart([patch("coral", 700, 200)], ["drive 90 % for 60 cm", "stop", "wait 1 s", "finish"], periodMs),
      );
      // By an independent route: where the sensor stands, less where the front of its spot met the edge at 600 mm.
      const spot = document.sensors[0].optics.spotMm;
      const way = trace.eyeX[trace.eyeX.length - 1] - (600 - spot / 2);
      expect(way).toBeGreaterThan(60);
      const verdict = (mm: number) => judgeCheck({ stopsWithinMm: mm, after: t("coral") }, trace);
      expect(verdict(way + 0.1).outcome).toBe("holds");
      // It creeps on a little once it stands.
      expect(verdict(way - 0.5).outcome).toBe("does not");
    }
  });

  it("know a patch that was crossed between two readings: it was passed and missed", () => {
    const trace = made(cart([patch("coral", 600, 20)], ["drive 90 % for 90 cm", "finish"], 237));
    expect(trace.passages.filter(({ eye }) => eye === 0)).toEqual([]);
    const verdict = judgeCheck({ answersOnce: t("coral") }, trace);
    expect(verdict).toMatchObject({ outcome: "does not", figure: "0/1" });
    expect(verdict.why).toMatch(
      /was passed from .* unanswered; no reading fell on it in the \d+ ms that it took; the sensor reads every 240 ms/i,
    );
    const [thing] = reportThings(trace);
    expect(thing).toMatchObject({ readings: 0, answers: 0 });
    expect(thing.speed).toBeCloseTo(360, -1);
  });

  it("ask at the end what lies under the spot then, not what the last reading saw", () => {
    // The last reading falls on the patch; the cart rolls on and stands behind it.
    const project = cart([patch("coral", 500, 120)], ["drive 90 % for 43 cm", "stop", "wait 0.35 s", "finish"], 2000);
    const trace = made(project);
    const behind = trace.eyeX[trace.eyeX.length - 1] - 560;
    expect(behind).toBeGreaterThan(5);
    expect(judgeCheck({ endsOn: t("coral") }, trace).outcome).toBe("does not");
    expect(judgeCheck({ endsOn: t("slate") }, trace).outcome).toBe("holds");
  });

  it("tell when the first point of the spot met a thing, its middle came over it and its last point left", () => {
    const trace = made(cart([patch("teal", 500, 100)], ["drive 50 % for 80 cm", "finish"]));
    const crossings = crossingsOf(trace, 0, trace.eyes[0]) ?? [];
    expect(crossings).toHaveLength(1);
    const [{ from, to = 0, middle }] = crossings;
    const spot = document.sensors[0].optics.spotMm;
    const placeAt = (ms: number) => {
      const i = Math.floor(ms / trace.tickMs);
      return trace.eyeX[i] + (ms / trace.tickMs - i) * (trace.eyeX[i + 1] - trace.eyeX[i]);
    };
    expect(placeAt(from)).toBeCloseTo(450 - spot / 2, 1);
    expect(placeAt(middle?.from ?? 0)).toBeCloseTo(450, 1);
    expect(placeAt(middle?.to ?? 0)).toBeCloseTo(550, 1);
    expect(placeAt(to)).toBeCloseTo(550 + spot / 2, 1);
    // Who grazes a thing has not come over it.
    const [side] =
      crossingsOf(
        made(cart([{ ...patch("teal", 500, 100), at: [500, 504] }], ["drive 50 % for 80 cm", "finish"])),
        0,
        trace.eyes[0],
      ) ?? [];
    expect(side).toMatchObject({ from: expect.any(Number) });
    expect(side.middle).toBeUndefined();
  });
});

describe("arrivals", () => {
  const other = "left-eye" as SensorId;
  const arrives = (at: number, sensor: SensorId, target: string) => ({
    t: at,
    kind: "arrives" as const,
    sensor,
    target: t(target),
  });
  const [first] = document.robot.mounts;
  const trace = {
    ...made(cart([], ["finish"])),
    notes: [
      arrives(10, first.sensor, "coral"),
      arrives(20, other, "coral"),
      arrives(30, first.sensor, "teal"),
      arrives(40, other, "teal"),
    ],
  };
  const outcome = (phrase: string) => {
    const read = parseCheck(phrase, NAMES);
    if ("problem" in read) throw new Error(read.problem.message);
    return judgeCheck(read.value, trace).outcome;
  };

  it("are counted sensor by sensor: what two of them saw of one way is no way there and back", () => {
    expect(outcome("sees coral, teal")).toBe("holds");
    expect(outcome("sees coral, teal, coral")).not.toBe("holds");
    expect(outcome("sees coral, coral")).not.toBe("holds");
    expect(outcome("shuttles between coral and teal 1 times")).not.toBe("holds");
  });

  it("are those of the sensor that is named", () => {
    expect(outcome("left-eye: sees coral, teal")).toBe("holds");
    expect(outcome("right-eye: sees coral")).not.toBe("holds");
    expect(parseCheck("left-eye: ends on coral", NAMES)).toMatchObject({
      problem: { message: expect.stringContaining("which go by a sensor") },
    });
  });
});
