import { describe, expect, it } from "vitest";
import { type Behaviour, everyStep, type ListedStep, namesOf, parseTrigger, printStep, stepsAt } from "../behaviour";
import { glasshouseRound } from "../demo";
import type { ModeId, ResponseId, StepId } from "../names";
import { type ProjectDocument, splitProject, tellUses } from "../project";
import { applyEdit, type Edit } from ".";

const { document } = splitProject(glasshouseRound());
const [patrol, bay] = ["patrol", "bay"] as ModeId[];
const made = (edit: Edit, project: ProjectDocument = document): ProjectDocument => {
  const done = applyEdit(project, edit);
  if ("problem" in done) throw new Error(done.problem);
  return done.project;
};
const problemOf = (edit: Edit) => {
  const done = applyEdit(document, edit);
  return "problem" in done ? done.problem : undefined;
};
const ids = (project: ProjectDocument, mode: ModeId = patrol) =>
  project.behaviour.modes.find(({ id }) => id === mode)?.responses.map(({ id }) => id);
const [water] = document.behaviour.modes[0].responses;
const inWater = { mode: patrol, response: water.id };

const everyPhrase = (behaviour: Behaviour) => {
  const phrases: string[] = [];
  everyStep(behaviour, (step) => {
    phrases.push(printStep(step));
    return step;
  });
  return phrases;
};

describe("responses", () => {
  it("are added, moved before others and to another mode, and deleted", () => {
    const when = parseTrigger("coral arrives", namesOf(document));
    if ("problem" in when) throw new Error(when.problem.message);
    const response = { ...water, id: "again" as ResponseId, when: when.value };
    const more = made({ edit: "addResponse", args: { mode: patrol, response, before: null } });
    expect(ids(more)).toEqual([...(ids(document) ?? []), "again"]);
    const first = made({ edit: "moveResponse", args: { mode: patrol, response: response.id, before: water.id } }, more);
    expect(ids(first)?.slice(0, 2)).toEqual(["again", water.id]);
    const away = made({ edit: "moveResponseTo", args: { mode: patrol, response: response.id, to: bay } }, first);
    expect([ids(away), ids(away, bay)?.at(-1)]).toEqual([ids(document), "again"]);
    expect(made({ edit: "deleteResponse", args: { mode: bay, response: response.id } }, away)).toEqual(document);
  });

  it("of one id are not there twice", () => {
    expect(problemOf({ edit: "addResponse", args: { mode: patrol, response: water, before: null } })).toBe(
      `Nothing was changed: the response “${water.id}” is there twice.`,
    );
  });

  it("lose a guard or a rest with null", () => {
    const rested = made({ edit: "changeResponse", args: { ...inWater, change: { restMs: 500, on: false } } });
    expect(rested.behaviour.modes[0].responses[0]).toMatchObject({ restMs: 500, on: false });
    const back = made({ edit: "changeResponse", args: { ...inWater, change: { restMs: null, on: true } } }, rested);
    expect(back).toEqual(document);
  });
});

describe("modes", () => {
  it("are deleted only where nothing leads into them", () => {
    const fresh = "fresh" as ModeId;
    const more = made({ edit: "addMode", args: { mode: fresh, name: "Fresh" } });
    expect(made({ edit: "deleteMode", args: { mode: fresh } }, more)).toEqual(document);
    expect(problemOf({ edit: "deleteMode", args: { mode: bay } })).toMatch(/^In the bay is used by .*, so it stays\.$/);
  });
});

describe("steps", () => {
  it("are added, replaced, moved and deleted by their ids", () => {
    const stop: ListedStep = { id: "step-9" as StepId, step: "stop" };
    const order = (project: ProjectDocument) => stepsAt(project.behaviour, inWater).map(({ id }) => id);
    const more = made({ edit: "addStep", args: { at: inWater, step: stop, before: water.steps[1].id } });
    expect(order(more)).toEqual(["step-1", "step-9", "step-2", "step-3", "step-4", "step-5"]);
    const last = made({ edit: "moveStep", args: { at: inWater, step: stop.id, before: null } }, more);
    expect(order(last).at(-1)).toBe("step-9");
    const other: ListedStep = { id: stop.id, step: "wait", ms: 100 };
    const replaced = made({ edit: "replaceStep", args: { at: inWater, step: other } }, last);
    expect(stepsAt(replaced.behaviour, inWater).at(-1)).toEqual(other);
    expect(made({ edit: "deleteStep", args: { at: inWater, step: stop.id } }, replaced)).toEqual(document);
  });

  it("become a routine that takes their place, if they follow one another", () => {
    const taken = water.steps.slice(1, 4).map(({ id }) => id);
    const args = { at: inWater, routine: "flash", doing: "step-9" as StepId };
    const one = made({ edit: "makeRoutine", args: { ...args, steps: taken } });
    expect(one.behaviour.routines.at(-1)?.steps).toEqual(water.steps.slice(1, 4));
    expect(stepsAt(one.behaviour, inWater)).toEqual([
      water.steps[0],
      { id: "step-9", step: "do", routine: "flash" },
      water.steps[4],
    ]);
    expect(problemOf({ edit: "makeRoutine", args: { ...args, steps: [taken[0], taken[2]] } })).toBe(
      "Only steps that follow one another can become a routine.",
    );
  });

  it("become a routine wherever they stand, with inputs for what differs", () => {
    const at = { mode: bay, response: "give-up" as ResponseId };
    const steps = stepsAt(document.behaviour, at).map(({ id }) => id);
    const args = { at, steps, routine: "give-up", doing: "step-9" as StepId };
    const { behaviour } = made({ edit: "makeRoutine", args: { ...args, alike: true } });
    const words = { kind: "text", value: '"no second violet"' } as const;
    expect(behaviour.routines.at(-1)).toEqual({
      ...{ id: "give-up", name: "give-up", inputs: [{ name: "words", ...words }] },
      steps: [
        expect.objectContaining({ step: "stop" }),
        expect.objectContaining({ step: "log", takes: { 0: "words" } }),
      ],
    });
    expect(stepsAt(behaviour, at)).toEqual([{ id: "step-9", step: "do", routine: "give-up" }]);
    const given = [{ input: "words", kind: "text", value: '"no end of the line"' }];
    for (const [mode, response] of [
      ["along", "lost"],
      ["astride", "lost-there"],
    ])
      expect(stepsAt(behaviour, { mode: mode as ModeId, response: response as ResponseId })).toEqual([
        { id: expect.any(String), step: "do", routine: "give-up", with: given },
      ]);
    // Without it only the picked ones do.
    const one = made({ edit: "makeRoutine", args }).behaviour;
    expect(everyPhrase(one).filter((phrase) => phrase.startsWith("do give-up"))).toEqual(["do give-up"]);
  });

  it("take with them what they take of the routine that they come from", () => {
    const span = { name: "span", kind: "time", value: "2 s" } as const;
    const at = { routine: "water" };
    const wait = { id: "step-9" as StepId, step: "wait", ms: 2000, takes: { 0: "span" } } as ListedStep;
    const taking = made({ edit: "addInput", args: { routine: "water", input: span } });
    const more = made({ edit: "addStep", args: { at, step: wait, before: null } }, taking);
    const args = { at, steps: [wait.id], routine: "pause", doing: "step-10" as StepId };
    const { behaviour } = made({ edit: "makeRoutine", args }, more);
    expect(behaviour.routines.at(-1)).toEqual({ id: "pause", name: "pause", inputs: [span], steps: [wait] });
    expect(stepsAt(behaviour, at).at(-1)).toEqual({
      ...{ id: "step-10", step: "do", routine: "pause", takes: { 0: "span" } },
      with: [{ input: "span", kind: "time", value: "2 s" }],
    });
  });

  it("give a routine what it takes, also under another name of that; what is given stays", () => {
    const span = { name: "span", kind: "time", value: "2 s" } as const;
    const routine = "water";
    const given = (input: string, value: string) =>
      ({ id: "step-9", step: "do", routine, with: [{ input, kind: "time", value }] }) as ListedStep;
    const taking = made({ edit: "addInput", args: { routine, input: span } });
    const doing = made({ edit: "addStep", args: { at: inWater, step: given("span", "3 s"), before: null } }, taking);
    const renamed = made({ edit: "renameInput", args: { routine, input: "span", to: "pause" } }, doing);
    expect(stepsAt(renamed.behaviour, inWater).at(-1)).toEqual(given("pause", "3 s"));
    const refused = applyEdit(doing, { edit: "deleteInput", args: { routine, input: "span" } });
    expect(refused).toEqual({ problem: "The input span is used by the mode Patrol, so it stays." });
    const wrong = { at: inWater, step: given("span", "2 h"), before: null };
    expect(applyEdit(taking, { edit: "addStep", args: wrong })).toMatchObject({
      problem: expect.stringContaining("“h” stands"),
    });
  });

  it("say why an input cannot start from a value", () => {
    const span = { name: "span", kind: "time", value: "2 s" } as const;
    const taking = made({ edit: "addInput", args: { routine: "water", input: span } });
    const args = { routine: "water", input: "span", value: "2 %" };
    expect(applyEdit(taking, { edit: "changeInput", args })).toEqual({
      problem: "Nothing was changed: s or ms is expected where “%” stands.",
    });
  });

  it("do not lead a routine back to itself", () => {
    const at = { routine: "water" };
    const step: ListedStep = { id: "step-9" as StepId, step: "do", routine: "water" };
    expect(problemOf({ edit: "addStep", args: { at, step, before: null } })).toBe(
      "Nothing was changed: the routine reaches itself: water does water.",
    );
  });
});

describe("names", () => {
  it("change wherever they stand, in checks too", () => {
    const args = { kind: "counters", name: "tally", to: "violets" } as const;
    const renamed = made({ edit: "renameOwnName", args });
    expect(/"count(er)?":"tally"/.test(JSON.stringify(renamed))).toBe(false);
    expect(tellUses(renamed, "counter", "violets")).toEqual(tellUses(document, "counter", "tally"));
    const routine = made({ edit: "renameOwnName", args: { kind: "routines", name: "water", to: "irrigate" } });
    expect([routine.behaviour.routines[0].id, tellUses(routine, "routine", "irrigate")]).toEqual([
      "irrigate",
      ["the mode Along the line"],
    ]);
  });

  it("that are used stay", () => {
    expect(problemOf({ edit: "deleteOwnName", args: { kind: "counters", name: "tally" } })).toBe(
      "The counter tally is used by the mode In the bay, the mode Along the line, checks of Aisle, so it stays.",
    );
  });
});
