import {
  type Behaviour,
  type Mode,
  printTrigger,
  type Response,
  type Step,
  type Trigger,
} from "@perceptum/core/behaviour";
import { freeId, type ModeId, type ProjectDocument, type ResponseId } from "@perceptum/core/project";
import type { Cell } from "../state/view";

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
export function stepsOf(project: ProjectDocument, cell: Cell): readonly Step[] {
  const mode = project.behaviour.modes.find((m) => m.id === cell.mode);
  if (mode === undefined || "ignored" in cell) return [];
  return "entering" in cell ? mode.entering : (mode.responses.find((r) => r.id === cell.response)?.steps ?? []);
}

/** The project with the steps of a cell replaced. */
export function withSteps(project: ProjectDocument, cell: Cell, steps: Step[]): ProjectDocument {
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
  const taken = project.behaviour.modes.flatMap((m) => m.responses.map((r) => r.id));
  const id = freeId<ResponseId>(printTrigger(when), taken);
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
  const id = freeId<ModeId>(
    name,
    modes.map((m) => m.id),
  );
  return withBehaviour(project, { ...project.behaviour, modes: [...modes, { id, name, entering: [], responses: [] }] });
}

/** Whether anything leads into a mode: then it cannot be deleted. */
export function modeIsUsed(project: ProjectDocument, id: ModeId): boolean {
  const { start, modes } = project.behaviour;
  const others = modes.filter((m) => m.id !== id);
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
