import * as z from "zod";
import { Behaviour } from "../behaviour";
import { Link } from "../live";
import { Name } from "../names";
import { channelsOnTape, FrameName, isCamera, Light, Sensor, Tape, TapeHead } from "../readings";
import { RuleSet, Target } from "../rules";
import { Course, Robot, robotKindOf } from "../world";
import { type Gap, missingNames } from "./missingNames";

/** Every course that is not for the project's robot. */
const otherCourses = ({ robot, courses }: { robot: Robot; courses: Course[] }) => {
  const { name, course: wanted } = robotKindOf(robot);
  return courses.flatMap(({ kind }, i) =>
    kind === wanted
      ? []
      : [
          {
            message: `is a course of the kind ${kind}; the robot, a ${name}, needs ${wanted}`,
            path: ["courses", i, "kind"],
          },
        ],
  );
};

/** What is wrong with frames and boxes of tapes: only a camera's have them, and a box lies within its frame. */
function wrongFrames({ sensors, tapes }: { sensors: Sensor[]; tapes: TapeHead[] }): Gap[] {
  return tapes.flatMap(({ sensor: id, frames, boxes }, i): Gap[] => {
    const sensor = sensors.find((s) => s.id === id);
    if (sensor === undefined) return [];
    if (!isCamera(sensor))
      return (["frames", "boxes"] as const).flatMap((key) =>
        (key === "frames" ? frames : boxes) === undefined
          ? []
          : [{ message: `only the tape of a camera has ${key}`, path: ["tapes", i, key] }],
      );
    if (frames === undefined) return [{ message: "the tape of a camera needs frames", path: ["tapes", i, "frames"] }];
    const { width, height } = sensor.frame;
    return (boxes ?? []).flatMap((box, j) =>
      box.left + box.width <= width && box.top + box.height <= height
        ? []
        : [
            {
              message: `the box reaches out of the frame of ${width} × ${height} px`,
              path: ["tapes", i, "boxes", j],
            },
          ],
    );
  });
}

/** What is wrong with how a tape's readings go with its sensor and its frames. */
function wrongReadings({ sensors, tapes, frames: held = {} }: Project): Gap[] {
  return tapes.flatMap((tape, i): Gap[] => {
    const sensor = sensors.find((s) => s.id === tape.sensor);
    if (sensor === undefined) return [];
    const wanted: readonly string[] = channelsOnTape(sensor.reports);
    const { t, channels } = tape.readings;
    const has = Object.keys(channels);
    const gaps: Gap[] = [];
    if (has.length !== wanted.length || !wanted.every((channel) => has.includes(channel)))
      gaps.push({
        message: `the tape holds the channels ${has.join(", ") || "none"}; its sensor reports ${wanted.join(", ") || "frames"}`,
        path: ["tapes", i, "readings", "channels"],
      });
    const { frames, boxes = [] } = tape;
    if (frames === undefined) return gaps;
    if (frames.length !== t.length)
      gaps.push({
        message: `the tape has ${frames.length} frames for ${t.length} times`,
        path: ["tapes", i, "frames"],
      });
    frames.forEach((name, j) => {
      if (held[name] === undefined)
        gaps.push({ message: "names a frame which the file does not hold", path: ["tapes", i, "frames", j] });
    });
    const times = new Set(t);
    boxes.forEach((box, j) => {
      if (!times.has(box.t))
        gaps.push({ message: `there is no frame at ${box.t} ms`, path: ["tapes", i, "boxes", j, "t"] });
    });
    return gaps;
  });
}

const projectShape = {
  format: z.literal("perceptum-project"),
  version: z.literal(1),
  name: Name,
  sensors: z.array(Sensor).max(20),
  lights: z.array(Light).max(50),
  targets: z.array(Target).max(100),
  ruleSets: z.array(RuleSet).max(20),
  behaviour: Behaviour,
  robot: Robot,
  courses: z.array(Course).max(50),
  /** Findings that a person put aside, by what they are and where, with the figures that they had then. */
  putAside: z
    .array(z.strictObject({ finding: z.string().max(400), figures: z.array(z.number()).max(40) }))
    .max(200)
    .optional(),
  /** Ways from the robot to the program. */
  links: z.array(Link).max(20).optional(),
};

/** The parts of a project as it is kept and edited. */
export const documentShape = { ...projectShape, tapes: z.array(TapeHead).max(200) };

/** What does not go together in a project whose parts are right. */
export const gapsIn = (project: ProjectDocument): Gap[] => [
  ...missingNames(project),
  ...otherCourses(project),
  ...wrongFrames(project),
];

/** A project as it is kept and edited: all but the tapes' readings. */
export const ProjectDocument = z.strictObject(documentShape).superRefine((project, context) => {
  for (const gap of gapsIn(project)) context.addIssue({ code: "custom", message: gap.message, path: [...gap.path] });
});

/** A project file, `*.perceptum.json`: the document with its readings. */
export const Project = z
  .strictObject({
    ...projectShape,
    tapes: z.array(Tape).max(200),
    /** The frames of cameras' tapes by their names: PNG in base64. */
    frames: z.record(FrameName, z.string().regex(/^[A-Za-z0-9+/]+={0,2}$/, "a frame is a PNG in base64")).optional(),
  })
  .superRefine((project, context) => {
    const gaps = [
      ...missingNames(project),
      ...otherCourses(project),
      ...wrongFrames(project),
      ...wrongReadings(project),
    ];
    for (const gap of gaps) context.addIssue({ code: "custom", message: gap.message, path: [...gap.path] });
  });

export type ProjectDocument = z.infer<z.ZodObject<typeof documentShape, z.core.$strict>>;
export type Project = z.infer<typeof Project>;
