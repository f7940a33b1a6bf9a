import { namesOf, parseStep, parseTrigger, type Response } from "../behaviour";
import { type CourseId, type ModeId, numbered, type TargetId } from "../names";
import { Project, type ProjectDocument } from "../project";
import { emptyCourse, parseCheck, type RailCourse, ROBOTS } from "../world";
import { glasshouseRound } from "./glasshouseRound";

/** Along the rail in mm: what lies where, and how wide. The narrow amber plate lies in the bend. */
const PLATES = [
  ["chalk", 120, 70],
  ["coral", 600, 70],
  ["teal", 850, 70],
  ["amber", 1100, 70],
  ["amber", 1700, 8],
  ["violet", 2150, 70],
  ["coral", 2400, 70],
  ["chalk", 2750, 70],
] as const;

/** What the carrier does on its way out, by what happens. Slowly, so that its wheels hold. */
const OUT: readonly [id: string, when: string, steps: readonly string[]][] = [
  ["halt", "coral arrives", ["stop", "wait 2 s", "drive 35 %"]],
  ["horn", "teal arrives", ["tone C4 for 0.6 s"]],
  ["slow", "amber arrives", ["drive 15 %"]],
  ["on", "amber departs", ["drive 35 %"]],
  ["shine", "violet arrives", ["meanwhile lamp violet for 2 s"]],
  ["round", "chalk arrives", ["stop", "wait until still", "go to homeward"]],
];

/**
 * The demo project *Pipe-rail carrier*: a carrier runs out on the heating pipes between two beds, answers the plates on
 * its way, turns round at the last one and comes home. One amber plate lies in the bend and is missed on purpose: the
 * sensor swings inward there, until its mount is moved to the right.
 */
export function pipeRailCarrier(): Project {
  const base = glasshouseRound();
  const target = (id: string) => id as TargetId;
  const course: RailCourse = {
    ...(emptyCourse("pipes" as CourseId, "Heating pipes", target("slate"), "rail") as RailCourse),
    size: [2000, 1300],
    rail: {
      from: [250, 250],
      heading: 0,
      closed: false,
      way: [{ straight: 1200 }, { arc: 180, radius: 300 }, { straight: 800 }],
    },
    sleepers: { everyMm: 200, lengthMm: 130, widthMm: 20, target: target("moss") },
    plates: numbered(
      "plate",
      PLATES.map(([id, at, width]) => ({ at, length: 70, width, aside: 0, target: target(id) })),
    ),
    starts: numbered("start", [{ name: "Depot", at: 300, facing: "forward" }]),
  };
  const motor = { ...ROBOTS.get("carrier").fresh(base.robot), kind: "carrier" as const };
  if (motor.kind !== "carrier" || !("motor" in motor)) throw new Error("a carrier has one motor");
  const bare: Project = {
    ...base,
    name: "Pipe-rail carrier",
    robot: {
      ...motor,
      name: "Pipe carrier",
      mounts: [{ sensor: base.robot.mounts[0].sensor, x: 0, y: 0, z: 14, looks: "down" }],
      lamps: [],
      buttons: [],
      servos: [],
    },
    behaviour: {
      counters: [],
      lists: [],
      routines: [],
      start: "outward" as ModeId,
      modes: ["outward", "homeward"].map((id) => ({
        id: id as ModeId,
        name: id === "outward" ? "Outward" : "Homeward",
        entering: [],
        responses: [],
      })),
    },
    // On this rail coral has to be told from terracotta, too.
    ruleSets: base.ruleSets.map((set) => ({
      ...set,
      rules: set.rules.map((rule) =>
        rule.target !== "coral"
          ? rule
          : {
              ...rule,
              any: rule.any.map(({ id, all }) => ({
                id,
                all: all.map((test) => (test.feature === "val" ? { ...test, from: 0.55 } : test)),
              })),
            },
      ),
    })),
    courses: [course],
  };
  return Project.parse(withBehaviour(bare));
}

function written<T>(result: { value: T } | { problem: { message: string } }): T {
  if ("problem" in result) throw new Error(result.problem.message);
  return result.value;
}

function withBehaviour(project: Project): Project {
  const names = namesOf(project as unknown as ProjectDocument);
  const steps = (phrases: readonly string[]) =>
    numbered(
      "step",
      phrases.map((phrase) => written(parseStep(phrase, names))),
    );
  const response = ([id, when, phrases]: (typeof OUT)[number]): Response => ({
    id: id as Response["id"],
    when: written(parseTrigger(when, names)),
    steps: steps(phrases),
    fires: "once per visit",
    busy: "let it finish",
    on: true,
  });
  const [outward, homeward] = project.behaviour.modes;
  const checks = [
    "answers every coral once",
    "answers every teal once",
    "answers every violet once",
    "answers every amber once",
    "shuttles between coral and chalk 1 times",
    "never slips",
    "never hits the end",
    "finishes within 80 s",
  ];
  return {
    ...project,
    behaviour: {
      ...project.behaviour,
      modes: [
        { ...outward, entering: steps(["drive 35 %"]), responses: OUT.map(response) },
        {
          ...homeward,
          entering: steps(["drive -35 %"]),
          responses: [response(["home", "chalk arrives", ["stop", "wait until still", "finish"]])],
        },
      ],
    },
    courses: project.courses.map((course) => ({
      ...course,
      checks: numbered(
        "check",
        checks.map((check) => written(parseCheck(check, names))),
      ),
    })),
  };
}
