import { describe, expect, it } from "vitest";
import { type ListedStep, namesOf, parseStep, parseTrigger, type Response } from "../behaviour";
import { glasshouseRound, pipeRailCarrier, routeCards } from "../demo";
import { type ModeId, numbered } from "../names";
import { type ProjectDocument, splitProject } from "../project";
import { courseAs, ROBOTS, run } from "../world";
import { applyFix, type FindingCode, findAll } from ".";

const { document } = splitProject(glasshouseRound());
const steps = (project: ProjectDocument, ...phrases: string[]): ListedStep[] =>
  numbered(
    "step",
    phrases.map((phrase) => {
      const parsed = parseStep(phrase, namesOf(project));
      if ("problem" in parsed) throw new Error(parsed.problem.message);
      return parsed.value;
    }),
  );

/** A cart that sets out and answers coral, with what is changed. */
function patrol(
  { entering = ["drive 30 %"], when = "coral arrives", does = ["stop", "wait 1 s", "drive 30 %"] },
  more: Partial<Response> = {},
  change: (project: ProjectDocument) => void = () => {},
): ProjectDocument {
  const project = structuredClone(document);
  const trigger = parseTrigger(when, namesOf(project));
  if ("problem" in trigger) throw new Error(trigger.problem.message);
  const [mode] = project.behaviour.modes;
  mode.entering = steps(project, ...entering);
  mode.responses = [
    {
      ...mode.responses[0],
      id: "answer" as Response["id"],
      when: trigger.value,
      steps: steps(project, ...does),
      ...more,
    },
  ];
  project.behaviour.modes = [mode];
  change(project);
  return project;
}
const of = (project: ProjectDocument, code: FindingCode) =>
  findAll({ project, tapes: [] }).filter((f) => f.code === code);
const mended = (project: ProjectDocument, code: FindingCode) => {
  const [{ fix }] = of(project, code);
  if (fix === undefined) throw new Error("there is no fix");
  return of(applyFix(project, fix.change), code);
};

describe("step-not-for-robot", () => {
  const onRail = (entering: string[]) =>
    patrol({ entering, does: ["stop"] }, {}, (p) => {
      p.robot = ROBOTS.get("carrier").fresh(p.robot);
      p.courses = p.courses.map((course) => courseAs(course, "rail").course);
    });

  it("finds a step that needs two wheels on a carrier, also in a routine and beside others", () => {
    const [found] = of(onRail(["turn left 90 at 30 %", "drive 30 %"]), "step-not-for-robot");
    expect(found.title).toBe("Nursery cart cannot do a step in Patrol");
    expect(found.sentence).toContain("“turn left 90 at 30 %” needs two wheels to turn by, which a carrier on a rail");
    expect(of(onRail(["meanwhile wheels 30 % 20 % for 1 s", "drive 30 %"]), "step-not-for-robot")).toHaveLength(1);
  });

  it("is silent about what a carrier can do, and about a cart", () => {
    expect(of(onRail(["drive 30 %", "lamp coral"]), "step-not-for-robot")).toEqual([]);
    expect(of(document, "step-not-for-robot")).toEqual([]);
  });
});

describe("fires-again", () => {
  const stuck = patrol({ when: "coral is present", does: ["stop", "wait 1 s"] }, { fires: "while present" });

  it("finds an answer that fires while its target is present and leaves the robot on it", () => {
    expect(of(stuck, "fires-again")[0].title).toBe("The answer to Coral tag fires again and again");
    expect(mended(stuck, "fires-again")).toEqual([]);
    const fired = run(stuck, { course: "aisle", limitMs: 12_000 }).notes.filter((n) => n.kind === "fires");
    expect(fired.length).toBeGreaterThan(3);
  });

  it("is silent where the steps drive farther than the patch is long, or on", () => {
    const off = patrol(
      { when: "coral is present", does: ["stop", "drive 30 % for 20 cm", "stop"] },
      { fires: "while present" },
    );
    expect(of(off, "fires-again")).toEqual([]);
    const on = patrol({ when: "coral is present", does: ["drive 15 %"] }, { fires: "while present" });
    expect(of(on, "fires-again")).toEqual([]);
  });
});

describe("stays-on-plate", () => {
  const stuck = patrol({ does: ["stop", "tone C4 for 0.5 s"] });

  it("finds an answer after which the robot stops and never starts again, and lets it drive on", () => {
    expect(of(stuck, "stays-on-plate")[0].title).toBe("After Coral tag the robot stops and never starts again");
    expect(mended(stuck, "stays-on-plate")).toEqual([]);
    expect(run(stuck, { course: "aisle" }).ending).toBe("time is over");
  });

  it("keeps what was edited since it was found", () => {
    const [{ fix }] = of(stuck, "stays-on-plate");
    const edited = structuredClone(stuck);
    edited.behaviour.modes[0].responses[0].steps.push({ id: "step-9" as never, step: "lamps off" });
    const mended = fix && applyFix(edited, fix.change);
    expect(mended?.behaviour.modes[0].responses[0].steps.map((s) => s.step)).toEqual([
      "stop",
      "tone",
      "lamps off",
      "drive",
    ]);
  });

  it("is silent where the steps are replayed from a list", () => {
    const { document: cards } = splitProject(routeCards());
    expect(of(cards, "stays-on-plate")).toEqual([]);
    expect(of(cards, "no-otherwise")).toEqual([]);
  });

  it("is silent where time, a next mode or a later step sets it going", () => {
    expect(of(patrol({}), "stays-on-plate")).toEqual([]);
    expect(of(patrol({ does: ["stop", "finish"] }), "stays-on-plate")).toEqual([]);
    const after = patrol({ does: ["stop"] }, {}, (p) => {
      const [mode] = p.behaviour.modes;
      mode.responses.push({
        ...mode.responses[0],
        id: "on" as Response["id"],
        when: { after: 5000 },
        steps: steps(p, "drive 30 %"),
      });
    });
    expect(of(after, "stays-on-plate")).toEqual([]);
  });
});

describe("too-fast", () => {
  const fast = patrol({ entering: ["drive 100 %"] }, {}, (p) => {
    for (const patch of p.courses[0].patches) if (patch.target === "coral") patch.shape = { rect: [34, 150] };
  });

  it("states the speed that would do, and at that speed the patches are seen", () => {
    const [finding] = of(fast, "too-fast");
    expect(finding.sentence).toMatch(
      /^At 100 % \(40 cm\/s\) as few as 2 whole readings fall on 3\.4 cm of it, and 3 are needed\. Up to 8\d % would do\.$/,
    );
    const slow = applyFix(fast, finding.fix?.change as Parameters<typeof applyFix>[1]);
    expect(of(slow, "too-fast")).toEqual([]);
    const seen = run(slow, { course: "aisle", limitMs: 6000 }).notes.filter(
      (n) => n.kind === "arrives" && n.target === "coral",
    );
    expect(seen.length).toBeGreaterThan(0);
  });

  it("is silent about what is not answered, and at a speed that does", () => {
    expect(of(patrol({ entering: ["drive 35 %"] }), "too-fast")).toEqual([]);
    const deaf = structuredClone(fast);
    deaf.behaviour.modes[0].responses[0].on = false;
    expect(of(deaf, "too-fast")).toEqual([]);
  });
});

describe("reverses-at-once", () => {
  const rash = patrol({ does: ["drive 90 % for 10 cm", "drive -90 % for 10 cm", "drive 30 %"] }, {}, (p) => {
    if (p.robot.kind === "cart") p.robot.tractionMmS2 = 1500;
  });

  it("finds wheels turned round at full speed, which slip, and stops between", () => {
    expect(of(rash, "reverses-at-once")).toHaveLength(1);
    expect(mended(rash, "reverses-at-once")).toEqual([]);
    expect(run(rash, { course: "aisle", limitMs: 8000 }).slipping.includes(1)).toBe(true);
  });

  it("is silent where the floor holds the wheels", () => {
    expect(
      of(patrol({ does: ["drive 15 % for 10 cm", "drive -15 % for 10 cm", "drive 30 %"] }), "reverses-at-once"),
    ).toEqual([]);
  });
});

describe("drives-backwards", () => {
  const turned = patrol({}, {}, (p) => {
    if (p.robot.kind === "cart") for (const motor of p.robot.motors) motor.mountedReversed = true;
  });

  it("finds a motor that is mounted reversed and not inverted, one finding each", () => {
    expect(of(turned, "drives-backwards").map((f) => f.title)).toEqual([
      "left-motor drives backwards",
      "right-motor drives backwards",
    ]);
    expect(mended(turned, "drives-backwards")).toHaveLength(1);
    expect(run(turned, { course: "aisle", limitMs: 2000 }).ending).toBe("left the course");
  });

  it("is silent where it is inverted too", () => {
    const inverted = structuredClone(turned);
    if (inverted.robot.kind === "cart") for (const motor of inverted.robot.motors) motor.invert = true;
    expect(of(inverted, "drives-backwards")).toEqual([]);
  });
});

describe("modes", () => {
  const withMode = (then?: ModeId | "finish", leave?: ModeId | "finish") =>
    patrol({}, then === undefined ? {} : { then }, (p) => {
      p.behaviour.modes.push({
        id: "shed" as ModeId,
        name: "Shed",
        entering: [],
        responses:
          leave === undefined
            ? []
            : [{ ...p.behaviour.modes[0].responses[0], id: "out" as Response["id"], then: leave }],
      });
    });

  it("that nothing leads into are found", () => {
    expect(of(withMode(), "mode-unreachable").map((f) => f.place.mode)).toEqual(["shed"]);
    expect(of(withMode("shed" as ModeId), "mode-unreachable")).toEqual([]);
  });

  it("that lead nowhere are found, but a single mode may go on for ever", () => {
    expect(of(withMode("shed" as ModeId), "mode-without-exit").map((f) => f.place.mode)).toEqual(["shed"]);
    expect(of(withMode("shed" as ModeId, "finish"), "mode-without-exit")).toEqual([]);
    expect(of(patrol({}), "mode-without-exit")).toEqual([]);
  });

  it("that only wait for things to be seen have no otherwise", () => {
    expect(of(patrol({}), "no-otherwise")).toHaveLength(1);
    const waits = (kind: "hand" | "sorter") =>
      patrol({ entering: [] }, {}, (p) => {
        p.robot = ROBOTS.get(kind).fresh(p.robot);
      });
    expect([of(waits("hand"), "no-otherwise"), of(waits("sorter"), "no-otherwise")]).toEqual([[], []]);
    expect(of(patrol({ when: "after 3 s" }), "no-otherwise")).toEqual([]);
    expect(of(document, "no-otherwise")).toEqual([]);
  });
});

describe("never-reached", () => {
  it("finds steps after one that finishes, also by a routine, and leaves them out", () => {
    const late = patrol({ does: ["stop", "finish", "wait 1 s", "drive 30 %"] });
    const [found] = of(late, "never-reached");
    expect([found.title, found.sentence]).toEqual([
      "The last 2 steps are never done",
      "The behaviour finishes before them. Put them first, or leave them out.",
    ]);
    expect(mended(late, "never-reached")).toEqual([]);
    const byRoutine = patrol({ does: ["stop"] }, {}, (p) => {
      p.behaviour.routines.push({ id: "leave" as never, name: "Leave", steps: numbered("step", [{ step: "finish" }]) });
      p.behaviour.modes[0].responses[0].steps.push(
        { id: "step-8" as never, step: "do", routine: "leave" as never },
        { id: "step-9" as never, step: "stop" },
      );
    });
    expect(of(byRoutine, "never-reached").map((f) => f.title)).toEqual(["The last step is never done"]);
    expect(mended(byRoutine, "never-reached")).toEqual([]);
  });

  it("finds them within a routine, once for all who do it, and leaves them out", () => {
    const within = patrol({ does: ["stop"] }, {}, (p) => {
      const routine = "leave" as never;
      p.behaviour.routines.push({
        id: routine,
        name: "Leave",
        steps: numbered("step", [{ step: "stop" }, { step: "finish" }, { step: "stop" }]),
      });
      p.behaviour.modes[0].entering.push({ id: "step-9" as never, step: "do", routine });
      p.behaviour.modes[0].responses[0].steps.push({ id: "step-9" as never, step: "do", routine });
    });
    expect(of(within, "never-reached")).toMatchObject([
      {
        title: "The last step of the routine Leave is never done",
        sentence: "The behaviour finishes before it. Put it first, or leave it out.",
        place: { stage: "act", routine: "leave" },
      },
    ]);
    expect(mended(within, "never-reached")).toEqual([]);
  });

  it("is silent where it stands last", () => {
    expect(of(patrol({ does: ["stop", "finish"] }), "never-reached")).toEqual([]);
    expect(of(document, "never-reached")).toEqual([]);
  });
});

describe("rejoin-swallows", () => {
  const rejoin = (project: ProjectDocument, rejoinMs: number) => {
    for (const set of project.ruleSets) set.steady.rejoinMs = rejoinMs;
    return project;
  };

  it("says how near in mm and ms where that is less than a centimetre", () => {
    const near = rejoin(
      patrol({}, {}, (p) => {
        const patch = p.courses[0].patches.find((one) => one.target === "coral");
        if (patch === undefined) throw new Error("no coral");
        patch.shape = { rect: [40, 40] };
        p.courses[0].patches = [patch, { ...patch, at: [patch.at[0] + 46, patch.at[1]] }];
      }),
      2000,
    );
    expect(of(near, "rejoin-swallows")[0].sentence).toMatch(/^They lie 6 mm apart on .*, which takes \d+ ms, and/);
  });

  it("looks at the plates of a rail", () => {
    const rail = structuredClone(splitProject(pipeRailCarrier()).document);
    const course = rail.courses[0];
    if (!("plates" in course)) throw new Error("no rail");
    const [plate] = course.plates;
    course.plates = [
      { ...plate, target: "coral" as never, at: 300, length: 60 },
      { ...plate, target: "coral" as never, at: 380, length: 60 },
    ];
    rail.courses = [course];
    rail.targets = structuredClone(document.targets);
    expect(of(rejoin(rail, 20_000), "rejoin-swallows")[0].sentence).toMatch(/^They lie 20 mm apart/);
  });
});

describe("waits-for-itself", () => {
  const waiting = patrol({ does: ["stop", "wait until tally >= 1", "count tally + 1", "drive 30 %"] });

  it("finds steps that wait for a count that only they could change", () => {
    expect(of(waiting, "waits-for-itself")).toHaveLength(1);
    expect(mended(waiting, "waits-for-itself")).toEqual([]);
    expect(run(waiting, { course: "aisle" }).ending).toBe("time is over");
  });

  it("is silent where a response that takes over counts, and about what is seen", () => {
    const helped = structuredClone(waiting);
    helped.behaviour.modes[0].responses.push({
      ...helped.behaviour.modes[0].responses[0],
      id: "other" as Response["id"],
      when: { after: 9000 },
      steps: steps(helped, "count tally + 1"),
      busy: "take over",
    });
    expect(of(helped, "waits-for-itself")).toEqual([]);
    expect(of(patrol({ does: ["stop", "wait until not coral", "drive 30 %"] }), "waits-for-itself")).toEqual([]);
  });
});

describe("off-course", () => {
  const at = (change: (course: ProjectDocument["courses"][0]) => void) => {
    const project = structuredClone(document);
    change(project.courses[0]);
    return of(project, "off-course").map((f) => f.title);
  };

  it("finds starts and patches beside the course, and a robot wider than it", () => {
    expect(at((c) => Object.assign(c.starts[0], { x: -20 }))).toEqual(["South door lies beside Aisle"]);
    expect(at((c) => (c.patches[0].at = [560, 1500]))).toEqual(["Something lies beside Aisle"]);
    expect(at((c) => (c.size = [2200, 100]))[0]).toBe("Nursery cart is wider than Aisle");
  });

  it("is silent about the demo, and about a start on the very edge", () => {
    expect(of(document, "off-course")).toEqual([]);
    expect(at((c) => Object.assign(c.starts[0], { x: 0 }))).toEqual([]);
  });
});
