import { namesOf, parseTrigger } from "@perceptum/core/behaviour";
import { glasshouseRound } from "@perceptum/core/demo";
import type { ModeId, TargetId } from "@perceptum/core/names";
import { ProjectDocument, splitProject } from "@perceptum/core/project";
import { describe, expect, it } from "vitest";
import { usesOf } from "../targets/usesOf";
import {
  addMode,
  addResponse,
  copyResponse,
  modeIsUsed,
  moveResponse,
  moveToMode,
  removeMode,
  removeResponse,
  renameOwn,
  routineFrom,
  stepsOf,
  usesOfOwn,
  withSteps,
} from "./behaviourEdit";

const { document } = splitProject(glasshouseRound());
const patrol = "patrol" as ModeId;
const ids = (project: ProjectDocument, mode = 0) => project.behaviour.modes[mode].responses.map((r) => r.id);

describe("editing the behaviour", () => {
  it("adds a response with an id of its own, moves it and removes it, and stays valid", () => {
    const parsed = parseTrigger("coral arrives", namesOf(document));
    if ("problem" in parsed) throw new Error(parsed.problem.message);
    const { project, id } = addResponse(document, patrol, parsed.value);
    expect(ids(project)).toEqual([...ids(document), id]);
    expect(ProjectDocument.parse(project)).toEqual(project);
    const moved = moveResponse(project, patrol, id, -1);
    expect(ids(moved).indexOf(id)).toBe(ids(project).length - 2);
    expect(ids(removeResponse(moved, patrol, id))).toEqual(ids(document));
  });

  it("changes the steps of a response and of entering", () => {
    const cell = { mode: patrol, response: "water" };
    const changed = withSteps(document, cell, [{ id: "step-1" as never, step: "stop" }]);
    expect(stepsOf(changed, cell)).toEqual([{ id: "step-1" as never, step: "stop" }]);
    expect(stepsOf(document, cell)).toHaveLength(5);
    expect(
      stepsOf(withSteps(document, { mode: patrol, entering: true }, []), { mode: patrol, entering: true }),
    ).toEqual([]);
  });

  it("deletes only a mode that nothing leads into", () => {
    expect(modeIsUsed(document, "bay" as ModeId)).toBe(true);
    const added = addMode(document);
    const fresh = added.behaviour.modes[4].id;
    expect(modeIsUsed(added, fresh)).toBe(false);
    expect(removeMode(added, fresh).behaviour).toEqual(document.behaviour);
  });
});

describe("responses and names", () => {
  const water = document.behaviour.modes[0].responses[0];

  it("move to another mode, or are copied there with an id of their own", () => {
    const moved = moveToMode(document, patrol, water.id, "bay" as ModeId, false);
    expect(moved?.project.behaviour.modes[1].responses.at(-1)).toEqual(water);
    expect(ids(moved?.project as ProjectDocument)).not.toContain(water.id);
    const copied = moveToMode(document, patrol, water.id, "bay" as ModeId, true);
    expect(ids(copied?.project as ProjectDocument)).toContain(water.id);
    expect(copied?.id).not.toBe(water.id);
  });

  it("are copied to several targets and modes at once", () => {
    const targets = ["violet", "teal"] as TargetId[];
    const made = copyResponse(document, water, targets, ["bay", "astride"] as ModeId[]);
    expect(ProjectDocument.parse(made)).toEqual(made);
    expect(ids(made, 1)).toHaveLength(ids(document, 1).length + 2);
    expect(made.behaviour.modes[3].responses.at(-1)).toMatchObject({ when: { arrives: ["teal"] }, steps: water.steps });
  });

  it("of steps become a routine that takes their place", () => {
    const made = routineFrom(document, { mode: patrol, response: "water" }, 1, 3, "flash");
    expect(ProjectDocument.parse(made)).toEqual(made);
    expect(made.behaviour.routines.at(-1)?.steps).toEqual(water.steps.slice(1, 4));
    expect(stepsOf(made, { mode: patrol, response: "water" })).toEqual([
      water.steps[0],
      { step: "do", routine: "flash" },
      water.steps[4],
    ]);
  });

  it("change wherever they are named, in checks too, and say where that is", () => {
    const made = renameOwn(document, "counters", "tally", "violets");
    expect(ProjectDocument.parse(made)).toEqual(made);
    expect(/"count(er)?":"tally"/.test(JSON.stringify(made))).toBe(false);
    expect(usesOfOwn(document, "counters", "tally")).toEqual([
      "the mode In the bay",
      "the mode Along the line",
      "checks of Aisle",
    ]);
    const routine = renameOwn(document, "routines", "water", "irrigate");
    expect(usesOfOwn(routine, "routines", "irrigate")).toEqual(["the mode Along the line"]);
    expect(routine.behaviour.routines[0].id).toBe("irrigate");
  });
});

it("a target names all its uses", () => {
  expect(usesOf(document, document.targets[0].id)).toEqual([
    "a rule",
    "marks of Aisle walk, overcast",
    "marks of Aisle walk, noon sun",
    "the mode Patrol",
    "the mode Along the line",
    "the routine Water",
    "the course Aisle",
    "checks of Aisle",
    "the course Chalk walk",
  ]);
});
