import {
  type Behaviour,
  type ListedStep,
  type Mode,
  type NameKind,
  printTrigger,
  type Response,
  type Routine,
  type Trigger,
  triggerKindOf,
} from "@perceptum/core/behaviour";
import { freeId, type ModeId, nextId, type ResponseId, type TargetId } from "@perceptum/core/names";
import { type ProjectDocument, renamedUses, takenIds, tellUses } from "@perceptum/core/project";
import type { Cell } from "../state/act";

export function withBehaviour(project: ProjectDocument, behaviour: Behaviour): ProjectDocument {
  return { ...project, behaviour };
}

function withMode(project: ProjectDocument, id: ModeId, change: (mode: Mode) => Mode): ProjectDocument {
  return withBehaviour(project, {
    ...project.behaviour,
    modes: project.behaviour.modes.map((m) => (m.id === id ? change(m) : m)),
  });
}

export const renameMode = (project: ProjectDocument, id: ModeId, name: string) =>
  withMode(project, id, (mode) => ({ ...mode, name }));

/** The project with one response changed. */
export function withResponse(
  project: ProjectDocument,
  mode: ModeId,
  response: string,
  change: (response: Response) => Response,
): ProjectDocument {
  return withMode(project, mode, (m) => ({
    ...m,
    responses: m.responses.map((r) => (r.id === response ? change(r) : r)),
  }));
}

/** The steps that a cell holds. */
export function stepsOf(project: ProjectDocument, cell: Cell): readonly ListedStep[] {
  if ("routine" in cell) return project.behaviour.routines.find((r) => r.id === cell.routine)?.steps ?? [];
  const mode = project.behaviour.modes.find((m) => m.id === cell.mode);
  if (mode === undefined || "ignored" in cell) return [];
  return "entering" in cell ? mode.entering : (mode.responses.find((r) => r.id === cell.response)?.steps ?? []);
}

/** The project with the steps of a cell replaced. */
export function withSteps(project: ProjectDocument, cell: Cell, steps: ListedStep[]): ProjectDocument {
  if ("routine" in cell) {
    const { behaviour } = project;
    const routines = behaviour.routines.map((r) => (r.id === cell.routine ? { ...r, steps } : r));
    return withBehaviour(project, { ...behaviour, routines });
  }
  if ("ignored" in cell) return project;
  if ("entering" in cell) return withMode(project, cell.mode, (mode) => ({ ...mode, entering: steps }));
  return withResponse(project, cell.mode, cell.response, (response) => ({ ...response, steps }));
}

/** Adds a response without steps; gives the project and the response's id. */
export function addResponse(
  project: ProjectDocument,
  mode: ModeId,
  when: Trigger,
): { project: ProjectDocument; id: ResponseId } {
  const id = freeId<ResponseId>(printTrigger(when), idsOfResponses(project));
  const response: Response = { id, when, steps: [], fires: "once per visit", busy: "let it finish", on: true };
  return { project: withMode(project, mode, (m) => ({ ...m, responses: [...m.responses, response] })), id };
}

export function removeResponse(project: ProjectDocument, mode: ModeId, response: string): ProjectDocument {
  return withMode(project, mode, (m) => ({ ...m, responses: m.responses.filter((r) => r.id !== response) }));
}

/** Moves a response earlier or later in its mode: among several that could start, the first one does. */
export function moveResponse(project: ProjectDocument, mode: ModeId, response: string, step: 1 | -1): ProjectDocument {
  return withMode(project, mode, (m) => {
    const from = m.responses.findIndex((r) => r.id === response);
    const responses = [...m.responses];
    const [moved] = responses.splice(from, 1);
    responses.splice(from + step, 0, moved);
    return { ...m, responses };
  });
}

export function addMode(project: ProjectDocument): ProjectDocument {
  const { modes } = project.behaviour;
  const name = `Mode ${modes.length + 1}`;
  const id = freeId<ModeId>(name, takenIds(project));
  return withBehaviour(project, { ...project.behaviour, modes: [...modes, { id, name, entering: [], responses: [] }] });
}

/** Whether anything leads into a mode: then it cannot be deleted. */
export function modeIsUsed(project: ProjectDocument, id: ModeId): boolean {
  const { start, modes } = project.behaviour;
  const others = [modes.filter((m) => m.id !== id), project.behaviour.routines];
  return (
    start === id ||
    modes.length === 1 ||
    JSON.stringify(others).includes(`"then":"${id}"`) ||
    JSON.stringify(others).includes(`"mode":"${id}"`)
  );
}

export function removeMode(project: ProjectDocument, id: ModeId): ProjectDocument {
  return withBehaviour(project, { ...project.behaviour, modes: project.behaviour.modes.filter((m) => m.id !== id) });
}

/** Moves a response to another mode, to the end of its order, or copies it there. */
export function moveToMode(
  project: ProjectDocument,
  from: ModeId,
  response: string,
  to: ModeId,
  copy: boolean,
): { project: ProjectDocument; id: ResponseId } | undefined {
  const moved = project.behaviour.modes.find((m) => m.id === from)?.responses.find((r) => r.id === response);
  if (moved === undefined) return undefined;
  if (!copy) {
    const left = removeResponse(project, from, response);
    return { project: withMode(left, to, (m) => ({ ...m, responses: [...m.responses, moved] })), id: moved.id };
  }
  const id = freeId<ResponseId>(moved.id, idsOfResponses(project));
  return { project: withMode(project, to, (m) => ({ ...m, responses: [...m.responses, { ...moved, id }] })), id };
}

const idsOfResponses = (project: ProjectDocument) =>
  project.behaviour.modes.flatMap((m) => m.responses.map((r) => r.id));

/** The same response for other targets and in other modes, a copy for each pair; what is there already stays. */
export function copyResponse(
  project: ProjectDocument,
  response: Response,
  targets: readonly TargetId[],
  modes: readonly ModeId[],
): ProjectDocument {
  let made = project;
  for (const mode of modes)
    for (const when of targets.length === 0 ? [response.when] : targets.map((t) => forTarget(response.when, t))) {
      const id = freeId<ResponseId>(printTrigger(when), idsOfResponses(made));
      made = withMode(made, mode, (m) => ({ ...m, responses: [...m.responses, { ...response, id, when }] }));
    }
  return made;
}

const forTarget = (when: Trigger, target: TargetId): Trigger => triggerKindOf(when).about?.(when, target) ?? when;

/** A routine of some steps of a cell, which now do it; the steps must lie one after another. */
export function routineFrom(
  project: ProjectDocument,
  cell: Cell,
  from: number,
  to: number,
  id: string,
): ProjectDocument {
  const steps = stepsOf(project, cell);
  const routine: Routine = { id, name: id, steps: steps.slice(from, to + 1) };
  const doing: ListedStep[] = [
    ...steps.slice(0, from),
    { id: nextId("step", steps), step: "do", routine: id },
    ...steps.slice(to + 1),
  ];
  const { behaviour } = project;
  return withSteps(withBehaviour(project, { ...behaviour, routines: [...behaviour.routines, routine] }), cell, doing);
}

/** What a behaviour names by words of its own. */
export type OwnNames = "counters" | "lists" | "routines";
const KIND_OF: Record<OwnNames, NameKind> = { counters: "counter", lists: "list", routines: "routine" };

/** Gives a counter, list or routine another name wherever it is named, in checks too. */
export function renameOwn(project: ProjectDocument, kind: OwnNames, from: string, to: string): ProjectDocument {
  const { behaviour, ...rest } = renamedUses(project, KIND_OF[kind], from, to);
  const own = (names: readonly string[]) => names.map((name) => (name === from ? to : name));
  return {
    ...rest,
    behaviour: {
      ...behaviour,
      counters: kind === "counters" ? own(behaviour.counters) : behaviour.counters,
      lists: kind === "lists" ? own(behaviour.lists) : behaviour.lists,
      routines: behaviour.routines.map((r) =>
        kind === "routines" && r.id === from ? { ...r, id: to, name: r.name === from ? to : r.name } : r,
      ),
    },
  };
}

/** Where a counter, list or routine is named, in words. */
export const usesOfOwn = (project: ProjectDocument, kind: OwnNames, name: string): string[] =>
  tellUses(project, KIND_OF[kind], name);
