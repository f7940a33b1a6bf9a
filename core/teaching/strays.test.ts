import { describe, expect, it } from "vitest";
import { glasshouseRound } from "../demo";
import { type LightId, numbered, type TapeId, type TargetId } from "../names";
import { emptyProject, type ProjectDocument, splitProject } from "../project";
import type { Sensor, TapeHead } from "../readings";
import type { Target } from "../rules";
import { BenchStand } from "../world";
import {
  doubtfulStretches,
  judgeTapes,
  leaveOneLightOut,
  lightsIn,
  markedTapes,
  nearestLeftOut,
  sampleOf,
  shareOfTrials,
  straysOf,
  suggest,
} from ".";

const { document, readings } = splitProject(glasshouseRound());
const [set] = document.ruleSets;
function changed(change: (p: ProjectDocument) => void): ProjectDocument {
  const project = structuredClone(document);
  change(project);
  return project;
}
const tapesOf = (p: ProjectDocument) => markedTapes(p, readings).filter((t) => t.sensor.ruleSet === set.id);
/** The share judged rightly by the suggestion of a project's marks, on the marks as they should be. */
function shareWith(p: ProjectDocument): { share: number; taken: number } {
  const rules = suggest(sampleOf(p, tapesOf(p), set.id)).rules.map((r) => r.rule);
  const { score } = judgeTapes({ ...document, ruleSets: [{ ...set, rules }] }, tapesOf(document));
  return { share: score.right / score.marked, taken: score.byLight.reduce((n, l) => n + l.taken, 0) };
}
/** One mark of a target made longer at its end, over what lies beside it and is marked so no more. */
const longer = (target: string, ms: number) =>
  changed((p) => {
    const { marks } = p.tapes[0];
    const mark = marks.find((m) => m.target === target);
    if (mark === undefined) throw new Error(`${target} is not marked`);
    const end = mark.to + ms;
    p.tapes[0].marks = marks
      .map((m) => (m !== mark && m.from > mark.from && m.from <= end ? { ...m, from: end + 1 } : m))
      .filter((m) => m.from <= m.to);
    const own = p.tapes[0].marks.find((m) => m.target === target);
    if (own) own.to = end;
  });

/** A tape of things read one after the other at the stand in one light, 40 readings each, all marked. */
function tapeAtStand(sensor: Sensor, light: LightId, targets: readonly Target[], seed: number) {
  const things = targets.map((t) => t.id);
  const settings = (under: TargetId) => ({ under, beside: null, share: 0, light, height: 14, tilt: 0, tremble: 0.4 });
  const stand = new BenchStand(sensor, document.lights, targets, settings(things[0]), seed);
  const channels = { r: [] as number[], g: [] as number[], b: [] as number[] };
  const marks = things.map((target, k) => {
    stand.set(settings(target));
    for (let i = 0; i < 40; i++) {
      const [r, g, b] = stand.read();
      channels.r.push(r);
      channels.g.push(g);
      channels.b.push(b);
    }
    return { from: 800 * k, to: 800 * k + 780, target, light, height: 14 };
  });
  const head: TapeHead = {
    ...document.tapes[0],
    id: `stand-${seed}` as TapeId,
    sensor: sensor.id,
    marks: numbered("mark", marks),
  };
  const raw = {
    t: Float64Array.from(channels.r, (_, i) => 20 * i),
    channels: {
      r: Float64Array.from(channels.r),
      g: Float64Array.from(channels.g),
      b: Float64Array.from(channels.b),
    },
  };
  return { head, raw };
}

describe("strays of the marks", () => {
  it("are hardly any where the marks are right", () => {
    const strays = straysOf(sampleOf(document, tapesOf(document), set.id));
    expect(strays.filter((s) => s > 0).length).toBeLessThan(0.003 * strays.length);
    expect(doubtfulStretches(document, tapesOf(document), set.id)).toEqual([]);
  });

  it.each([100, 160, 240])("of a mark %i ms too long move no bound", (ms) => {
    const plain = shareWith(document);
    expect(plain.share).toBeGreaterThan(0.995);
    const stretched = shareWith(longer("coral", ms));
    expect(stretched.share).toBeGreaterThan(plain.share - 0.003);
    expect(stretched.taken).toBeLessThanOrEqual(plain.taken + 5);
  });

  it("of wrong marks move no bound either", () => {
    const wrong = changed((p) => {
      const coral = p.tapes[0].marks.filter((m) => m.target === "coral");
      coral[0].target = "teal" as TargetId;
    });
    expect(shareWith(wrong).share).toBeGreaterThan(0.985);
  });

  it("are told as a stretch of their mark that can be trimmed", () => {
    const project = longer("coral", 160);
    const [stretch, ...more] = doubtfulStretches(project, tapesOf(project), set.id);
    expect(more).toEqual([]);
    expect(stretch).toMatchObject({ tape: project.tapes[0].id, where: "end", target: "coral" });
    expect(document.targets.find((t) => t.id === stretch.like)?.kind).toBe("background");
    const mark = project.tapes[0].marks[stretch.mark];
    expect(mark.target).toBe("coral");
    expect(stretch.to).toBeLessThanOrEqual(mark.to);
    expect(stretch.to - stretch.from).toBeGreaterThan(40);
  });

  it("are told as a whole mark where all of it is of something else", () => {
    const project = changed((p) => {
      const mark = p.tapes[0].marks.find((m) => m.target === "coral");
      if (mark) mark.target = "teal" as TargetId;
    });
    const all = doubtfulStretches(project, tapesOf(project), set.id).filter((s) => s.where === "all");
    expect(all).toMatchObject([{ target: "teal", like: "coral" }]);
  });

  it("are single wrong marks that are strewn over all, and these move no bound", () => {
    const plain = shareWith(document);
    const strewn = changed((p) => {
      const chance = { at: 7 };
      const next = () => {
        chance.at = (chance.at * 48_271) % 2_147_483_647;
        return chance.at;
      };
      for (const tape of p.tapes) {
        const times = readings.get(tape.id)?.t ?? [];
        for (let k = 0; k < times.length / 250; k++) {
          const t = times[next() % times.length];
          tape.marks.push({
            id: `mark-${t}` as never,
            from: t,
            to: t,
            target: p.targets[next() % p.targets.length].id,
          });
        }
        for (const mark of tape.marks) mark.light ??= tape.marks[0].light as LightId;
      }
    });
    const wrong = tapesOf(strewn).reduce((n, tape) => n + tape.head.marks.filter((m) => m.from === m.to).length, 0);
    expect(wrong).toBeGreaterThan(10);
    const made = shareWith(strewn);
    expect(made.share).toBeGreaterThan(plain.share - 0.003);
    expect(made.taken).toBeLessThanOrEqual(plain.taken + 5);
  });

  it("are none of what was measured beside what was simulated, however much apart they are", () => {
    // The same things in the same light: once as a run gave them, once as another sensor would have read them.
    const far = changed((p) => {
      p.tapes = [p.tapes[0], { ...p.tapes[0], id: "photo" as TapeId, origin: "import" }].map((tape, k) => ({
        ...tape,
        origin: k === 0 ? ("run" as const) : ("import" as const),
      }));
    });
    const [first] = readings.values();
    const darker = {
      t: first.t,
      channels: Object.fromEntries(Object.entries(first.channels).map(([c, v]) => [c, v.map((x) => 0.45 * x)])),
    };
    const both = new Map([...readings, ["photo" as TapeId, darker]]);
    const tapes = markedTapes(far, both).filter((t) => t.sensor.ruleSet === set.id);
    expect(doubtfulStretches(far, tapes, set.id)).toEqual([]);
  });

  it("are none of things marked once in each light, however far the lights move them", () => {
    // The floor is of slate too: either of them lies nearer to the other one than to itself in another light.
    const floor = { id: "floor" as TargetId, code: "fl", name: "Floor", kind: "background", paint: "#64666a" } as const;
    const targets = [...document.targets.filter((t) => ["coral", "teal", "amber", "slate"].includes(t.id)), floor];
    const lights = document.lights.slice(0, 2).map((l) => l.id);
    const reference = { dark: [39, 38, 38], white: [591, 592, 590] };
    const own: Sensor = { ...emptyProject("At the stand").sensors[0], ruleSet: set.id, reference };
    const tapes = lights.map((light, n) => tapeAtStand(own, light, targets, n + 1));
    const project = { ...document, targets, sensors: [own], tapes: tapes.map((t) => t.head) };
    const sample = sampleOf(project, markedTapes(project, new Map(tapes.map((t) => [t.head.id, t.raw]))), own.ruleSet);
    expect(lightsIn(sample)).toHaveLength(lights.length);
    expect(straysOf(sample).filter((s) => s > 0)).toHaveLength(0);
  });

  it("are none where there is too little to tell", () => {
    const few = changed((p) => {
      for (const tape of p.tapes) for (const mark of tape.marks) mark.to = mark.from + 60;
    });
    expect(straysOf(sampleOf(few, tapesOf(few), set.id)).every((s) => s === 0)).toBe(true);
    expect(straysOf(sampleOf(document, [], set.id))).toHaveLength(0);
  });
});

describe("both methods in a light that was left out", () => {
  it("are compared on the same readings", () => {
    const sample = sampleOf(document, tapesOf(document), set.id);
    const [bands, nearest] = [leaveOneLightOut(sample), nearestLeftOut(sample)];
    expect(nearest.map((t) => [t.light, t.readings])).toEqual(bands.map((t) => [t.light, t.readings]));
    expect(shareOfTrials(nearest)).toBeGreaterThan(0.6);
    expect(shareOfTrials([])).toBeNaN();
  });
});
