import { describe, expect, it } from "vitest";
import { namesOf, parseStep, parseTrigger, type Response } from "../behaviour";
import { must } from "../behaviour/arbitrary";
import { glasshouseRound } from "../demo";
import { numbered, type SensorId, type TargetId } from "../names";
import { type ProjectDocument, ProjectDocument as Schema, splitProject } from "../project";
import type { RawReadings, Sensor } from "../readings";
import { judgeTapes, markedTapes, nearestFromMarks, sampleOf } from "../teaching";
import { run, verdicts } from "../world";
import { applyFix, asideOf, type Finding, type FindingCode, FixTrial, findAll, findProven, isAside } from ".";

const { document, readings } = splitProject(glasshouseRound());
type Draft = ProjectDocument;
function changed(change: (project: Draft) => void): ProjectDocument {
  const project = structuredClone(document);
  change(project);
  return project;
}
const names = namesOf(document);
const steps = (...phrases: string[]) =>
  numbered(
    "step",
    phrases.map((phrase) => must(parseStep(phrase, names))),
  );
const response = (when: string, ...phrases: string[]): Response => ({
  id: "made" as Response["id"],
  when: must(parseTrigger(when, names)),
  steps: steps(...phrases),
  fires: "once per visit",
  busy: "let it finish",
  on: true,
});
const found = (project: ProjectDocument, code: FindingCode, raw = readings) =>
  findProven(project, raw).filter((f) => f.code === code);
/** The project with the only finding of a code mended, which must have a fix that mends. */
function mended(project: ProjectDocument, code: FindingCode, raw = readings): ProjectDocument {
  const [finding] = found(project, code, raw);
  if (finding?.fix === undefined) throw new Error(`${code} has no fix that mends`);
  const made = applyFix(project, finding.fix.change);
  expect(made).not.toEqual(project);
  expect(() => Schema.parse(made)).not.toThrow();
  expect(found(made, code, raw)).toEqual([]);
  return made;
}
const shareOf = (project: ProjectDocument, raw = readings) => {
  const { marked, right } = judgeTapes(project, markedTapes(project, raw)).score;
  return right / marked;
};

describe("a fix", () => {
  it("that brings a warning in the place of another does not mend", () => {
    // Without checks and with all readings judged as before, only what is found can tell.
    const bare = changed((p) => {
      for (const course of p.courses) course.checks = [];
    });
    const [set] = bare.ruleSets;
    const [any] = findAll({ project: bare, tapes: markedTapes(bare, readings) });
    const gone: Finding = { ...any, place: { ...any.place, about: "what goes with any change" } };
    const trial = new FixTrial(bare, readings);
    expect(trial.mends(gone, { ruleSet: set.id, rejoinMs: set.steady.rejoinMs + 10 })).toBe(true);
    expect(trial.mends(gone, { ruleSet: set.id, rejoinMs: 5000 })).toBe(false);
  });
});

describe("what the demo is told", () => {
  it("is what it was made to show, and no more that presses", () => {
    expect(
      findProven(document, readings)
        .filter((f) => f.level !== "hint")
        .map((f) => [f.code, f.fix !== undefined]),
    ).toEqual([["background-taken", true]]);
  });
});

describe("a fault of the sensors", () => {
  it("that colours come in another order is told as that, and mended", () => {
    // Of a demo without the fault that it is there to show.
    const whole = mended(document, "background-taken");
    const swapped = { ...whole, sensors: whole.sensors.map((s, i) => (i === 0 ? { ...s, order: "bgr" as const } : s)) };
    expect(found(whole, "wrong-order")).toEqual([]);
    const [finding] = found(swapped, "wrong-order");
    expect(finding.sentence).toMatch(/with the colours as red, green, blue it is \d+ %/);
    expect(shareOf(mended(swapped, "wrong-order"))).toBeGreaterThan(0.9);
    // The demo's own fault, which comes to light with it, does not stand in the way.
    const both = {
      ...document,
      sensors: document.sensors.map((s, i) => (i === 0 ? { ...s, order: "bgr" as const } : s)),
    };
    expect(found(both, "wrong-order")[0].fix?.label).toBe("Read red, green, blue");
  });

  it("that its scale is another is told as that, and mended", () => {
    const bare = changed((p) => {
      delete p.sensors[0].reference;
      p.tapes = p.tapes.filter((tape) => tape.sensor === p.sensors[0].id);
      const sample = sampleOf(p, markedTapes(p, readings), p.ruleSets[0].id);
      p.ruleSets[0] = nearestFromMarks(p.ruleSets[0], sample);
    });
    expect(found(bare, "wrong-order")).toEqual([]);
    const scaled = structuredClone(bare);
    scaled.sensors[0].scale = { r: [0, 4095], g: [0, 4095], b: [0, 4095] };
    expect(mended(scaled, "wrong-order").sensors[0].scale.r).toEqual([0, 1023]);
  });

  it("that two codes are exchanged is told as that, and mended", () => {
    const code: Sensor = {
      ...document.sensors[0],
      id: "coder" as SensorId,
      name: "Coder",
      reports: "code",
      scale: {},
      order: undefined as never,
      reference: undefined as never,
      codes: { 1: "teal" as TargetId, 2: "coral" as TargetId, 3: "amber" as TargetId },
    };
    const n = 60;
    const raw: RawReadings = {
      t: Float64Array.from({ length: n }, (_, i) => i * 20),
      channels: { code: Float64Array.from({ length: n }, (_, i) => 1 + Math.floor(i / 20)) },
    };
    const mark = (from: number, target: string) => ({
      from: from * 20,
      to: (from + 19) * 20,
      target: target as TargetId,
    });
    const project = changed((p) => {
      p.sensors = [...p.sensors, JSON.parse(JSON.stringify(code)) as Sensor];
      p.tapes = [
        {
          id: "codes" as never,
          name: "Codes",
          sensor: code.id,
          origin: "import",
          marks: numbered("mark", [mark(0, "coral"), mark(20, "teal"), mark(40, "amber")]),
        },
      ];
    });
    const own = new Map([["codes" as never, raw]]);
    expect(found(project, "codes-exchanged", own)[0].sentence).toBe(
      "20 of its 20 marked readings are of Coral tag, and it is mapped to Teal tag. So is one other.",
    );
    expect(mended(project, "codes-exchanged", own).sensors.at(-1)?.codes).toEqual({
      1: "coral",
      2: "teal",
      3: "amber",
    });
  });

  it("that it hangs elsewhere than where it was taught is told, and mended", () => {
    const project = changed((p) => {
      p.robot.mounts[0].z = 60;
      for (const tape of p.tapes) for (const mark of tape.marks) mark.height = 14;
    });
    expect(found(project, "other-height")[0].sentence).toContain("taken at 14 mm over the ground");
    expect(mended(project, "other-height").robot.mounts[0].z).toBe(14);
    const near = changed((p) => {
      p.robot.mounts[0].z = 17;
    });
    expect(found(near, "other-height")).toEqual([]);
  });

  it("that twins share rules and one has no white is told", () => {
    const project = changed((p) => {
      delete p.sensors[1].reference;
    });
    expect(found(project, "shared-unlike")[0].title).toBe(`${document.sensors[1].name} has no white and dark`);
    expect(found(document, "shared-unlike")).toEqual([]);
  });

  it("that hsv readings are at the end of their scale is told", () => {
    const n = 40;
    const column = (v: number) => new Float64Array(n).fill(v);
    const project = changed((p) => {
      const { reference: _, order: __, ...bare } = p.sensors[0];
      p.sensors[0] = { ...bare, reports: "hsv", scale: { h: [0, 255], s: [0, 255], v: [0, 255] } } as Sensor;
      p.tapes = [
        {
          ...p.tapes[0],
          id: "hsv" as never,
          marks: numbered("mark", [{ from: 0, to: 800, target: "coral" as TargetId }]),
        },
      ];
    });
    const raw: RawReadings = {
      t: Float64Array.from({ length: n }, (_, i) => i * 20),
      channels: { h: column(5), s: column(200), v: column(255) },
    };
    expect(found(project, "clips", new Map([["hsv" as never, raw]]))[0].title).toBe(
      "Coral tag is too bright for the sensor",
    );
  });
});

describe("a fault of the rules", () => {
  it("that the reject distance is too small is told, with one that does", () => {
    const project = changed((p) => {
      const sample = sampleOf(p, markedTapes(p, readings), p.ruleSets[0].id);
      const made = nearestFromMarks(p.ruleSets[0], sample);
      p.ruleSets[0] = { ...made, nearest: { ...made.nearest, reject: 0.004 } };
    });
    const better = mended(project, "reject-small");
    expect(better.ruleSets[0].nearest.reject).toBeGreaterThan(0.004);
    expect(shareOf(better)).toBeGreaterThan(shareOf(project) + 0.2);
  });

  it("that what comes back is the same visit for too long is told, with a time that does", () => {
    const project = changed((p) => {
      p.ruleSets[0].steady.rejoinMs = 30_000;
    });
    const better = mended(project, "rejoin-swallows");
    expect(better.ruleSets[0].steady.rejoinMs).toBeLessThanOrEqual(500);
    const holds = (p: ProjectDocument) =>
      verdicts(run(p, { course: "aisle" })).filter((v) => v.verdict.outcome === "holds").length;
    expect(holds(better)).toBeGreaterThanOrEqual(holds(project));
    expect(found(document, "rejoin-swallows")).toEqual([]);
  });

  it("is not mended by what would take away a test that another sensor needs", () => {
    const project = changed((p) => {
      const { reference: _, order: __, ...bare } = p.sensors[1];
      p.sensors[1] = { ...bare, reports: "hue", scale: { hue: [0, 360] } } as Sensor;
    });
    const [finding] = found(project, "feature-not-reported");
    expect(finding.fix).toBeUndefined();
    expect(finding.sentence).toContain("give this sensor rules of its own");
  });

  it("of one exact value at the end of its range is widened downwards", () => {
    const project = changed((p) => {
      p.ruleSets[0].rules[0].any[0].all[1] = { feature: "sat", from: 1, to: 1 };
    });
    const [finding] = findAll({ project, tapes: [] }).filter((f) => f.code === "band-is-point");
    expect(finding.sentence).toContain("downwards");
    const made = finding.fix && applyFix(project, finding.fix.change);
    expect(made?.ruleSets[0].rules[0].any[0].all[1].from).toBeLessThan(1);
    const off = structuredClone(project);
    off.ruleSets[0].rules[0].on = false;
    expect(found(off, "band-is-point")).toEqual([]);
  });

  it("whose band misses its readings is not called loose", () => {
    const project = changed((p) => {
      p.ruleSets[0].rules[0].any = numbered("clause", [{ all: [{ feature: "hue", from: 200, to: 230 }] }]);
    });
    expect(found(project, "band-loose")).toEqual([]);
  });
});

describe("a fault of the behaviour", () => {
  const patrol = (change: (mode: ProjectDocument["behaviour"]["modes"][0], p: Draft) => void) =>
    changed((p) => change(p.behaviour.modes[0], p));

  it.each([
    ["after a wait", ["drive 90 %", "wait 0.5 s", "drive -90 %", "stop"]],
    ["right behind a stop", ["drive 90 %", "stop", "drive -90 %", "stop"]],
    ["at once", ["drive 90 % for 10 cm", "drive -90 % for 10 cm", "stop"]],
  ])("that wheels are turned round %s is told, and mended", (_, phrases) => {
    const project = patrol((mode) => {
      mode.entering = steps(...phrases);
      mode.responses = [];
    });
    const better = mended(project, "reverses-at-once");
    expect(better.behaviour.modes[0].entering.length).toBe(phrases.length + 2);
  });

  it("that a response turns round what the mode began is told; after a rest it is not", () => {
    const project = (...phrases: string[]) =>
      patrol((mode) => {
        mode.entering = steps("drive 90 %");
        mode.responses = [response("coral arrives", ...phrases)];
      });
    expect(found(project("drive -90 % for 10 cm"), "reverses-at-once")).toHaveLength(1);
    expect(found(project("stop", "wait 1 s", "drive -90 % for 10 cm"), "reverses-at-once")).toEqual([]);
    expect(found(project("stop", "wait until teal", "drive -90 % for 10 cm"), "reverses-at-once")).toEqual([]);
  });

  it("that a response is off leaves its target unanswered", () => {
    const project = (on: boolean) =>
      patrol((mode, p) => {
        const only = { ...response("violet arrives", "stop"), on };
        p.behaviour.modes = [{ ...mode, entering: steps("drive 30 %"), responses: [only] }];
        p.behaviour.start = mode.id;
      });
    const unanswered = (p: ProjectDocument) => found(p, "target-without-response").map((f) => f.place.target);
    expect([
      unanswered(project(false)).includes("violet" as TargetId),
      unanswered(project(true)).includes("violet" as TargetId),
    ]).toEqual([true, false]);
  });

  it("that it goes by a sensor which is not mounted is told", () => {
    const [, eye] = document.sensors;
    const project = patrol((mode, p) => {
      p.robot.mounts = p.robot.mounts.filter((m) => m.sensor !== eye.id);
      mode.responses = [response(`${eye.id}: coral arrives`, "stop")];
    });
    expect(found(project, "sensor-not-mounted")[0]).toMatchObject({
      level: "error",
      title: `${eye.name} is not on the robot`,
      place: { stage: "act", response: "made" },
    });
    expect(found(document, "sensor-not-mounted")).toEqual([]);
  });

  it("that a counter is asked which nothing counts is told", () => {
    const [counter] = document.behaviour.counters;
    const asking = (...phrases: string[]) =>
      patrol((mode, p) => {
        p.behaviour.modes = [
          {
            ...mode,
            entering: steps("drive 30 %"),
            responses: [
              response(`becomes ${counter} >= 2`, "finish"),
              { ...response("coral arrives", ...phrases), id: "counts" as Response["id"] },
            ],
          },
        ];
        p.behaviour.start = mode.id;
      });
    expect(found(asking("stop"), "never-counted")[0].title).toBe(`Nothing counts ${counter}`);
    expect(found(asking(`count ${counter} + 1`), "never-counted")).toEqual([]);
  });

  it("that a servo is asked beyond its range is told, and mended", () => {
    const project = changed((p) => {
      p.robot.servos = [{ id: "gripper", from: -30, to: 60, at: 0 }];
      p.behaviour.modes[0].entering = [
        { id: "step-9" as never, step: "servo", servo: "gripper", to: 120, speed: 60 },
        ...p.behaviour.modes[0].entering,
      ];
    });
    expect(found(project, "servo-beyond-range")[0].sentence).toContain("−30° to 60°".replace("−", "-"));
    expect(mended(project, "servo-beyond-range").behaviour.modes[0].entering[0]).toMatchObject({ to: 60 });
  });
});

describe("a fix", () => {
  it("of one of two motors that turn the wrong way is offered, though it does not mend all", () => {
    const project = changed((p) => {
      if (p.robot.kind === "cart") for (const motor of p.robot.motors) motor.mountedReversed = true;
    });
    const offered = found(project, "drives-backwards").map((f) => f.fix?.label);
    expect(offered).toEqual(["Invert it", "Invert it"]);
  });

  it("is offered only where it mends: no error more, no smaller share, no check less", () => {
    const trial = new FixTrial(document, readings);
    const [finding] = findAll({ project: document, tapes: markedTapes(document, readings) });
    expect(finding.fix && trial.mends(finding, finding.fix.change)).toBe(true);
    const { ruleSets } = document;
    // It lets the finding go, and half of the readings with it.
    expect(trial.mends(finding, { ruleSet: ruleSets[0].id, rules: [] })).toBe(false);
    expect(trial.mends(finding, { ruleSet: ruleSets[0].id, remove: ruleSets[0].rules[0].id })).toBe(false);
    // It changes nothing.
    expect(trial.mends(finding, { ruleSet: ruleSets[0].id, rules: ruleSets[0].rules })).toBe(false);
    expect(
      trial.proven({ ...finding, fix: { label: "No", change: { ruleSet: ruleSets[0].id, rules: [] } } }).fix,
    ).toBeUndefined();
  });
});

describe("a finding that was put aside", () => {
  const [finding] = findAll({ project: document, tapes: markedTapes(document, readings) });
  const putAside = (project: ProjectDocument, of: Finding) => ({ ...project, putAside: [asideOf(of)] });
  const aside = putAside(document, finding);
  const say = (n: number): Finding => ({ ...finding, sentence: `${n} of 314 readings.`, title: "Moss is taken" });

  it("is kept with the project, and stands last", () => {
    expect(Schema.parse(aside)).toEqual(aside);
    const list = findAll({ project: aside, tapes: markedTapes(aside, readings) });
    expect(list.at(-1)).toMatchObject({ code: finding.code, aside: true });
  });

  it("comes back when a figure changes by more than a quarter", () => {
    const project = putAside(document, say(100));
    expect([90, 100, 125, 133].map((n) => isAside(project, say(n)))).toEqual([true, true, true, true]);
    expect([70, 140, 300].map((n) => isAside(project, say(n)))).toEqual([false, false, false]);
    expect(isAside(project, { ...say(100), place: { stage: "act" } })).toBe(false);
  });
});
