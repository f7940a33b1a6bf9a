import {
  type ListedStep,
  namesOf,
  parseStep,
  parseTrigger,
  type Response,
  type Trigger,
} from "@perceptum/core/behaviour";
import {
  type CourseId,
  type LightId,
  numbered,
  type TapeId,
  type TargetId,
  type Unlisted,
} from "@perceptum/core/names";
import { emptyProject, type ProjectDocument } from "@perceptum/core/project";
import {
  type Light,
  type Mark,
  type RawReadings,
  REPORT_KINDS,
  type Sensor,
  type TapeHead,
} from "@perceptum/core/readings";
import type { Target } from "@perceptum/core/rules";
import { markedTapes, nearestFromMarks, sampleOf, suggest } from "@perceptum/core/teaching";
import { BenchStand, type Chance, type Course, chance, emptyCourse, type Under } from "@perceptum/core/world";

/** A project with its readings. */
export interface Drawn {
  project: ProjectDocument;
  readings: Map<TapeId, RawReadings>;
}

const PAINTS: readonly (readonly [string, string])[] = [
  ["Red", "#c8322e"],
  ["Orange", "#e07b1f"],
  ["Yellow", "#e0c02a"],
  ["Green", "#3f9a47"],
  ["Teal", "#1f8f94"],
  ["Blue", "#2f5fb0"],
  ["Violet", "#7a4fa8"],
  ["Pink", "#d86aa0"],
];
/** What a sensor of reflected light tells apart. */
const DARK_AND_LIGHT: typeof PAINTS = [
  ["Black", "#101112"],
  ["White", "#f4f4f0"],
];
const GROUNDS: typeof PAINTS = [
  ["Slate", "#63676b"],
  ["Concrete", "#a8a59c"],
  ["Timber", "#7d6248"],
];
const PERIOD = 20;
const READINGS = 60;

/** One of a list, each as likely. */
export const one = <T>(dice: Chance, of: readonly T[]): T => of[Math.floor(dice.uniform() * of.length)];

/** The list in another order. */
export function shuffled<T>(dice: Chance, of: readonly T[]): T[] {
  const left = [...of];
  return of.map(() => left.splice(Math.floor(dice.uniform() * left.length), 1)[0]);
}

export const must = <T>(parsed: { value: T } | { problem: { message: string } }): T => {
  if ("problem" in parsed) throw new Error(parsed.problem.message);
  return parsed.value;
};
export const stepsOf = (project: ProjectDocument, ...phrases: string[]): ListedStep[] =>
  numbered(
    "step",
    phrases.map((phrase) => must(parseStep(phrase, namesOf(project)))),
  );
const triggerOf = (project: ProjectDocument, phrase: string): Trigger => must(parseTrigger(phrase, namesOf(project)));
export const responseOf = (project: ProjectDocument, id: string, when: string, ...phrases: string[]): Response => ({
  id: id as Response["id"],
  when: triggerOf(project, when),
  steps: stepsOf(project, ...phrases),
  fires: "once per visit",
  busy: "let it finish",
  on: true,
});

/** Readings of everything in one light, as on the bench: each thing for a while, with its mark. */
export function tapeOf(
  sensor: Sensor,
  targets: readonly Target[],
  lights: readonly Light[],
  light: LightId,
  seed: number,
): { head: TapeHead; raw: RawReadings } {
  const marks: Unlisted<Mark>[] = [];
  const rows: (readonly number[])[] = [];
  targets.forEach((target, k) => {
    const settings = { under: target.id as Under, beside: null, share: 0, light, height: 14, tilt: 0, tremble: 0.8 };
    const stand = new BenchStand(sensor, lights, targets, settings, seed * 100 + k);
    const n = target.kind === "background" ? 2 * READINGS : READINGS;
    marks.push({
      from: rows.length * PERIOD,
      to: (rows.length + n - 1) * PERIOD,
      target: target.id,
      light,
      height: 14,
    });
    for (let i = 0; i < n; i++) rows.push(stand.read());
  });
  const { channels } = REPORT_KINDS.get(sensor.reports);
  return {
    head: {
      id: `tape-${light}` as TapeId,
      name: `In ${light}`,
      sensor: sensor.id,
      origin: "bench",
      marks: numbered("mark", marks),
    },
    raw: {
      t: Float64Array.from(rows, (_, i) => i * PERIOD),
      channels: Object.fromEntries(channels.map((name, c) => [name, Float64Array.from(rows, (row) => row[c])])),
    },
  };
}

/** How a drawn project may differ: white and dark not taken, the nearest method, or a sensor of another kind. */
export type Variant = "usual" | "nearest" | "no white" | "hsv" | "reflected";

/** A project as a student would have it: paints, a sensor and lights drawn, rules as suggested, a cart that answers all. */
export function drawProject(seed: number, variant: Variant = "usual"): Drawn {
  const dice = chance(seed, "project");
  const base = emptyProject(`Drawn ${seed}`);
  const about = (x: number, share: number) => x * (1 + share * (2 * dice.uniform() - 1));
  const target = ([name, paint]: readonly [string, string], kind: Target["kind"]): Target => {
    const letters = name.slice(0, 2);
    const code = kind === "background" ? letters.toLowerCase() : letters.toUpperCase();
    return {
      id: name.toLowerCase() as TargetId,
      code,
      name: kind === "background" ? name : `${name} tag`,
      kind,
      paint,
    };
  };
  const targets = [
    ...shuffled(dice, variant === "reflected" ? DARK_AND_LIGHT : PAINTS)
      .slice(0, 3 + Math.floor(dice.uniform() * 3))
      .map((p) => target(p, "tag")),
    ...shuffled(dice, GROUNDS)
      .slice(0, variant === "reflected" ? 1 : 1 + Math.floor(dice.uniform() * 2))
      .map((p) => target(p, "background")),
  ];
  const lights = (["Overcast", "Noon", "Dusk"] as const).map((name, i): Light => {
    const warmth = 0.1 * (2 * dice.uniform() - 1);
    return {
      id: name.toLowerCase() as LightId,
      name,
      rgb: [1 + warmth, 1, 1 - warmth],
      level: about([0.4, 1.2, 0.15][i], 0.3),
    };
  });
  const [plain] = base.sensors;
  const gain = plain.optics.gain.map((g) => about(g, 0.04)) as [number, number, number];
  const bare = kindOf({ ...plain, optics: { ...plain.optics, gain } }, variant);
  const mean = (under: Under) => {
    const settings = { under, beside: null, share: 0, light: lights[0].id, height: 14, tilt: 0, tremble: 0.2 };
    const stand = new BenchStand(bare, lights, targets, settings, seed);
    const sums = REPORT_KINDS.get(bare.reports).channels.map(() => 0);
    for (let i = 0; i < 50; i++)
      stand.read().forEach((raw, c) => {
        sums[c] += raw / 50;
      });
    return sums.map((x) => Math.round(x * 10) / 10);
  };
  const takes = REPORT_KINDS.get(bare.reports).referenced && variant !== "no white";
  const sensor: Sensor = takes ? { ...bare, reference: { white: mean("white-card"), dark: mean("dark-cap") } } : bare;
  const tapes = lights.map(({ id }, i) => tapeOf(sensor, targets, lights, id, seed * 10 + i));
  const readings = new Map(tapes.map(({ head, raw }) => [head.id, raw]));
  let project: ProjectDocument = {
    ...base,
    sensors: [sensor],
    lights,
    targets,
    tapes: tapes.map(({ head }) => head),
    courses: [laneOf(targets)],
    behaviour: { ...base.behaviour, counters: ["tally"], lists: ["route"] },
  };
  const sample = sampleOf(project, markedTapes(project, readings), project.ruleSets[0].id);
  const [set] = project.ruleSets;
  const taught =
    variant === "nearest"
      ? nearestFromMarks(set, sample)
      : { ...set, rules: suggest(sample).rules.map(({ rule }) => rule) };
  project = { ...project, ruleSets: [taught] };
  const tags = targets.filter((t) => t.kind !== "background");
  const mode = project.behaviour.modes[0];
  const responses = [
    ...tags.map(({ id }) =>
      responseOf(
        project,
        `on-${id}`,
        `${id} arrives`,
        "stop",
        "wait 0.3 s",
        `lamp ${id}`,
        "count tally + 1",
        "drive 25 %",
      ),
    ),
    { ...responseOf(project, "at-last", "after 40 s"), then: "finish" as const },
  ];
  const modes = [{ ...mode, entering: stepsOf(project, "drive 25 %"), responses }];
  return { project: { ...project, behaviour: { ...project.behaviour, modes } }, readings };
}

function kindOf(sensor: Sensor, variant: Variant): Sensor {
  if (variant !== "hsv" && variant !== "reflected") return sensor;
  const { order: _, ...rest } = sensor;
  return variant === "hsv"
    ? { ...rest, reports: "hsv", scale: { h: [0, 255], s: [0, 255], v: [0, 255] } }
    : { ...rest, reports: "reflected", scale: { reflected: [0, 1023] } };
}

/** A straight lane with a patch of each tag, and that each is answered once. */
function laneOf(targets: readonly Target[]): Course {
  const tags = targets.filter((t) => t.kind !== "background");
  const [ground] = targets.filter((t) => t.kind === "background");
  return {
    ...emptyCourse("lane" as CourseId, "Lane", ground.id),
    size: [500 + 300 * tags.length, 800],
    starts: [{ name: "Gate", x: 120, y: 400, heading: 0 }],
    patches: tags.map(({ id }, i) => ({
      shape: { rect: [90, 200] as [number, number] },
      target: id,
      at: [400 + 300 * i, 400] as [number, number],
      angle: 0,
    })),
    checks: tags.map(({ id }) => ({ answersOnce: id })),
  } as Course;
}
