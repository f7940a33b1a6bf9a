import type { FindingCode } from "@perceptum/core/findings";
import { type ModeId, numbered, type RuleId, type SensorId, type TapeId, type TargetId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import type { RawReadings, Sensor } from "@perceptum/core/readings";
import { markedTapes, nearestFromMarks, sampleOf } from "@perceptum/core/teaching";
import { type Chance, chance } from "@perceptum/core/world";
import { type Drawn, drawProject, one, responseOf, stepsOf } from "./drawnProject";

/** One kind of fault: how it is made of a project that is well, and the codes that name its cause. */
export interface Fault {
  name: string;
  codes: readonly FindingCode[];
  make(drawn: Drawn, dice: Chance): Drawn;
}

type Doc = ProjectDocument;
const fault = (name: string, codes: readonly FindingCode[], change: (p: Doc, dice: Chance) => Doc): Fault => ({
  name,
  codes,
  make: ({ project, readings }, dice) => ({ project: change(structuredClone(project), dice), readings }),
});
const tagsOf = (p: Doc) => p.targets.filter((t) => t.kind !== "background");
const inMode = (p: Doc, change: (mode: Doc["behaviour"]["modes"][0]) => void): Doc => {
  change(p.behaviour.modes[0]);
  return p;
};
const first = (p: Doc) => tagsOf(p)[0].id;
const rulesOf = (p: Doc) => p.ruleSets[0].rules;
/** The readings with every raw value changed. */
const reread = ({ project, readings }: Drawn, change: (value: number) => number): Drawn => ({
  project: structuredClone(project),
  readings: new Map(
    [...readings].map(([id, raw]): [TapeId, RawReadings] => [
      id,
      { t: raw.t, channels: Object.fromEntries(Object.entries(raw.channels).map(([c, v]) => [c, v.map(change)])) },
    ]),
  ),
});
/** The project with a sensor that tells codes, right for every tag, and its readings. */
function withCodes({ project, readings }: Drawn, wrong: boolean, unmapped: boolean): Drawn {
  const p = structuredClone(project);
  const tags = tagsOf(p);
  const codes = Object.fromEntries(tags.map((t, i) => [i + 1, t.id]));
  if (wrong) [codes[1], codes[2]] = [codes[2], codes[1]];
  if (unmapped) delete codes[1];
  const { reference: _, order: __, ...bare } = p.sensors[0];
  const sensor = { ...bare, id: "coder" as SensorId, name: "Coder", reports: "code", scale: {}, codes } as Sensor;
  const each = 30;
  const n = each * tags.length;
  const raw: RawReadings = {
    t: Float64Array.from({ length: n }, (_v, i) => i * 20),
    channels: { code: Float64Array.from({ length: n }, (_v, i) => 1 + Math.floor(i / each)) },
  };
  const marks = tags.map((t, i) => ({ from: i * each * 20, to: ((i + 1) * each - 1) * 20, target: t.id }));
  p.sensors.push(sensor);
  p.tapes.push({
    id: "codes" as TapeId,
    name: "Codes",
    sensor: sensor.id,
    origin: "bench",
    marks: numbered("mark", marks),
  });
  return { project: p, readings: new Map([...readings, ["codes" as TapeId, raw]]) };
}

/** Every kind of fault that the bench knows. */
export const FAULTS: readonly Fault[] = [
  fault("a response is off", ["target-without-response"], (p) =>
    inMode(p, (m) => {
      m.responses[0].on = false;
    }),
  ),
  fault("wheels reversed after a wait", ["reverses-at-once"], (p) =>
    inMode(p, (m) => {
      m.entering = stepsOf(p, "drive 90 %", "wait 0.5 s", "drive -90 % for 10 cm", "wait 1 s", "drive 25 %");
    }),
  ),
  fault("wheels reversed right behind a stop", ["reverses-at-once"], (p) =>
    inMode(p, (m) => {
      m.responses[0].steps = stepsOf(p, "drive 85 %", "stop", "drive -85 % for 5 cm", "wait 1 s", "drive 25 %");
    }),
  ),
  fault("wheels reversed by an answer", ["reverses-at-once"], (p) =>
    inMode(p, (m) => {
      m.entering = stepsOf(p, "drive 90 %");
      m.responses[0].steps = stepsOf(p, "drive -90 % for 10 cm", "wait 1 s", "drive 25 %");
    }),
  ),
  fault("the reject distance is too small", ["reject-small"], (p) => p),
  fault("the sensor hangs elsewhere than it was taught", ["other-height"], (p, dice) => {
    p.robot.mounts[0].z = one(dice, [35, 45, 60]);
    return p;
  }),
  fault("the rejoin time swallows the next patch", ["rejoin-swallows"], (p, dice) => {
    p.ruleSets[0].steady.rejoinMs = one(dice, [8000, 15_000, 30_000]);
    const [patch] = p.courses[0].patches;
    p.courses[0].patches[1] = { ...p.courses[0].patches[1], target: patch.target };
    return p;
  }),
  fault("a trigger goes by a sensor that is not mounted", ["sensor-not-mounted"], (p) => {
    p.sensors.push({ ...p.sensors[0], id: "spare" as SensorId, name: "Spare" });
    return inMode(p, (m) => {
      m.responses[0] = responseOf(p, "spare-one", `spare: ${first(p)} arrives`, "stop");
    });
  }),
  fault("a counter is asked that nothing counts", ["never-counted"], (p) => {
    p.behaviour.counters.push("laps");
    return inMode(p, (m) => {
      m.responses.push({ ...responseOf(p, "laps-done", "becomes laps >= 2"), then: "finish" });
    });
  }),
  fault("a list is asked that nothing is jotted to", ["never-counted"], (p) =>
    inMode(p, (m) => {
      m.responses.push({ ...responseOf(p, "route-done", "becomes route holds 2"), then: "finish" });
    }),
  ),
  {
    name: "readings are at the end of the scale",
    codes: ["clips"],
    make: (drawn, dice) => reread(drawn, (v) => Math.min(1023, v * one(dice, [3, 4]))),
  },
  fault("twins share rules and one has no white", ["shared-unlike"], (p) => {
    const { reference: _, ...bare } = p.sensors[0];
    p.sensors.push({ ...bare, id: "twin" as SensorId, name: "Twin" });
    p.robot.mounts.push({ ...p.robot.mounts[0], sensor: "twin" as SensorId, y: 30 });
    return p;
  }),
  fault("a servo is asked beyond its range", ["servo-beyond-range"], (p, dice) => {
    p.robot.servos = [{ id: "arm", from: -90, to: 90, at: 0 }];
    return inMode(p, (m) => {
      m.responses[0].steps.unshift({
        id: "step-0" as never,
        step: "servo",
        servo: "arm",
        to: one(dice, [120, 170, -150]),
        speed: 90,
      });
    });
  }),
  fault("colours come in another order", ["wrong-order"], (p) => {
    p.sensors[0].order = "bgr";
    return p;
  }),
  {
    name: "two codes are exchanged",
    codes: ["codes-exchanged"],
    make: (drawn) => withCodes(drawn, true, false),
  },
  {
    name: "a code stands for nothing",
    codes: ["code-not-mapped"],
    make: (drawn) => withCodes(drawn, false, true),
  },
  fault("the ground is taken", ["background-taken"], (p) => {
    const rules = rulesOf(p);
    rules.push({
      ...rules[0],
      id: "wide" as RuleId,
      any: [{ id: "clause-1" as never, all: [{ feature: "val", from: 0.02 }] }],
    });
    return p;
  }),
  fault("a band is one value", ["band-is-point"], (p, dice) => {
    const { all } = one(dice, rulesOf(p)).any[0];
    all[0] = { ...all[0], from: all[0].from ?? all[0].to ?? 0.4, to: all[0].from ?? all[0].to ?? 0.4 };
    return p;
  }),
  fault("a band loses readings", ["band-tight"], (p, dice) => {
    const { all } = one(dice, rulesOf(p)).any[0];
    all.push({ feature: "val", from: 0.75 });
    return p;
  }),
  fault("hue is asked of grey", ["hue-on-grey", "background-taken"], (p) => {
    const rules = rulesOf(p);
    rules.push({
      ...rules[0],
      id: "any-hue" as RuleId,
      any: [{ id: "clause-1" as never, all: [{ feature: "hue", from: 0, to: 359 }] }],
    });
    return p;
  }),
  fault("no ground is marked", ["no-background"], (p) => {
    const grounds = new Set(p.targets.filter((t) => t.kind === "background").map((t) => t.id));
    for (const tape of p.tapes) tape.marks = tape.marks.filter((m) => !grounds.has(m.target));
    return p;
  }),
  fault("one light only", ["one-light-only"], (p) => {
    p.tapes = p.tapes.slice(0, 1);
    return p;
  }),
  fault("few readings", ["few-readings"], (p) => {
    for (const tape of p.tapes) for (const mark of tape.marks) if (mark.target === first(p)) mark.to = mark.from + 40;
    return p;
  }),
  fault("a target has no rule", ["target-without-rule"], (p) => {
    p.ruleSets[0].rules = rulesOf(p).filter((r) => r.target !== first(p));
    return p;
  }),
  fault("a rule never comes first", ["rule-shadowed"], (p) => {
    const rules = rulesOf(p);
    rules.push({ ...rules[0], id: "again" as RuleId, target: tagsOf(p)[1].id });
    return p;
  }),
  fault("it drives too fast for its patches", ["too-fast"], (p) => {
    for (const patch of p.courses[0].patches) patch.shape = { rect: [16, 200] };
    return inMode(p, (m) => {
      m.entering = stepsOf(p, "drive 95 %");
    });
  }),
  fault("it stays on the plate", ["stays-on-plate"], (p) =>
    inMode(p, (m) => {
      m.responses = [{ ...m.responses[0], steps: stepsOf(p, "stop", "wait 0.5 s") }];
    }),
  ),
  fault("an answer fires again and again", ["fires-again"], (p) =>
    inMode(p, (m) => {
      const again = responseOf(p, "again", `${first(p)} is present`, "stop", "wait 1 s");
      m.responses = [{ ...again, fires: "while present" }, ...m.responses.slice(1)];
    }),
  ),
  fault("nothing leads into a mode", ["mode-unreachable"], (p) => {
    p.behaviour.modes.push({ ...p.behaviour.modes[0], id: "lost" as ModeId, name: "Lost" });
    return p;
  }),
  fault("a mode has no way out", ["mode-without-exit"], (p) => {
    p.behaviour.modes.push({ id: "end" as ModeId, name: "End", entering: [], responses: [] });
    return inMode(p, (m) => {
      m.responses[0].then = "end" as ModeId;
    });
  }),
  fault("it waits for itself", ["waits-for-itself"], (p) =>
    inMode(p, (m) => {
      m.responses[0].steps = stepsOf(p, "stop", "wait until tally >= 1", "drive 25 %", "count tally + 1");
    }),
  ),
  fault("a motor turns the wrong way", ["drives-backwards"], (p) => {
    if (p.robot.kind === "cart") p.robot.motors[0].mountedReversed = true;
    return p;
  }),
  fault("the start lies beside the course", ["off-course"], (p) => {
    Object.assign(p.courses[0].starts[0], { x: -50 });
    return p;
  }),
  fault("a rule tests what the sensor does not report", ["feature-not-reported"], (p) => {
    const { all } = rulesOf(p)[0].any[0];
    all.push({ feature: "reflected", from: 0.1 });
    return p;
  }),
  fault("white and dark are another sensor’s", ["settings-of-another-sensor"], (p) => {
    p.sensors[0].reference = { dark: [10, 10, 10], white: [2400, 2300, 2500] };
    return p;
  }),
  {
    name: "two targets read alike",
    codes: ["targets-overlap"],
    make({ project, readings }) {
      const p = structuredClone(project);
      const [a, b] = tagsOf(p);
      // Half of what is marked as one is marked as the other.
      for (const tape of p.tapes)
        tape.marks = tape.marks.flatMap((mark) => {
          if (mark.target !== a.id && mark.target !== b.id) return [mark];
          const middle = Math.round((mark.from + mark.to) / 40) * 20;
          if (mark.target === b.id) return [];
          return [
            { ...mark, to: middle - 20 },
            { ...mark, id: `${mark.id}-b` as typeof mark.id, from: middle, target: b.id as TargetId },
          ];
        });
      return { project: p, readings };
    },
  },
];

/** A project with one fault, drawn anew; how well it was before is the same draw without. */
export function faulty(fault: Fault, seed: number): { before: Drawn; after: Drawn } {
  const before = drawProject(seed);
  if (fault.codes[0] !== "reject-small") return { before, after: fault.make(before, chance(seed, fault.name)) };
  const { project, readings } = before;
  const sample = sampleOf(project, markedTapes(project, readings), project.ruleSets[0].id);
  const near = nearestFromMarks(project.ruleSets[0], sample);
  const by = (reject: number): Drawn => ({
    project: { ...project, ruleSets: [{ ...near, nearest: { ...near.nearest, reject } }] },
    readings,
  });
  return { before: by(near.nearest.reject), after: by(0.004) };
}
