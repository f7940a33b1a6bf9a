import { namedIn } from "./checks";
import { COURSE_PARTS, COURSES, type Course, type CoursePart, courseKindOf } from "./courses";

/** So many of one kind that a course would lose. */
export interface Loss {
  part: string;
  /** The name of one, where it is a part that only one kind of course has. */
  one?: string;
  count: number;
}

/**
 * The course as one of another kind, and what is lost on the way: parts that the kind does not have, or whose places
 * mean nothing on it, and checks of zones that are among them. Starts are no loss: a course that has others keeps those
 * of a bare one.
 */
export function courseAs(course: Course, kind: string): { course: Course; lost: Loss[] } {
  const { parts, fresh } = COURSES.get(kind);
  const bare = fresh(course.id, course.name, course.ground);
  const sameSize = ![COURSES.get(kind), courseKindOf(course)].some((one) => one.ownSize);
  const keeps = (part: CoursePart) =>
    parts.includes(part) && (sameSize || kind === course.kind || part === "cards" || part === "presses");
  const gone = COURSE_PARTS.filter((part) => part !== "starts" && !keeps(part));
  const zones = gone.includes("zones") ? course.zones.map((zone) => zone.name) : [];
  const checks = course.checks.filter((check) => !namedIn(check, "zone").some((name) => zones.includes(name)));
  const kept = Object.fromEntries(
    COURSE_PARTS.filter((part) => part !== "starts").map((part) => [part, gone.includes(part) ? [] : course[part]]),
  );
  const startsLike = ({ starts }: Course) => Object.keys(starts[0]).sort().join();
  const sameStarts = startsLike(course) === startsLike(bare);
  const own = kind === course.kind ? undefined : courseKindOf(course).own;
  const counts: Loss[] = [
    ...gone.map((part) => ({ part, count: course[part].length })),
    ...(own === undefined ? [] : [{ part: own.part, one: own.one, count: own.count(course) }]),
    { part: "checks", count: course.checks.length - checks.length },
  ];
  return {
    course: {
      ...bare,
      ...kept,
      ...(kind === course.kind && course),
      size: sameSize || kind === course.kind ? course.size : bare.size,
      held: course.held,
      starts: sameStarts ? course.starts : bare.starts,
      checks,
    } as Course,
    lost: counts.filter(({ count }) => count > 0),
  };
}
