import { type Course, courseKindOf, robotKindOf } from "../world";
import type { FindingKind } from "./finding";

/** Something lies or starts beside the course, or the robot is wider than it. */
export const offCourse: FindingKind = {
  code: "off-course",
  find({ project }) {
    const { robot } = project;
    return project.courses.flatMap((course) => {
      const place = { stage: "prove" as const, course: course.id };
      const found = (level: "error" | "warning", title: string, sentence: string) => ({
        code: "off-course" as const,
        level,
        title,
        sentence,
        place,
      });
      const [long, high] = course.size;
      const width = robotKindOf(robot).widthMm(robot);
      const outside = ({ x, y }: { x: number; y: number }) => x < 0 || y < 0 || x > long || y > high;
      const kind = courseKindOf(course);
      const starts = course.starts.filter((start) => outside(kind.begins(course, start))).map((s) => s.name);
      const beside = placesOf(course).filter(outside).length;
      return [
        ...(courseKindOf(course).hasFloor && width > Math.min(long, high)
          ? [
              found(
                "error",
                `${robot.name} is wider than ${course.name}`,
                `The robot is ${width / 10} cm wide and the course ${Math.min(long, high) / 10} cm, so it cannot turn on it.`,
              ),
            ]
          : []),
        ...(starts.length > 0
          ? [
              found(
                "error",
                `${starts.join(", ")} lies beside ${course.name}`,
                "A run from there has left the course before it began. Move the start onto it.",
              ),
            ]
          : []),
        ...(beside > 0
          ? [
              found(
                "warning",
                `${beside === 1 ? "Something lies" : `${beside} things lie`} beside ${course.name}`,
                "The middle of a patch or a sign is outside the course, so the robot will not come to it.",
              ),
            ]
          : []),
      ];
    });
  },
};

const placesOf = ({ patches, signs }: Course) => [...patches, ...signs].map(({ at: [x, y] }) => ({ x, y }));
