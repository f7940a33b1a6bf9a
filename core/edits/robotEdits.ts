import * as z from "zod";
import { Id, Name, SensorIdSchema } from "../names";
import { namedInPhrases, type ProjectDocument, whyCrateStays } from "../project";
import { Crate, courseAs, Gate, Motor, Mount, ROBOTS, type Robot, robotKindOf, Servo } from "../world";
import { changed, changeOf, without, withThing } from "./change";
import { editKind } from "./editKind";
import { nameIn } from "./words";

const withRobot = (project: ProjectDocument, change: (robot: Robot) => Robot): ProjectDocument => {
  const robot = change(project.robot);
  return robot === project.robot ? project : { ...project, robot };
};

/** Another kind of robot; courses become of the kind that it needs. */
export const becomeRobot = editKind(
  { kind: z.string().max(40) },
  {
    words: ({ kind }) => `robot made a ${ROBOTS.find(kind)?.name ?? kind}`,
    refused: ({ kind }) => (ROBOTS.find(kind) === undefined ? `There is no robot of the kind ${kind}.` : undefined),
    apply: (project, { kind }) => ({
      ...project,
      robot: ROBOTS.get(kind).fresh(project.robot),
      courses: project.courses.map((course) => courseAs(course, ROBOTS.get(kind).course).course),
    }),
  },
);

/** The words for the fields of robots. */
const FIELDS: Readonly<Record<string, string>> = {
  name: "name",
  trackMm: "track",
  wheelMm: "wheels",
  tractionMmS2: "traction",
  bogieMm: "bogies",
  coastMmS2: "coasting",
  rollerMm: "roller",
  end: "end crate",
};

/** Its name, and numbers that stand by themselves. What each may be, the robot’s kind says. */
export const changeRobot = editKind(
  { change: z.partialRecord(z.enum(Object.keys(FIELDS) as [string, ...string[]]), z.union([z.number(), z.string()])) },
  {
    words: ({ change }) =>
      `${Object.keys(change)
        .map((key) => FIELDS[key])
        .join(" and ")} of the robot changed`,
    apply: (project, { change }) => withRobot(project, (robot) => ({ ...robot, ...change }) as Robot),
  },
);

export const changeMotor = editKind(
  { motor: Id, change: changeOf(Motor) },
  {
    words: ({ motor }) => `motor ${motor} changed`,
    apply: (project, { motor, change }) =>
      withRobot(project, (robot) => robotKindOf(robot).withMotor?.(robot, motor, change as Partial<Motor>) ?? robot),
  },
);

const sensorName = ({ sensors }: ProjectDocument, sensor: string) => nameIn(sensors, sensor);
const withMounts = (project: ProjectDocument, change: (mounts: Mount[]) => Mount[]) =>
  withRobot(project, (robot) => ({ ...robot, mounts: change(robot.mounts) }));

export const addMount = editKind(
  { mount: Mount },
  {
    words: ({ mount }, project) => `${sensorName(project, mount.sensor)} mounted`,
    apply: (project, { mount }) => withMounts(project, (mounts) => [...mounts, mount]),
  },
);

export const changeMount = editKind(
  { sensor: SensorIdSchema, change: changeOf(Mount, "x", "y", "z", "looks", "tilt") },
  {
    words: ({ sensor }, project) => `place of ${sensorName(project, sensor)} changed`,
    apply: (project, { sensor, change }) =>
      withMounts(project, (mounts) => mounts.map((one) => (one.sensor === sensor ? changed(one, change) : one))),
  },
);

export const deleteMount = editKind(
  { sensor: SensorIdSchema },
  {
    words: ({ sensor }, project) => `${sensorName(project, sensor)} taken off`,
    refused: (_, { robot }) => (robot.mounts.length === 1 ? "A robot needs a sensor." : undefined),
    apply: (project, { sensor }) => withMounts(project, (mounts) => mounts.filter((one) => one.sensor !== sensor)),
  },
);

const Plain = { kind: z.enum(["lamps", "buttons"]), name: Id };
const ONE = { lamps: "lamp", buttons: "button" } as const;

export const addRobotName = editKind(Plain, {
  words: ({ kind, name }) => `${ONE[kind]} ${name} added`,
  apply: (project, { kind, name }) => withRobot(project, (robot) => ({ ...robot, [kind]: [...robot[kind], name] })),
});

export const deleteRobotName = editKind(Plain, {
  words: ({ kind, name }) => `${ONE[kind]} ${name} deleted`,
  refused: ({ kind, name }, project) => namedInPhrases(project, ONE[kind], name),
  apply: (project, { kind, name }) =>
    withRobot(project, (robot) => ({ ...robot, [kind]: robot[kind].filter((one) => one !== name) })),
});

export const addServo = editKind(
  { servo: Servo },
  {
    words: ({ servo }) => `servo ${servo.id} added`,
    apply: (project, { servo }) => withRobot(project, (robot) => ({ ...robot, servos: [...robot.servos, servo] })),
  },
);

/** A servo’s range and where it stands at the start, which lies within the range. */
export const changeServo = editKind(
  { servo: Id, change: changeOf(Servo) },
  {
    words: ({ servo }) => `servo ${servo} changed`,
    apply: (project, { servo, change }) =>
      withRobot(project, (robot) => ({
        ...robot,
        servos: withThing(robot.servos, servo, (one) => {
          const { at, ...next } = changed(one, change);
          return { ...next, at: Math.max(next.from, Math.min(next.to, at)) };
        }),
      })),
  },
);

export const deleteServo = editKind(
  { servo: Id },
  {
    words: ({ servo }) => `servo ${servo} deleted`,
    refused: ({ servo }, project) => namedInPhrases(project, "servo", servo),
    apply: (project, { servo }) => withRobot(project, (robot) => ({ ...robot, servos: without(robot.servos, servo) })),
  },
);

type Sorter = Extract<Robot, { kind: "sorter" }>;
const withSorter = (project: ProjectDocument, change: (robot: Sorter) => Sorter) =>
  withRobot(project, (robot) => ("gates" in robot ? change(robot) : robot));

export const addGate = editKind(
  { gate: Gate },
  {
    words: ({ gate }) => `${gate.name ?? gate.id} added`,
    apply: (project, { gate }) => withSorter(project, (robot) => ({ ...robot, gates: [...robot.gates, gate] })),
  },
);

export const changeGate = editKind(
  { gate: Id, change: changeOf(Gate) },
  {
    words: ({ gate }) => `gate ${gate} changed`,
    apply: (project, { gate, change }) =>
      withSorter(project, (robot) => ({
        ...robot,
        gates: withThing(robot.gates, gate, (one) => changed(one, change)),
      })),
  },
);

export const deleteGate = editKind(
  { gate: Id },
  {
    words: ({ gate }) => `gate ${gate} deleted`,
    refused: ({ gate }, project) => namedInPhrases(project, "gate", gate),
    apply: (project, { gate }) => withSorter(project, (robot) => ({ ...robot, gates: without(robot.gates, gate) })),
  },
);

export const addCrate = editKind(
  { crate: Crate },
  {
    words: ({ crate }) => `${crate.name} added`,
    apply: (project, { crate }) => withSorter(project, (robot) => ({ ...robot, crates: [...robot.crates, crate] })),
  },
);

export const renameCrate = editKind(
  { crate: Id, name: Name },
  {
    words: ({ name }) => `crate named ${name}`,
    apply: (project, { crate, name }) =>
      withSorter(project, (robot) => ({
        ...robot,
        crates: withThing(robot.crates, crate, (one) => ({ ...one, name })),
      })),
  },
);

export const deleteCrate = editKind(
  { crate: Id },
  {
    words: ({ crate }) => `crate ${crate} deleted`,
    refused: ({ crate }, project) => whyCrateStays(project, crate),
    apply: (project, { crate }) => withSorter(project, (robot) => ({ ...robot, crates: without(robot.crates, crate) })),
  },
);
