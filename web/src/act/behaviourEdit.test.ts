import { namesOf, parseTrigger } from "@perceptum/core/behaviour";
import { glasshouseRound } from "@perceptum/core/demo";
import { type ModeId, ProjectDocument, splitProject } from "@perceptum/core/project";
import { describe, expect, it } from "vitest";
import { usesOf } from "../targets/usesOf";
import {
  addMode,
  addResponse,
  modeIsUsed,
  moveResponse,
  removeMode,
  removeResponse,
  stepsOf,
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
    const changed = withSteps(document, cell, [{ step: "stop" }]);
    expect(stepsOf(changed, cell)).toEqual([{ step: "stop" }]);
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

it("a target names all its uses", () => {
  expect(usesOf(document, document.targets[0].id)).toEqual([
    "a rule",
    "marks of Aisle walk, overcast",
    "marks of Aisle walk, noon sun",
    "the mode Patrol",
    "the mode Along the line",
    "the course Aisle",
    "the course Chalk walk",
  ]);
});
