import { describe, expect, it } from "vitest";
import { glasshouseRound, pipeRailCarrier } from "../demo";
import type { CourseId } from "../names";
import { type ProjectDocument, splitProject } from "../project";
import type { RailCourse } from "../world";
import { applyEdit, type Edit } from ".";

const done = (project: ProjectDocument, edit: Edit) => applyEdit(project, edit);
const made = (project: ProjectDocument, edit: Edit): ProjectDocument => {
  const applied = done(project, edit);
  if ("problem" in applied) throw new Error(applied.problem);
  return applied.project;
};

describe("zones", () => {
  const { document } = splitProject(glasshouseRound());
  const walk = document.courses[1];
  const [shed] = walk.zones;

  it("that are named anew are followed by the checks of their course", () => {
    const named = made(document, {
      edit: "setThing",
      args: { course: walk.id, of: { part: "zones", thing: { ...shed, name: "Barn" } } },
    });
    expect(named.courses[1].checks).toContainEqual({ id: "check-4", endsIn: "Barn" });
    expect(named.courses[0]).toBe(document.courses[0]);
  });

  it("that a check names stay, and say so, also where another course has one of the name; others go", () => {
    const edit: Edit = { edit: "deleteThing", args: { course: walk.id, part: "zones", thing: shed.id } };
    expect(done(document, edit)).toEqual({
      problem: "A check names the zone Shed, so it stays. Change or remove the check first.",
    });
    const elsewhere = { ...document.courses[0], zones: [shed] };
    expect(done({ ...document, courses: [elsewhere, walk] }, edit)).toHaveProperty("problem");
    const free = { ...document, courses: document.courses.map((course) => ({ ...course, checks: [] })) };
    expect(made(free, edit).courses[1].zones).toEqual([]);
  });
});

describe("a rail that gets shorter", () => {
  const { document } = splitProject(pipeRailCarrier());
  const course = document.courses[0] as RailCourse;

  it("keeps its plates and starts on it", () => {
    const rail = { ...course.rail, way: [{ straight: 200 }], closed: false };
    const short = made(document, { edit: "setRail", args: { course: course.id, rail } }).courses[0] as RailCourse;
    expect(Math.max(...short.plates.map(({ at }) => at))).toBe(200);
    expect(short.starts[0].at).toBe(200);
  });
});

describe("courses", () => {
  const { document } = splitProject(glasshouseRound());

  it("are copied behind themselves, and the last one stays", () => {
    const [aisle, walk] = document.courses;
    const copy = "aisle-2" as CourseId;
    const copied = made(document, { edit: "copyCourse", args: { course: aisle.id, copy, name: "Aisle, copy" } });
    expect(copied.courses.map(({ id }) => id)).toEqual([aisle.id, copy, walk.id]);
    const alone = { ...document, courses: [aisle] };
    expect(done(alone, { edit: "deleteCourse", args: { course: aisle.id } })).toEqual({
      problem: "It is the only course.",
    });
  });
});
