import { describe, expect, it } from "vitest";
import { namesOf, parseStep, parseTrigger, type Response, type Step } from "../../behaviour";
import { glasshouseRound, pipeRailCarrier } from "../../demo";
import { findAll } from "../../findings";
import { type CourseId, numbered, type TargetId } from "../../names";
import { type ProjectDocument, splitProject, type WithoutIds, withIds } from "../../project";
import { Course, emptyCourse, nameIn, type RailCourse, ROBOTS, reportThings, run, verdicts } from "..";

const { document } = splitProject(glasshouseRound());
const t = (id: string) => id as TargetId;
const plate = (at: number, target = "coral", more: Partial<RailCourse["plates"][0]> = {}) => ({
  at,
  length: 60,
  width: 60,
  aside: 0,
  target: t(target),
  ...more,
});
const bare = emptyCourse("loop" as CourseId, "Loop", t("slate"), "rail") as RailCourse;

/** The demo's sensors and rules on a carrier, which runs on a rail and answers coral. */
function carrier(
  course: WithoutIds<Partial<RailCourse>>,
  answer: string[],
  entering = ["drive 50 %"],
): ProjectDocument {
  const robot = ROBOTS.get("carrier").fresh({
    ...document.robot,
    mounts: [{ ...document.robot.mounts[0], x: 0, y: 0 }],
  });
  const project: ProjectDocument = {
    ...structuredClone(document),
    robot,
    courses: [{ ...bare, ...withIds<Partial<RailCourse>>(course) }],
  };
  const names = namesOf(project);
  const step = (phrase: string): Step => {
    const read = parseStep(phrase, names);
    if ("problem" in read) throw new Error(read.problem.message);
    return read.value;
  };
  const when = parseTrigger("coral arrives", names);
  if ("problem" in when) throw new Error(when.problem.message);
  const response: Response = {
    id: "halt" as Response["id"],
    when: when.value,
    steps: numbered("step", answer.map(step)),
    fires: "once per visit",
    busy: "let it finish",
    on: true,
  };
  const [mode] = project.behaviour.modes;
  project.behaviour = {
    ...project.behaviour,
    start: mode.id,
    modes: [{ ...mode, entering: numbered("step", entering.map(step)), responses: [response] }],
  };
  return project;
}

const HALT = ["stop", "wait 1 s", "drive 50 %"];

describe("a carrier on a rail", () => {
  it("halts at every coral plate of a closed loop, round after round, and each is a thing of its own", () => {
    const project = carrier({ plates: [plate(400), plate(1400)], checks: [{ answersOnce: t("coral") }] }, HALT);
    const trace = run(project, { course: "loop", limitMs: 14_000 });
    expect(trace.notes.some((note) => note.kind === "trouble")).toBe(false);
    const halts = trace.notes.filter((note) => note.kind === "fires").map((note) => note.t);
    // 3.17 m of rail at 20 cm/s, and a second's halt at each plate: two halts in a round of about 18 s.
    expect(halts.length).toBe(2);
    const things = reportThings(trace);
    expect(things.slice(0, 2).map(({ kind, target, answers }) => [kind, target, answers > 0])).toEqual([
      ["plate", "coral", true],
      ["plate", "coral", true],
    ]);
    expect(verdicts(trace)[0].verdict.outcome).toBe("holds");
  });

  it("gives the same trace for the same seed, and another for another", () => {
    const project = carrier({ plates: [plate(400)] }, HALT);
    const made = (seed: number) => run(project, { course: "loop", seed, limitMs: 5000 });
    expect(made(3)).toEqual(made(3));
    expect(made(3).eyes[0].readings).not.toEqual(made(4).eyes[0].readings);
  });

  it("runs into the end of an open rail, which ends the run and is said", () => {
    const open = { from: [200, 300] as [number, number], heading: 0, closed: false, way: [{ straight: 900 }] };
    const project = carrier({ rail: open, plates: [], checks: [{ endsOn: t("coral") }] }, HALT);
    const trace = run(project, { course: "loop" });
    expect(trace.ending).toBe("ran into the end");
    expect(verdicts(trace)[0].verdict.why).toMatch(/the robot ran into the end of the rail at/);
  });

  it("with its motor built in the wrong way round drives to the other end, until that is corrected", () => {
    const open = { from: [200, 300] as [number, number], heading: 0, closed: false, way: [{ straight: 900 }] };
    const starts = [{ name: "Middle", at: 450, facing: "forward" as const }];
    const project = carrier({ rail: open, starts, plates: [] }, HALT);
    const ends = (change: { mountedReversed: boolean; invert: boolean }) => {
      const robot = ROBOTS.get("carrier").withMotor?.(project.robot, "motor", change);
      return run({ ...project, robot: robot ?? project.robot }, { course: "loop" }).x.at(-1) ?? 0;
    };
    expect(ends({ mountedReversed: true, invert: false })).toBeLessThan(300);
    expect(ends({ mountedReversed: true, invert: true })).toBeGreaterThan(1000);
  });

  it("sees plates on sleepers of the same paint as one with them, and sleepers of another as another thing", () => {
    const sleepers = { everyMm: 100, lengthMm: 120, widthMm: 20, target: t("moss") };
    const trace = run(carrier({ plates: [plate(400)], sleepers }, HALT), { course: "loop", limitMs: 4000 });
    const truths = new Set(Array.from(trace.eyes[0].truth, (label) => trace.targets[label - 1]));
    expect(truths).toContain("moss");
    expect(truths).toContain("coral");
    expect(truths).toContain("slate");
  });

  it("misses a narrow plate in a bend, where its sensor swings inward off the rail's middle", () => {
    // The first bend begins at 800 mm; 120 mm between the bogies cut 7.3 mm off it.
    const spot = document.sensors[0].optics.spotMm;
    const narrow = { width: 6, length: 60 };
    const seen = (at: number, aside: number) =>
      run(carrier({ plates: [plate(at, "coral", { ...narrow, aside })] }, HALT), { course: "loop", limitMs: 12_000 })
        .passages.length;
    expect(spot).toBeGreaterThan(6);
    expect([seen(400, 0), seen(1200, 0), seen(1200, 7.3)]).toEqual([1, 0, 1]);
  });

  it("says of a plate that it missed where the middle of its spot passed", () => {
    const why = (aside: number, width: number, length = 60) => {
      const loop = carrier(
        { plates: [plate(1200, "coral", { width, length, aside })], checks: [{ answersOnce: t("coral") }] },
        HALT,
      );
      const [{ verdict }] = verdicts(run(loop, { course: "loop", limitMs: 12_000 }), nameIn(loop));
      return verdict.outcome === "holds" ? verdict.outcome : verdict.why;
    };
    // 120 mm between the bogies on a radius of 250 mm: 250 − √(250² − 60²) = 7.3 mm inside, which is left in this bend.
    expect(why(0, 6)).toMatch(
      /was never under the sensor; the middle of the spot passed 7 mm left of the plate’s at \d+\.\d\d s, 4 mm beside its edge\.$/,
    );
    expect(why(2.9, 10, 8)).toMatch(
      /\d+ of the \d+ readings on it were .*; the middle of the spot passed 4 mm left of the plate’s at .* s, 1 mm within its edge\.$/,
    );
    expect(why(7.3, 30)).toBe("holds");
  });

  it("looks ahead of a tilted sensor, and says of a plate where its spot passed, not its mount", () => {
    const tilted = carrier(
      { plates: [plate(1200, "coral", { width: 6, length: 60 })], checks: [{ answersOnce: t("coral") }] },
      HALT,
    );
    tilted.robot.mounts[0] = { ...tilted.robot.mounts[0], z: 60, tilt: 45 };
    const trace = run(tilted, { course: "loop", limitMs: 12_000 });
    // 45° and 60 mm above the ground: 60 mm ahead, which is over the front bogie, so that it does not swing off.
    expect(trace.eyeX[0] - trace.x[0]).toBeCloseTo(60, 6);
    expect(trace.passages).toHaveLength(1);
    expect(findAll({ project: tilted, tapes: [] }).filter(({ code }) => code === "swings-off")).toEqual([]);
  });

  it("skips steps that need a second wheel, and says so", () => {
    const project = carrier({ plates: [] }, HALT, ["turn left 90 at 30 %", "drive 50 %"]);
    const trace = run(project, { course: "loop", limitMs: 1000 });
    expect(trace.notes.flatMap((note) => (note.kind === "trouble" ? [note.text] : []))).toEqual([
      "this robot cannot do that; the step was skipped",
    ]);
    expect(trace.speed.at(-1)).toBeGreaterThan(100);
  });
});

describe("the pipe-rail carrier", () => {
  const { document: pipes } = splitProject(pipeRailCarrier());
  const outcomes = (project: ProjectDocument, light: string, seed: number) =>
    verdicts(run(project, { course: "pipes", light, seed })).map(({ verdict }) => verdict.outcome);

  it.each(["overcast", "noon-sun", "dusk"])("answers every plate in %s but the amber one in the bend", (light) => {
    for (const seed of [1, 2, 3]) {
      const [corals, teals, violets, ambers, ...others] = outcomes(pipes, light, seed);
      expect([corals, teals, violets, ...others]).toEqual(new Array(7).fill("holds"));
      expect(ambers).toBe("does not");
    }
  });

  it("answers that one too once its sensor is moved to the right, by as much as it swings inward", () => {
    const [mount] = pipes.robot.mounts;
    const moved = { ...pipes, robot: { ...pipes.robot, mounts: [{ ...mount, y: -6 }] } };
    expect(outcomes(moved, "overcast", 1)).toEqual(new Array(8).fill("holds"));
  });

  it("has the finding that says so, with figures, and no other but hints", () => {
    const found = (project: ProjectDocument) => findAll({ project, tapes: [] }).filter(({ level }) => level !== "hint");
    const [swings, ...others] = found(pipes);
    expect([swings.title, others]).toEqual(["Belly sensor swings off Amber strip, plate 5", []]);
    // A chord of 120 mm on a radius of 300 mm: 6.06 mm inside, which is left in a bend to the left.
    expect(swings.sentence).toContain("the spot’s middle passes 6 mm left of the plate’s, which is 8 mm wide");
    expect(swings.sentence).toContain("Mount the sensor 6 mm to the right");
    const [mount] = pipes.robot.mounts;
    expect(found({ ...pipes, robot: { ...pipes.robot, mounts: [{ ...mount, y: -6 }] } })).toEqual([]);
  });
});

describe("a rail in a file", () => {
  const problemOf = (change: object) => {
    const read = Course.safeParse(withIds<object>({ ...bare, ...change }));
    return read.success ? undefined : JSON.stringify(read.error.issues);
  };

  it("is taken as it is made, with plates and starts on it", () => {
    const made = withIds<RailCourse>({ ...bare, plates: [plate(100)] });
    expect(Course.parse(made)).toEqual(made);
  });

  it("that does not close, or a plate beyond its end, is refused with its place", () => {
    const open = { ...bare.rail, way: bare.rail.way.slice(0, 3) };
    expect(problemOf({ rail: open })).toMatch(/the rail is closed, but its end lies/);
    expect(problemOf({ rail: { ...open, closed: false } })).toBeUndefined();
    expect(problemOf({ plates: [plate(99_000)] })).toMatch(
      /the plate lies 99000 mm along the rail, which is 3171 mm long/,
    );
    expect(problemOf({ starts: [{ name: "Far", at: 99_000, facing: "back" }] })).toMatch(/the start lies/);
  });
});
