import { describe, expect, it } from "vitest";
import { GATE_RESERVE, namesOf, parseStep } from "../behaviour";
import { pipeRailCarrier, pottingShed } from "../demo";
import { numbered, type TargetId } from "../names";
import { type ProjectDocument, splitProject } from "../project";
import { type BeltCourse, reportPieces, robotKindOf, run, type SorterRobot } from "../world";
import { applyFix, type FindingCode, findAll } from ".";

const { document } = splitProject(pottingShed());
const COLOURS = ["coral", "teal", "amber", "violet"];

/** The demo with other answers by target, other pieces and another robot. */
function shed(
  answer: (colour: string) => string[],
  pieces: Partial<BeltCourse["pieces"]> = {},
  change: (robot: SorterRobot) => void = () => {},
  speed = 40,
): ProjectDocument {
  const project = structuredClone(document);
  const names = namesOf(project);
  const steps = (phrases: string[]) =>
    numbered(
      "step",
      phrases.map((phrase) => {
        const read = parseStep(phrase, names);
        if ("problem" in read) throw new Error(read.problem.message);
        return read.value;
      }),
    );
  const [mode] = project.behaviour.modes;
  mode.entering = steps([`drive ${speed} %`]);
  mode.responses = mode.responses.map((response, i) => ({ ...response, steps: steps(answer(COLOURS[i])) }));
  Object.assign((project.courses[0] as BeltCourse).pieces, pieces);
  change(project.robot as SorterRobot);
  return project;
}
const send = (colour: string) => [`send to ${colour}-crate`];
const of = (project: ProjectDocument, code: FindingCode) =>
  findAll({ project, tapes: [] }).filter((finding) => finding.code === code);
/** How many pieces of a run are not where they belong. */
const missorted = (project: ProjectDocument, seed = 1) =>
  reportPieces(run(project, { course: project.courses[0].id, seed })).filter(({ into, wanted }) => into !== wanted)
    .length;
const row = (...ids: string[]) => ids.map((id) => id as TargetId);

describe("gate-waits", () => {
  it("finds the wait of the demo during which another piece can pass, with the gap, and sends instead", () => {
    const [found, ...others] = of(document, "gate-waits");
    expect(others).toEqual([]);
    expect(found).toMatchObject({ level: "error", place: { response: "take-violet", about: "violet-gate" } });
    expect(found.sentence).toBe(
      "The response to Violet tag takes 2.9 s, in which the belt goes 58.0 cm at 40 %. On Bench belt the next piece can come after 52.0 cm, with a gap of 47.0 cm, and is skipped then. “send to” remembers every piece that is under way.",
    );
    expect(missorted(document)).toBeGreaterThan(0);
    const mended = applyFix(document, found.fix?.change ?? { slowDown: "none" as never, most: 1 });
    expect(mended.behaviour.modes[0].responses[3].steps).toEqual([
      { id: "step-5", step: "send", crate: "violet-crate" },
    ]);
    expect(of(mended, "gate-waits")).toEqual([]);
    expect([1, 2, 3, 4, 5].map((seed) => missorted(mended, seed))).toEqual([0, 0, 0, 0, 0]);
  });

  it("keeps what else the response does, and is silent where pieces are far enough apart or sent", () => {
    const busy = shed((colour) => [
      "lamp off",
      "wait 2.4 s",
      `gate ${colour}-gate open`,
      "wait 0.5 s",
      `gate ${colour}-gate close`,
      "tone C4 for 0.1 s",
    ]);
    const [found] = of(busy, "gate-waits");
    const mended = applyFix(busy, found.fix?.change ?? { slowDown: "none" as never, most: 1 });
    expect(mended.behaviour.modes[0].responses[0].steps.map(({ step }) => step)).toEqual(["lamp", "send", "tone"]);
    const apart = structuredClone(document);
    (apart.courses[0] as BeltCourse).pieces.every = 720;
    expect(of(apart, "gate-waits")).toEqual([]);
    expect(missorted(apart)).toBe(0);
    expect(of(shed(send), "gate-waits")).toEqual([]);
  });
});

describe("gate-too-late", () => {
  it("finds a speed at which the gate is not open in time, and one that does", () => {
    const slowGates = (robot: SorterRobot) => {
      for (const gate of robot.gates) gate.travelMs = 200;
    };
    const fast = shed(send, { order: row("coral", "coral", "coral") }, slowGates, 100);
    const [found] = of(fast, "gate-too-late").filter(({ place }) => place.about === "coral-gate");
    expect(found.title).toBe("Coral gate opens too late for Coral tag");
    const change = found.fix?.change as { slowDown: never; most: number };
    // 96 mm from the spot's edge to the gate; three readings and 200 ms of travel.
    const sensor = document.sensors.find(({ id }) => id === document.robot.mounts[0].sensor);
    expect(change.most).toBe(Math.floor(96 / (0.2 * GATE_RESERVE + 0.003 * (sensor?.periodMs ?? 0)) / 5) / 100);
    expect(missorted(fast)).toBe(3);
    const slower = applyFix(fast, change);
    expect(of(slower, "gate-too-late")).toEqual([]);
    expect(missorted(slower)).toBe(0);
  });

  it("counts a wait before the gate, and names the place that would do", () => {
    const waits = shed(
      (colour) => ["wait 0.6 s", `gate ${colour}-gate open`, "wait 0.5 s", `gate ${colour}-gate close`],
      {
        order: row("coral"),
      },
    );
    const [found] = of(waits, "gate-too-late");
    expect(found.place.about).toBe("coral-gate");
    const place = Number(/a gate at (\d+) mm/.exec(found.sentence)?.[1]);
    expect(missorted(waits)).toBe(1);
    const moved = shed(
      (colour) => ["wait 0.6 s", `gate ${colour}-gate open`, "wait 0.5 s", `gate ${colour}-gate close`],
      { order: row("coral") },
      (robot) => {
        robot.gates[0].atMm = place;
      },
    );
    expect(of(moved, "gate-too-late")).toEqual([]);
    expect(missorted(moved)).toBe(0);
  });
});

describe("gate-closes-early", () => {
  const open = (seconds: number) =>
    shed((colour) => ["wait 0.2 s", `gate ${colour}-gate open`, `wait ${seconds} s`, `gate ${colour}-gate close`], {
      order: row("coral"),
    });

  it("finds a gate that closes on its piece, and for how much longer it must stay open", () => {
    const [found] = of(open(0.4), "gate-closes-early");
    expect(found.title).toBe("Coral gate closes on Coral tag");
    expect(missorted(open(0.4))).toBe(1);
    const more = Number(/open ([\d.]+) s longer/.exec(found.sentence)?.[1]);
    expect(of(open(0.4 + more), "gate-closes-early").filter(({ place }) => place.about === "coral-gate")).toEqual([]);
    expect(missorted(open(0.4 + more))).toBe(0);
  });

  it("is silent about the demo, about what is sent, and about a gate that is never closed", () => {
    expect(of(document, "gate-closes-early")).toEqual([]);
    expect(of(shed(send), "gate-closes-early")).toEqual([]);
    expect(
      of(
        shed((colour) => [`gate ${colour}-gate open`]),
        "gate-closes-early",
      ),
    ).toEqual([]);
  });
});

describe("pieces-too-close", () => {
  it("finds a gap in which a gate cannot open and close, and the distance that would do", () => {
    const order = row("chalk", "teal", "chalk", "teal", "coral", "violet", "amber");
    const close = shed(send, { order, every: 130, jitterMm: 0 });
    const [found] = of(close, "pieces-too-close");
    expect(found.sentence).toMatch(
      /^As little as 8\.0 cm can lie between two\. To open and close between them [A-Z][a-z]+ gate needs \d+\.\d cm at 40 %/,
    );
    expect(missorted(close)).toBeGreaterThan(0);
    const apart = Number(/Lay them ([\d.]+) cm apart/.exec(found.sentence)?.[1]) * 10;
    const laid = shed(send, { order, every: apart, jitterMm: 0 });
    expect(of(laid, "pieces-too-close")).toEqual([]);
    expect(missorted(laid)).toBe(0);
    // A little too close, a slower belt does.
    const nearly = shed(send, { order, every: apart - 10, jitterMm: 0 });
    const [{ fix }] = of(nearly, "pieces-too-close");
    expect(fix?.label).toMatch(/^Slow down to \d+ %$/);
    const slower = fix && applyFix(nearly, fix.change);
    expect(slower && [of(slower, "pieces-too-close"), missorted(slower)]).toEqual([[], 0]);
  });

  it("finds two of a kind that count as one", () => {
    const small = (robot: SorterRobot) => {
      for (const gate of robot.gates) Object.assign(gate, { reachMm: 56, travelMs: 0 });
    };
    const order = row("amber", "amber", "amber");
    const project = shed(send, { order, every: 116, jitterMm: 0 }, small);
    expect(of(project, "pieces-too-close")).toEqual([]);
    const slowly = structuredClone(project);
    for (const set of slowly.ruleSets) set.steady.rejoinMs = 600;
    const [found] = of(slowly, "pieces-too-close");
    expect(found.title).toBe("Two of a kind on Bench belt can count as one");
    const parted = found.fix && applyFix(slowly, found.fix.change);
    expect(parted && [of(parted, "pieces-too-close"), missorted(parted)]).toEqual([[], 0]);
    expect([missorted(project), missorted(slowly)]).toEqual([0, 2]);
  });

  it("is silent about the demo, one piece alone, and a belt on which nothing is sorted", () => {
    expect(of(document, "pieces-too-close")).toEqual([]);
    expect(of(shed(send, { order: row("coral"), every: 10 }), "pieces-too-close")).toEqual([]);
    expect(
      of(
        shed(() => ["lamp off"], { every: 60 }),
        "pieces-too-close",
      ),
    ).toEqual([]);
  });
});

describe("crate-nobody-sends-to", () => {
  it("finds a crate with a gate that no step opens, and is silent where one does", () => {
    const coral = shed((colour) => (colour === "coral" ? ["lamp off"] : send(colour)));
    expect(of(coral, "crate-nobody-sends-to").map(({ title }) => title)).toEqual(["Nothing is sent to Coral crate"]);
    expect(of(document, "crate-nobody-sends-to")).toEqual([]);
    expect(of(shed(send), "crate-nobody-sends-to")).toEqual([]);
  });
});

describe("under-dead-band", () => {
  const weak = (percent: number, regulated = false) => {
    const { document: carrier } = splitProject(pipeRailCarrier());
    const { robot } = carrier;
    const made = robotKindOf(robot).withMotor?.(robot, "motor", { regulated, deadBand: 0.2 });
    const read = parseStep(`drive ${percent} %`, namesOf(carrier));
    if ("problem" in read || made === undefined) throw new Error("no step");
    const [mode, ...modes] = carrier.behaviour.modes;
    return {
      ...carrier,
      robot: made,
      behaviour: { ...carrier.behaviour, modes: [{ ...mode, entering: numbered("step", [read.value]) }, ...modes] },
    };
  };

  it("finds a power at which a motor without regulation stands still", () => {
    const [found] = of(weak(15), "under-dead-band").filter(({ place }) => place.response === undefined);
    expect(found.sentence).toBe(
      "It is not regulated, and below 20 % it does not move. Give it 20 % or more, or regulate it in Prove.",
    );
    const { x } = run(weak(15), { course: "pipes", limitMs: 2000 });
    expect(x.at(-1)).toBe(x[0]);
  });

  it("is silent about enough power, and about a motor that is regulated", () => {
    expect(of(weak(25), "under-dead-band").filter(({ place }) => place.response === undefined)).toEqual([]);
    expect(of(weak(15, true), "under-dead-band")).toEqual([]);
  });
});
