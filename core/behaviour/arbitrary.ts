import fc from "fast-check";
import { numbered } from "../names";
import { type Ids, type Names, parsePhrase } from "../phrases";
import { emptyProject, type ProjectDocument, ProjectDocument as Schema, withIds } from "../project";
import type { Sensor } from "../readings";
import type { Target } from "../rules";
import { parseCondition } from "./conditions";
import { namesOf } from "./program";
import type { Response } from "./schema";
import { parseStep } from "./steps";
import { parseTrigger } from "./triggers";

/** Colours that the rules below tell apart on a raw scale of 0..1023: one channel high. */
export const RAW = {
  red: [900, 0, 0],
  dim: [600, 0, 0],
  green: [0, 900, 0],
  blue: [0, 0, 900],
  none: [0, 0, 0],
} as const;
export type Colour = keyof typeof RAW;

/** Names for phrases that stand alone. */
export const NAMES: Ids = {
  targets: ["coral", "teal", "chalk"],
  sensors: ["belly", "left-eye", "right-eye"],
  modes: ["patrol", "home"],
  lamps: ["brow"],
  counters: ["tally"],
  lists: ["route"],
  routines: ["bow"],
  buttons: ["go"],
  servos: ["arm"],
  gates: ["coral-gate"],
  crates: ["coral-crate", "end-crate"],
};

/** What a phrase was read as. @throws Error with what is wrong with it */
export function must<T>(parsed: { value: T } | { problem: { message: string; column: number } }): T {
  if ("problem" in parsed) throw new Error(`column ${parsed.problem.column}: ${parsed.problem.message}`);
  return parsed.value;
}

/** A mode in phrases: its entering steps, and its responses by trigger, steps and whatever else they have. */
export type ModeSketch = {
  entering?: string[];
  on?: [when: string, steps: string[], more?: Partial<Response> & { onlyIf?: string }][];
};

/** The same project with a camera in the place of its first sensor. */
export function withCamera(project: ProjectDocument, frame = { width: 320, height: 240 }): ProjectDocument {
  const [{ reference: _, codes: __, ...first }, ...others] = project.sensors;
  const scale = { r: [0, 255], g: [0, 255], b: [0, 255] } as Sensor["scale"];
  const camera: Sensor = {
    ...first,
    reports: "frames",
    scale,
    frame: { ...frame, rows: "top first" },
    clean: { erode: 0, dilate: 0 },
    minArea: 1,
    camera: { viewDeg: 60 },
  };
  return { ...project, sensors: [camera, ...others] };
}

/** A project in which red, green and blue are seen at once and given up at once. */
export function project(modes: Record<string, ModeSketch>, routines: Record<string, string[]> = {}): ProjectDocument {
  const base = emptyProject("test");
  const target = (id: string): Target => ({
    id: id as Target["id"],
    code: id.slice(0, 2),
    name: id,
    kind: "tag",
    paint: "#123456",
  });
  const withNames = {
    ...base,
    // A second sensor to the side, that tells only reflected light, and one that the robot does not carry.
    sensors: [
      ...base.sensors,
      {
        ...base.sensors[0],
        id: "side",
        name: "Side",
        order: undefined,
        reports: "reflected",
        scale: { reflected: [0, 1023] },
      },
      { ...base.sensors[0], id: "spare", name: "Spare" },
    ],
    robot: {
      ...base.robot,
      mounts: [...base.robot.mounts, { ...base.robot.mounts[0], sensor: "side", y: 40 }],
      buttons: ["start-key"],
      servos: [{ id: "arm", from: -90, to: 90, at: 0 }],
    },
    targets: [...base.targets, target("red"), target("green"), target("blue")],
    ruleSets: [
      {
        ...base.ruleSets[0],
        rules: (["red", "green", "blue"] as const).map((id) => ({
          id,
          target: id,
          on: true,
          any: [{ all: [{ feature: id[0], from: 0.5 }] }],
        })),
        steady: { hits: 1, of: 1, release: 1, rejoinMs: 0 },
      },
    ],
    behaviour: {
      start: Object.keys(modes)[0],
      counters: ["tally"],
      lists: ["route"],
      routines: [],
      modes: Object.keys(modes).map((id) => ({ id, name: id, entering: [], responses: [] })),
    },
  };
  const names: Names = { ...namesOf(withNames as unknown as ProjectDocument), routines: Object.keys(routines) };
  const steps = (phrases: string[]) =>
    numbered(
      "step",
      phrases.map((p) => must(parseStep(p, names))),
    );
  const made = Object.entries(modes).map(([id, { entering = [], on = [] }]) => ({
    id,
    name: id,
    entering: steps(entering),
    responses: on.map(([when, phrases, { onlyIf, ...more } = {}], i) => ({
      id: `${id}-${i + 1}`,
      when: must(parseTrigger(when, names)),
      steps: steps(phrases),
      fires: "once per visit",
      busy: "let it finish",
      on: true,
      ...(onlyIf && { guard: must(parsePhrase(onlyIf, names, parseCondition)) }),
      ...more,
    })),
  }));
  const named = Object.entries(routines).map(([id, phrases]) => ({ id, name: id, steps: steps(phrases) }));
  return Schema.parse(withIds({ ...withNames, behaviour: { ...withNames.behaviour, modes: made, routines: named } }));
}

const WHENS = [
  "red arrives",
  "green or blue arrives",
  "red departs",
  "green is present",
  "nothing known for 0.1 s",
  "after 0.15 s",
  "becomes red",
  "becomes r >= 80 %",
  "holds blue and g <= 10 %",
  "holds tally >= 3",
  "becomes button start-key",
  "side: nothing known for 0.1 s",
  "becomes reflected >= 80 %",
  "spare: red arrives",
  "spare: green is present",
  "spare: nothing known for 0.05 s",
  "becomes spare: red or tally >= 2",
];
const STEPS = [
  "drive 30 %",
  "drive 30 % for 0.1 s",
  "drive 20 % for 3 cm",
  "drive 20 % until r >= 85 %",
  "wheels 20 % 30 % until green",
  "stop",
  "wait 0.05 s",
  "wait until r >= 90 % or unknown, at most 0.2 s",
  "count tally + 1",
  "jot to route",
  "log hue",
  "tone C4 for 0.05 s",
  "meanwhile tone C4 for 0.1 s",
  "follow red left edge at 25 % for 0.1 s",
  "follow green right edge at 30 %",
  "meanwhile follow red left edge at 20 %",
  "meanwhile drive 10 % until reflected >= 50 %",
  "meanwhile drive 10 % for 2 cm",
  "turn left 40 at 20 %",
  "turn right 20 % for 0.07 s",
  "wheels 30 % -10 % for 0.3 rev",
  "go to there",
  "go to here",
];
const GUARDS = ["r >= 80 %", "not green", "tally <= 2", "button start-key"];

/** Behaviours of two modes with whatever may go by time, by what is seen, and by what is read. */
export const behaviours: fc.Arbitrary<Record<string, ModeSketch>> = (() => {
  const steps = fc.array(fc.constantFrom(...STEPS), { maxLength: 4 });
  const response = fc
    .record({
      when: fc.constantFrom(...WHENS),
      steps,
      onlyIf: fc.option(fc.constantFrom(...GUARDS), { nil: undefined, freq: 3 }),
      fires: fc.constantFrom("once per visit" as const, "while present" as const),
      busy: fc.constantFrom("let it finish" as const, "take over" as const),
      restMs: fc.constantFrom(0, 40),
    })
    .map(({ when, steps, ...more }): [string, string[], typeof more] => [when, steps, more]);
  const mode = fc.record({ entering: steps, on: fc.array(response, { maxLength: 4 }) });
  return fc.record({ here: mode, there: mode });
})();
