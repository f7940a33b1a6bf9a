import { sinCos } from "../arithmetic";
import { namesOf, parseCondition, parseStep, parseTrigger, type Response } from "../behaviour";
import {
  type CourseId,
  type ModeId,
  numbered,
  type RuleSetId,
  type SensorId,
  type TapeId,
  type TargetId,
  type Unlisted,
} from "../names";
import { type Names, parsePhrase } from "../phrases";
import { newCamera, Project, type ProjectDocument } from "../project";
import type { Box, CameraSensor, Light, Tape } from "../readings";
import type { Target } from "../rules";
import type { Frame } from "../vision";
import { Camera, type CartRobot, drawn, emptyCourse, type FloorCourse, parseCheck, truthBoxes } from "../world";
import { glasshouseRound } from "./glasshouseRound";

/** Gives a frame's name and its PNG in base64. */
export type PackFrame = (frame: Frame) => { name: string; png: string };

const id = (name: string) => name as TargetId;

/** The horizon is a thing that no rule should take for anything else. */
const FAR: Target = { id: id("far"), code: "fa", name: "Glass wall", kind: "background", paint: "#8b949a" };

/** Looks ahead and down over the next metre of the path. */
const BOW: CameraSensor = {
  ...newCamera("bow" as SensorId, "Bow camera", "frames" as RuleSetId, { width: 160, height: 120 }),
  strip: { top: 24, bottom: 120, left: 0, right: 160 },
  // Its owner held the exposure, so that other light shows.
  camera: { viewDeg: 60, exposure: "held" },
};

/** A bed's path: chalk lines, a teal tag before each corner on the side to turn to, and a coral box at its end. */
const PATH: Pick<FloorCourse, "lines" | "patches" | "signs"> = {
  lines: numbered(
    "line",
    [
      [
        [200, 300],
        [1100, 300],
      ],
      [
        [1100, 420],
        [1100, 1100],
      ],
      [
        [1220, 1100],
        [2250, 1100],
      ],
    ].map((points) => ({ points: points as [number, number][], width: 25, target: id("chalk") })),
  ),
  patches: numbered(
    "patch",
    (
      [
        [1000, 385],
        [1185, 1000],
      ] as [number, number][]
    ).map((at) => ({ shape: { disc: 60 }, target: id("teal"), at, angle: 0 })),
  ),
  signs: numbered("sign", [{ target: id("coral"), at: [2420, 1100], angle: 180, width: 130, height: 110 }]),
};

/** From where the frames of the tape are taken: x, y and heading. */
const STOPS: readonly [number, number, number][] = [
  [260, 310, 4],
  [560, 296, -6],
  [760, 300, 0],
  [1100, 480, 92],
  [1096, 760, 86],
  [1500, 1104, -3],
  [1960, 1098, 5],
  [2120, 1100, 0],
];

/**
 * The demo project *Bed watch*: a cart with a camera follows chalk lines along a bed, turns at teal tags to the side on
 * which they lie, and backs off from the coral box at the end until it is less than 40 px wide.
 */
export function bedWatch(pack: PackFrame): Project {
  const base = glasshouseRound();
  const targets = [...base.targets.filter((t) => ["coral", "teal", "chalk", "slate", "moss"].includes(t.id)), FAR];
  const course: FloorCourse = {
    ...(emptyCourse("bed" as CourseId, "Bed", id("slate"), "floor") as FloorCourse),
    size: [2700, 1500],
    ...PATH,
    starts: numbered("start", [{ name: "Gate", x: 200, y: 310, heading: 0 }]),
  };
  const robot: CartRobot = {
    ...(base.robot as CartRobot),
    name: "Bed cart",
    mounts: [{ sensor: BOW.id, x: 30, y: 0, z: 180, looks: "ahead", tilt: 25 }],
  };
  const { tape, frames } = taped(robot, base.lights[0], course, targets, pack);
  const bare: Project = {
    ...base,
    name: "Bed watch",
    targets,
    sensors: [BOW],
    ruleSets: [
      {
        id: BOW.ruleSet,
        name: "Frames",
        method: "bands",
        rules: [
          ["coral", [band("hue", 350, 22), band("sat", 0.45)]],
          ["teal", [band("hue", 160, 205), band("sat", 0.4)]],
          ["chalk", [band("sat", undefined, 0.3), band("val", 0.56)]],
        ].map(([target, all]) => ({
          id: `take-${target}`,
          target,
          on: true,
          any: numbered("clause", [{ all }]),
        })) as never,
        nearest: { references: [], reject: 0.25 },
        steady: { hits: 2, of: 3, release: 3, rejoinMs: 300 },
      },
    ],
    robot,
    behaviour: {
      counters: [],
      lists: [],
      routines: [],
      start: "along" as ModeId,
      modes: [{ id: "along" as ModeId, name: "Along the bed", entering: [], responses: [] }],
    },
    courses: [course],
    tapes: [tape],
    frames,
  };
  const names: Names = namesOf(bare as unknown as ProjectDocument);
  const steps = (...phrases: string[]) =>
    numbered(
      "step",
      phrases.map((phrase) => written(parseStep(phrase, names))),
    );
  const turns = (["left", "right"] as const).map(
    (side): Response => ({
      id: `turn-${side}` as Response["id"],
      when: written(parseTrigger("becomes teal y > 90 px", names)),
      guard: written(parsePhrase(`teal ${side} of chalk`, names, parseCondition)),
      steps: steps("drive 25 % for 36 cm", `turn ${side} 90 at 25 %`, "follow chalk by camera at 25 %"),
      fires: "once per visit",
      busy: "let it finish",
      on: true,
    }),
  );
  const halt: Response = {
    id: "halt" as Response["id"],
    when: written(parseTrigger("becomes coral width > 60 px", names)),
    steps: steps("stop", "lamp coral", "drive -15 % until coral width < 40 px", "stop", 'log "room enough"'),
    then: "finish",
    fires: "once per visit",
    busy: "let it finish",
    on: true,
  };
  const checks = ["sees teal, coral", 'log is "room enough"', "finishes within 60 s"];
  const [mode] = bare.behaviour.modes;
  const entering = steps("follow chalk by camera at 25 %");
  return Project.parse({
    ...bare,
    behaviour: { ...bare.behaviour, modes: [{ ...mode, entering, responses: [...turns, halt] }] },
    courses: [
      {
        ...course,
        checks: numbered(
          "check",
          checks.map((check) => written(parseCheck(check, names))),
        ),
      },
    ],
  });
}

/** Frames of the path in one light, each boxed with what is in truth on it. */
function taped(
  robot: CartRobot,
  light: Light,
  course: FloorCourse,
  targets: readonly Target[],
  pack: PackFrame,
): { tape: Tape; frames: Record<string, string> } {
  const camera = new Camera(BOW, robot.mounts[0], light, drawn(course, 1), targets, 5);
  const frames: Record<string, string> = {};
  const boxes: Unlisted<Box>[] = [];
  const names = STOPS.map(([x, y, heading], k) => {
    const { sin, cos } = sinCos(heading);
    const { name, png } = pack(camera.take({ x, y, sin, cos }, k));
    frames[name] = png;
    for (const box of truthBoxes(camera.truth, BOW.frame.width, BOW.frame.height))
      boxes.push({ t: k * BOW.periodMs, ...box, light: light.id });
    return name;
  });
  const tape: Tape = {
    id: "path-overcast" as TapeId,
    name: "The path, overcast",
    sensor: BOW.id,
    origin: "bench",
    marks: [],
    frames: names,
    boxes: numbered("box", boxes),
    readings: { t: names.map((_, k) => k * BOW.periodMs), channels: {} },
  };
  return { tape, frames };
}

const band = (feature: string, from?: number, to?: number) => ({
  feature,
  ...(from !== undefined && { from }),
  ...(to !== undefined && { to }),
});

function written<T>(result: { value: T } | { problem: { message: string } }): T {
  if ("problem" in result) throw new Error(result.problem.message);
  return result.value;
}
