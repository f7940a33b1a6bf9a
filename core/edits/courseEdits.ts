import * as z from "zod";
import { CourseIdSchema, Name, nextId, TargetIdSchema, type ThingId, ThingIdSchema, type Unlisted } from "../names";
import type { ProjectDocument } from "../project";
import {
  Card,
  COURSE_PARTS,
  type Course,
  type CoursePart,
  emptyCourse,
  Line,
  ListedCheck,
  namedIn,
  onAnyCourse,
  Patch,
  Pieces,
  Plate,
  Press,
  RailSchema,
  RailStart,
  RailWay,
  renamedInCheck,
  robotKindOf,
  Shade,
  Sign,
  Sleepers,
  Start,
  THINGS,
  Zone,
} from "../world";
import { changed, changeOf, without, withThing } from "./change";
import { editKind } from "./editKind";
import { nameIn } from "./words";

const OfCourse = { course: CourseIdSchema };

const withCourse = (project: ProjectDocument, course: string, change: (course: Course) => Course): ProjectDocument => {
  const courses = withThing(project.courses, course, change);
  return courses === project.courses ? project : { ...project, courses };
};
const courseName = ({ courses }: ProjectDocument, course: string) => nameIn(courses, course);

export const addCourse = editKind(
  { ...OfCourse, name: Name, ground: TargetIdSchema },
  {
    words: ({ name }) => `course ${name} added`,
    apply: (project, { course, name, ground }) => ({
      ...project,
      courses: [...project.courses, emptyCourse(course, name, ground, robotKindOf(project.robot).course)],
    }),
  },
);

/** A copy of a course behind it. */
export const copyCourse = editKind(
  { ...OfCourse, copy: CourseIdSchema, name: Name },
  {
    words: ({ course }, project) => `${courseName(project, course)} copied`,
    apply: (project, { course, copy, name }) => ({
      ...project,
      courses: project.courses.flatMap((one) => (one.id === course ? [one, { ...one, id: copy, name }] : [one])),
    }),
  },
);

/** Name, size, ground and how steady cards are held. */
export const changeCourse = editKind(
  { ...OfCourse, change: changeOf(z.strictObject(onAnyCourse), "name", "size", "ground", "held") },
  {
    words: ({ course }, project) => `${courseName(project, course)} changed`,
    apply: (project, { course, change }) => withCourse(project, course, (one) => changed<Course>(one, change)),
  },
);

export const deleteCourse = editKind(OfCourse, {
  words: ({ course }, project) => `${courseName(project, course)} deleted`,
  refused: (_, project) => (project.courses.length === 1 ? "It is the only course." : undefined),
  apply: (project, { course }) => ({ ...project, courses: without(project.courses, course) }),
});

/** The way of a rail. What lay beyond one that is shorter now goes to its end. */
export const setRail = editKind(
  { ...OfCourse, rail: RailSchema },
  {
    words: () => "rail changed",
    gathers: ({ course }) => course,
    apply: (project, { course, rail }) =>
      withCourse(project, course, (one) => {
        if (!("rail" in one)) return one;
        const { length } = new RailWay(rail);
        const within = <T extends { at: number }>(thing: T): T =>
          thing.at > length ? { ...thing, at: length } : thing;
        return { ...one, rail, plates: one.plates.map(within), starts: one.starts.map(within) };
      }),
  },
);

export const setSleepers = editKind(
  { ...OfCourse, sleepers: Sleepers.nullable() },
  {
    words: ({ sleepers }) => (sleepers === null ? "sleepers taken away" : "sleepers changed"),
    apply: (project, { course, sleepers }) =>
      withCourse(project, course, (one) => ("rail" in one ? changed(one, { sleepers }) : one)),
  },
);

export const setPieces = editKind(
  { ...OfCourse, pieces: Pieces },
  {
    words: () => "pieces changed",
    apply: (project, { course, pieces }) =>
      withCourse(project, course, (one) => ("pieces" in one ? { ...one, pieces } : one)),
  },
);

/** The patches of a picture in the place of those that a course had, and its size. */
export const paintCourse = editKind(
  { ...OfCourse, size: onAnyCourse.size, patches: onAnyCourse.patches },
  {
    words: ({ course }, project) => `${courseName(project, course)} painted from a picture`,
    apply: (project, { course, size, patches }) => withCourse(project, course, (one) => ({ ...one, size, patches })),
  },
);

/** A thing of a course with the part that it belongs to. */
export const PartThing = z.union([
  z.strictObject({ part: z.literal("patches"), thing: Patch }),
  z.strictObject({ part: z.literal("lines"), thing: Line }),
  z.strictObject({ part: z.literal("signs"), thing: Sign }),
  z.strictObject({ part: z.literal("zones"), thing: Zone }),
  z.strictObject({ part: z.literal("shade"), thing: Shade }),
  z.strictObject({
    part: z.literal("starts"),
    thing: z.union([Start, RailStart, z.strictObject({ id: ThingIdSchema, name: Name })]),
  }),
  z.strictObject({ part: z.literal("cards"), thing: Card }),
  z.strictObject({ part: z.literal("presses"), thing: Press }),
  z.strictObject({ part: z.literal("plates"), thing: Plate }),
]);
export type PartThing = z.infer<typeof PartThing>;

/** The parts of a course that are lists of things: those of any course, and what lies along a rail. */
type Part = CoursePart | "plates";
const Part = z.enum([...COURSE_PARTS, "plates"]);
const OfThing = { ...OfCourse, part: Part, thing: ThingIdSchema };
type Listed = { id: string; name?: string };

/** The word for one thing of a part. */
const oneOf = (part: Part) => (part === "plates" ? "plate" : THINGS[part]);

const withPart = (course: Course, part: Part, change: (things: Listed[]) => Listed[]): Course => {
  const things = (course as unknown as Record<Part, Listed[] | undefined>)[part];
  if (things === undefined) return course;
  const made = change(things);
  return made === things ? course : ({ ...course, [part]: made } as Course);
};

export const addThing = editKind(
  { ...OfCourse, of: PartThing },
  {
    words: ({ of }) => `${oneOf(of.part)} added`,
    apply: (project, { course, of }) =>
      withCourse(project, course, (one) => withPart(one, of.part, (things) => [...things, of.thing])),
  },
);

/** A thing in the place of the one that has its id. Checks that name a zone follow its name. */
export const setThing = editKind(
  { ...OfCourse, of: PartThing },
  {
    words: ({ of }) => `${oneOf(of.part)} changed`,
    gathers: ({ course, of }) => `${course} ${of.part} ${of.thing.id}`,
    apply: (project, { course, of }) =>
      withCourse(project, course, (one) => {
        const made = withPart(one, of.part, (things) => withThing(things, of.thing.id, () => of.thing));
        const was = of.part === "zones" ? one.zones.find(({ id }) => id === of.thing.id) : undefined;
        const now = of.part === "zones" ? of.thing.name : undefined;
        if (was === undefined || now === undefined || now === was.name) return made;
        return { ...made, checks: made.checks.map((check) => renamedInCheck(check, "zone", was.name, now)) };
      }),
  },
);

export const deleteThing = editKind(OfThing, {
  words: ({ part }) => `${oneOf(part)} deleted`,
  refused({ course, part, thing }, project) {
    const one = project.courses.find(({ id }) => id === course);
    if (part === "starts" && one?.starts.length === 1) return "A course needs a start.";
    const zone = part === "zones" ? one?.zones.find(({ id }) => id === thing) : undefined;
    // A zone of the same name elsewhere is no help: each course has its own.
    const isNamed = one?.checks.some((check) => namedIn(check, "zone").some((name) => name === zone?.name));
    if (zone === undefined || !isNamed) return undefined;
    return `A check names the zone ${zone.name}, so it stays. Change or remove the check first.`;
  },
  apply: (project, { course, part, thing }) => withoutThing(project, course, part, thing),
});

const withoutThing = (project: ProjectDocument, course: string, part: Part, thing: string) =>
  withCourse(project, course, (one) => withPart(one, part, (things) => without(things, thing)));

/** The cards held and the buttons pressed while a run played, written into its course. */
export const keepHeld = editKind(
  {
    ...OfCourse,
    cards: z.array(Card.omit({ id: true })).max(1000),
    presses: z.array(Press.omit({ id: true })).max(1000),
  },
  {
    words: ({ course }, project) => `what was held kept in ${courseName(project, course)}`,
    apply: (project, { course, cards, presses }) =>
      withCourse(project, course, (one) => ({
        ...one,
        cards: listedAfter("card", one.cards, cards),
        presses: listedAfter("press", one.presses, presses),
      })),
  },
);

/** A list with more things at its end, which get ids of their own. */
function listedAfter<T extends { id: ThingId }>(
  kind: "card" | "press",
  things: readonly T[],
  more: readonly Unlisted<T>[],
) {
  const all = [...things];
  for (const thing of more) all.push({ ...thing, id: nextId(kind, all) } as unknown as T);
  return all;
}

const withChecks = (project: ProjectDocument, course: string, change: (checks: ListedCheck[]) => ListedCheck[]) =>
  withCourse(project, course, (one) => {
    const checks = change(one.checks);
    return checks === one.checks ? one : { ...one, checks };
  });

export const addCheck = editKind(
  { ...OfCourse, check: ListedCheck },
  {
    words: ({ course }, project) => `check of ${courseName(project, course)} added`,
    apply: (project, { course, check }) => withChecks(project, course, (checks) => [...checks, check]),
  },
);

/** A check in the place of the one that has its id. */
export const replaceCheck = editKind(
  { ...OfCourse, check: ListedCheck },
  {
    words: ({ course }, project) => `check of ${courseName(project, course)} changed`,
    apply: (project, { course, check }) =>
      withChecks(project, course, (checks) => withThing(checks, check.id, () => check)),
  },
);

export const deleteCheck = editKind(
  { ...OfCourse, check: z.string() },
  {
    words: ({ course }, project) => `check of ${courseName(project, course)} deleted`,
    apply: (project, { course, check }) => withChecks(project, course, (checks) => without(checks, check)),
  },
);
