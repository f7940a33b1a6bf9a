import { namesOf, parseStep, parseTrigger, type Response } from "../behaviour";
import { type CourseId, type ModeId, numbered, type TargetId } from "../names";
import { Project, type ProjectDocument } from "../project";
import { type BeltCourse, emptyCourse, parseCheck, ROBOTS, type SorterRobot } from "../world";
import { glasshouseRound } from "./glasshouseRound";

/** The paints that have a crate, with where their gate stands and how long a rim is under way to it. */
const SORTED = [
  ["coral", "Coral", 220, 0.3],
  ["teal", "Teal", 360, 1],
  ["amber", "Amber", 500, 1.7],
  ["violet", "Violet", 640, 2.4],
] as const;

/** What comes along the belt, the first first. */
const RIMS = [
  ...["coral", "chalk", "violet", "teal", "amber", "coral", "violet", "chalk"],
  ...["teal", "violet", "coral", "amber", "violet", "teal", "chalk", "coral"],
  ...["amber", "violet", "coral", "teal", "violet", "amber", "chalk", "teal"],
];

/**
 * The demo project *Potting shed*: the rims of five paints come along a belt and are sorted into four crates and the end.
 * It waits for each rim at its gate, which goes well until one comes close behind another that is still under way;
 * `send to` sorts them all.
 */
export function pottingShed(): Project {
  const base = glasshouseRound();
  const target = (id: string) => id as TargetId;
  const fresh = ROBOTS.get("sorter").fresh(base.robot) as SorterRobot;
  const robot: SorterRobot = {
    ...fresh,
    name: "Rim sorter",
    mounts: [{ sensor: base.robot.mounts[0].sensor, x: 80, y: 0, z: 14, looks: "down" }],
    belt: { ...fresh.belt, topSpeed: 500 },
    gates: SORTED.map(([id, name, atMm]) => ({
      id: `${id}-gate`,
      name: `${name} gate`,
      atMm,
      crate: `${id}-crate`,
      travelMs: 100,
      reachMm: 80,
    })),
    crates: [...SORTED.map(([id, name]) => ({ id: `${id}-crate`, name: `${name} crate` })), fresh.crates[0]],
    lamps: [],
    buttons: [],
    servos: [],
  };
  const course: BeltCourse = {
    ...(emptyCourse("bench-belt" as CourseId, "Bench belt", target("slate"), "belt") as BeltCourse),
    size: [900, 120],
    pieces: { order: RIMS.map(target), every: 640, jitterMm: 60, size: { disc: 50 }, offsetMm: 4 },
  };
  const bare: Project = {
    ...base,
    name: "Potting shed",
    robot,
    behaviour: {
      counters: [],
      lists: [],
      routines: [],
      start: "sorting" as ModeId,
      modes: [{ id: "sorting" as ModeId, name: "Sorting", entering: [], responses: [] }],
    },
    courses: [course],
  };
  const names = namesOf(bare as unknown as ProjectDocument);
  const steps = (...phrases: string[]) =>
    numbered(
      "step",
      phrases.map((phrase) => written(parseStep(phrase, names))),
    );
  const responses = SORTED.map(
    ([id, , , wait]): Response => ({
      id: `take-${id}` as Response["id"],
      when: written(parseTrigger(`${id} arrives`, names)),
      steps: steps(`wait ${wait} s`, `gate ${id}-gate open`, "wait 0.5 s", `gate ${id}-gate close`),
      fires: "once per visit",
      busy: "let it finish",
      on: true,
    }),
  );
  const checks = [
    "sorts every piece",
    "loses no piece",
    "jams never",
    ...SORTED.map(([id]) => `crate ${id}-crate holds only ${id}`),
    "at least 15 pieces a minute",
  ];
  const [mode] = bare.behaviour.modes;
  return Project.parse({
    ...bare,
    behaviour: { ...bare.behaviour, modes: [{ ...mode, entering: steps("drive 40 %"), responses }] },
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

function written<T>(result: { value: T } | { problem: { message: string } }): T {
  if ("problem" in result) throw new Error(result.problem.message);
  return result.value;
}
