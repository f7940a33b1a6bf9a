import * as z from "zod";
import { Behaviour } from "../behaviour";
import { Name } from "../names";
import { Light, REPORT_KINDS, Sensor, Tape, TapeHead } from "../readings";
import { RuleSet, Target } from "../rules";
import { Course, Robot, robotKindOf } from "../world";
import { missingNames } from "./missingNames";

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
};

/** A project as it is kept and edited: all but the tapes' readings. */
export const ProjectDocument = z
  .strictObject({ ...projectShape, tapes: z.array(TapeHead).max(200) })
  .superRefine((project, context) => {
    for (const gap of [...missingNames(project), ...otherCourses(project)])
      context.addIssue({ code: "custom", ...gap });
  });

/** A project file, `*.perceptum.json`: the document with its readings. */
export const Project = z
  .strictObject({ ...projectShape, tapes: z.array(Tape).max(200) })
  .superRefine((project, context) => {
    for (const gap of [...missingNames(project), ...otherCourses(project)])
      context.addIssue({ code: "custom", ...gap });
    project.tapes.forEach((tape, i) => {
      const sensor = project.sensors.find((s) => s.id === tape.sensor);
      if (sensor === undefined) return;
      const wanted: readonly string[] = REPORT_KINDS[sensor.reports].channels;
      const held = Object.keys(tape.readings.channels);
      if (held.length === wanted.length && wanted.every((channel) => held.includes(channel))) return;
      context.addIssue({
        code: "custom",
        message: `the tape holds the channels ${held.join(", ") || "none"}; its sensor reports ${wanted.join(", ")}`,
        path: ["tapes", i, "readings", "channels"],
      });
    });
  });

export type ProjectDocument = z.infer<typeof ProjectDocument>;
export type Project = z.infer<typeof Project>;
