import { type Behaviour, parseStep, parseTrigger, type Step, type Trigger } from "../behaviour";
import type { RuleSetId, SensorId, TapeId, TargetId } from "../names";
import type { Names } from "../phrases";
import { emptyProject, Project, withIds } from "../project";
import { type Light, type Optics, type Sensor, type Tape, unpackReadings } from "../readings";
import type { Target } from "../rules";
import { chance, SensorOptics } from "../world";
import { type Stretch, walk } from "./walk";

const TARGETS = [
  { id: "coral", code: "CO", name: "Coral tag", kind: "tag", paint: "#e4573d" },
  { id: "teal", code: "TE", name: "Teal tag", kind: "tag", paint: "#12868a" },
  { id: "amber", code: "AM", name: "Amber strip", kind: "tag", paint: "#e8a317" },
  { id: "violet", code: "VI", name: "Violet tag", kind: "tag", paint: "#7a4bb5" },
  { id: "chalk", code: "CH", name: "Chalk line", kind: "tag", paint: "#f1efe8" },
  { id: "slate", code: "sl", name: "Slate paving", kind: "background", paint: "#64666a" },
  { id: "moss", code: "mo", name: "Moss strip", kind: "background", paint: "#4d6b2f" },
  { id: "terracotta", code: "tc", name: "Terracotta rim", kind: "background", paint: "#a9532f" },
] as Target[];

const LIGHTS = [
  { id: "overcast", name: "Overcast", rgb: [0.98, 1, 1.04], level: 0.4 },
  { id: "noon-sun", name: "Noon sun", rgb: [1.08, 1, 0.88], level: 1.9 },
  { id: "dusk", name: "Dusk", rgb: [1.1, 0.95, 0.82], level: 0.12 },
  { id: "grow-lamps", name: "Grow lamps", rgb: [1.35, 0.5, 1.25], level: 1.1 },
] as Light[];

const BASE = emptyProject("Glasshouse round");

const BELLY: Sensor = {
  ...BASE.sensors[0],
  optics: {
    ...BASE.sensors[0].optics,
    lampRgb: [1, 1, 0.96],
    gain: [0.56, 0.545, 0.57],
    glare: [0.085, 0.085, 0.085],
    read: 0.0034,
    shot: 0.013,
  },
};

/** A sensor of the same make that differs as two of one make do. */
const likeBelly = (id: string, name: string, gain: Optics["gain"]): Sensor => ({
  ...BELLY,
  id: id as SensorId,
  name,
  optics: { ...BELLY.optics, gain },
});
const LEFT_EYE = likeBelly("left-eye", "Left eye", [0.545, 0.55, 0.56]);
const RIGHT_EYE = likeBelly("right-eye", "Right eye", [0.57, 0.555, 0.55]);

/** Looks at the signs beside the way, from a hand's breadth. */
const SIDE_EYE: Sensor = {
  ...likeBelly("side-eye", "Side eye", [0.56, 0.55, 0.55]),
  ruleSet: "signs" as RuleSetId,
  optics: { ...BELLY.optics, spotMm: 20, bestMm: 90, depthMm: 70, minMm: 10, leakPerMm: 0.004 },
};

const id = (name: string) => name as TargetId;

/** What is walked over, in mm; the same aisle in either light. */
const AISLE: Stretch[] = (
  [
    ["slate", 520],
    ["coral", 240],
    ["slate", 300],
    ["moss", 180],
    ["slate", 260],
    ["teal", 230],
    ["slate", 320],
    ["amber", 320],
    ["slate", 340],
    ["violet", 230],
    ["slate", 280],
    ["terracotta", 190],
    ["slate", 300],
    ["chalk", 120],
    ["slate", 260],
    ["violet", 220],
    ["slate", 240],
    ["coral", 220],
    ["slate", 280],
    ["terracotta", 170],
    ["slate", 260],
  ] as [string, number][]
).map(([target, mm]) => ({ target: id(target), mm }));

/** The reference as the sensor's owner took it: white card in a light, and dark with the cap on, where nothing comes in. */
function referenceIn(
  sensor: Sensor,
  light: Light,
): { dark: [number, number, number]; white: [number, number, number] } {
  const optics = new SensorOptics(sensor, light, TARGETS);
  const noise = chance(7, sensor.id === BELLY.id ? "reference" : `reference of ${sensor.id}`);
  const signal = new Float64Array(3);
  optics.signal([0.9, 0.9, 0.9], 14, signal);
  const sums = [0, 0, 0];
  for (let i = 0; i < 50; i++) {
    optics.measure(signal, noise).forEach((raw, c) => {
      sums[c] += raw;
    });
  }
  return { dark: [6, 6, 6], white: sums.map((sum) => Math.round(sum / 50)) as [number, number, number] };
}

const NAMES: Names = {
  targets: TARGETS.map((t) => t.id),
  sensors: ["belly", "left-eye", "right-eye", "side-eye"],
  modes: ["patrol", "bay", "along", "astride"],
  lamps: [],
  counters: ["tally"],
  lists: [],
  routines: ["water"],
  buttons: [],
  servos: [],
  gates: [],
  crates: [],
};

function written<T>(result: { value: T } | { problem: { message: string } }): T {
  if ("problem" in result) throw new Error(result.problem.message);
  return result.value;
}
const steps = (...phrases: string[]): Step[] => phrases.map((phrase) => written(parseStep(phrase, NAMES)));
const when = (phrase: string): Trigger => written(parseTrigger(phrase, NAMES));

/** Patrol down the aisle: water at coral, slow at amber, into the bay at teal, where two violets are counted. */
function behaviour() {
  const response = (name: string, trigger: string, phrases: string[], more = {}) => ({
    id: name,
    when: when(trigger),
    steps: steps(...phrases),
    fires: "once per visit" as const,
    busy: "let it finish" as const,
    on: true,
    ...more,
  });
  return {
    start: "patrol",
    counters: ["tally"],
    routines: [{ id: "water", name: "Water", steps: steps("stop", "lamp coral blink 2 Hz", "wait 2 s", "lamp off") }],
    modes: [
      {
        id: "patrol",
        name: "Patrol",
        entering: steps("drive 35 %"),
        responses: [
          response("water", "coral arrives", ["stop", "lamp coral blink 2 Hz", "wait 2 s", "lamp off", "drive 35 %"]),
          response("slow", "amber is present", ["drive 15 %", "tone G4 for 0.3 s"]),
          response("go-on", "nothing known for 0.4 s", ["drive 35 %"]),
          response("into-the-bay", "teal arrives", ["stop", "lamp teal"], { then: "bay" }),
          response("find-the-line", "chalk arrives", [], { then: "along" }),
        ],
      },
      {
        id: "bay",
        name: "In the bay",
        entering: steps("turn left 85 at 25 %", "drive 25 %"),
        responses: [
          response("tally", "violet arrives", ["count tally + 1", "show tally"]),
          response("park", "becomes tally >= 2", ["stop", "lamp violet", "wait 0.5 s"], { then: "finish" }),
          response("give-up", "after 20 s", ["stop", 'log "no second violet"'], { then: "finish" }),
        ],
      },
      {
        id: "along",
        name: "Along the line",
        entering: steps("follow chalk left edge at 20 %"),
        responses: [
          response("water-there", "coral arrives", [
            "do water",
            "drive 20 % for 9 cm",
            "follow chalk left edge at 20 %",
          ]),
          response("tally-there", "violet arrives", [
            "count tally + 1",
            "show tally",
            "drive 20 % for 9 cm",
            "follow chalk left edge at 20 %",
          ]),
          response("read-sign", "side-eye: coral arrives", ['say "thirsty ahead"', 'log "a coral sign"']),
          response("take-two-eyes", "teal arrives", ["lamp teal"], { then: "astride" }),
          response("lost", "after 60 s", ["stop", 'log "no end of the line"'], { then: "finish" }),
        ],
      },
      {
        id: "astride",
        name: "Astride the line",
        entering: steps("follow chalk between left-eye and right-eye at 20 %"),
        responses: [
          response("arrive", "amber arrives", ["stop", "tone G4 for 0.3 s"], { then: "finish" }),
          response("lost-there", "after 30 s", ["stop", 'log "no end of the line"'], { then: "finish" }),
        ],
      },
    ],
  };
}

const band = (feature: string, from?: number, to?: number) => ({
  feature,
  ...(from !== undefined && { from }),
  ...(to !== undefined && { to }),
});
const rule = (target: string, ...all: object[]) => ({ id: target, target, on: true, any: [{ all }] });

/** Written in overcast light. At noon the terracotta rims come over the coral rule's lower value bound: on purpose. */
const RULES = [
  rule("coral", band("hue", 350, 16), band("sat", 0.6), band("val", 0.42)),
  rule("teal", band("hue", 168, 200), band("sat", 0.6), band("val", 0.2)),
  rule("amber", band("hue", 20, 36), band("sat", 0.7), band("val", 0.5)),
  rule("violet", band("hue", 248, 272), band("sat", 0.55), band("val", 0.3)),
  rule("chalk", band("sat", undefined, 0.2), band("val", 0.55)),
];
/** Of signs only the thirsty one is known; the room is dark beside them. */
const SIGN_RULES = [rule("coral", band("hue", 350, 20), band("sat", 0.5), band("val", 0.15))];

const patch = (target: string, x: number, y: number, along: number, across: number, angle = 0) => ({
  shape: { rect: [along, across] },
  target,
  at: [x, y],
  angle,
});

const COURSE = {
  id: "aisle",
  name: "Aisle",
  kind: "floor",
  size: [2200, 1400],
  ground: "slate",
  lines: [
    {
      points: [
        [60, 620],
        [1420, 620],
      ],
      width: 24,
      target: "chalk",
    },
  ],
  patches: [
    patch("coral", 560, 400, 90, 150),
    patch("moss", 740, 400, 60, 220),
    patch("amber", 930, 400, 120, 150),
    patch("coral", 1150, 400, 90, 150),
    patch("terracotta", 1370, 400, 80, 180),
    patch("teal", 1650, 400, 100, 150),
    patch("violet", 1585, 720, 110, 90, 4),
    patch("violet", 1580, 1000, 110, 90, -3),
    { shape: { disc: 150 }, target: "terracotta", at: [1900, 850], angle: 0 },
    { shape: { disc: 150 }, target: "terracotta", at: [320, 960], angle: 0 },
    patch("moss", 900, 1180, 700, 90),
  ],
  starts: [
    { name: "South door", x: 160, y: 400, heading: 0 },
    { name: "Side gate", x: 330, y: 385, heading: 1 },
  ],
  checks: [
    { seesInOrder: ["coral", "amber", "coral", "teal", "violet", "violet"] },
    { answersOnce: "coral" },
    { neverAnswers: "terracotta" },
    { counter: "tally", is: 2 },
    { endsOn: "violet" },
    { withinMs: 45_000 },
  ],
};

/** A chalk line to follow: first at its edge, then with two eyes astride; one tile is drawn at random. */
const CHALK_WALK = {
  id: "chalk-walk",
  name: "Chalk walk",
  kind: "floor",
  size: [2400, 1500],
  ground: "slate",
  lines: [
    {
      points: [
        [200, 400],
        [760, 400],
        [1020, 470],
        [1220, 640],
        [1330, 880],
        [1520, 1060],
        [1800, 1120],
        [2240, 1120],
      ],
      width: 30,
      target: "chalk",
    },
  ],
  patches: [
    { ...patch("coral", 560, 408, 80, 90), target: { oneOf: ["coral", "violet"] } },
    patch("teal", 1640, 1086, 80, 90, 12),
    patch("amber", 2160, 1120, 70, 90),
    patch("moss", 1700, 400, 600, 120),
    { shape: { disc: 150 }, target: "terracotta", at: [620, 900], angle: 0 },
  ],
  signs: [{ target: "coral", at: [380, 500], angle: -90, width: 90, height: 120 }],
  zones: [{ name: "Shed", shape: { rect: [420, 300] }, at: [2180, 1120], angle: 0 }],
  shade: [{ from: [1250, 600], to: [1700, 1300], level: 0.5 }],
  starts: [{ name: "Potting shed", x: 150, y: 409, heading: 0 }],
  checks: [
    { seesInOrder: ["chalk", "teal", "amber"] },
    { staysWithinMm: 45, stays: "chalk" },
    { logIs: ["a coral sign"] },
    { endsIn: "Shed" },
    { withinMs: 90_000 },
  ],
};

/** The demo project *Glasshouse round*, made from the optics with fixed seeds; a test holds it valid. */
export function glasshouseRound(): Project {
  const [sensor, ...eyes] = [BELLY, LEFT_EYE, RIGHT_EYE].map((s) => ({ ...s, reference: referenceIn(s, LIGHTS[1]) }));
  const tape = (name: string, light: Light, seed: number): Tape => {
    const { readings, marks } = walk(sensor, light, TARGETS, AISLE, seed);
    return {
      id: `aisle-walk-${light.id}` as TapeId,
      name,
      sensor: sensor.id,
      origin: "bench",
      marks,
      readings: unpackReadings(readings),
    };
  };
  const project = withIds<object>({
    format: "perceptum-project",
    version: 1,
    name: "Glasshouse round",
    sensors: [sensor, ...eyes, SIDE_EYE],
    lights: LIGHTS,
    targets: TARGETS,
    ruleSets: [
      {
        id: "floor",
        name: "Floor",
        method: "bands",
        nearest: { references: [], reject: 0.25 },
        rules: RULES,
        steady: { hits: 3, of: 4, release: 3, rejoinMs: 200 },
      },
      {
        id: "signs",
        name: "Signs",
        method: "bands",
        rules: SIGN_RULES,
        steady: { hits: 3, of: 4, release: 3, rejoinMs: 200 },
      },
    ],
    behaviour: behaviour() as unknown as Behaviour,
    robot: {
      ...BASE.robot,
      name: "Nursery cart",
      mounts: [
        ...BASE.robot.mounts,
        { sensor: LEFT_EYE.id, x: 40, y: 26, z: 14, looks: "down" },
        { sensor: RIGHT_EYE.id, x: 40, y: -26, z: 14, looks: "down" },
        { sensor: SIDE_EYE.id, x: 20, y: 50, z: 60, looks: "left" },
      ],
    },
    courses: [COURSE, CHALK_WALK],
  });
  const tapes = [tape("Aisle walk, overcast", LIGHTS[0], 11), tape("Aisle walk, noon sun", LIGHTS[1], 12)];
  return Project.parse({ ...project, tapes });
}
