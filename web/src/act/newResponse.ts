import { printTrigger, type Response, type Trigger, triggerKindOf } from "@perceptum/core/behaviour";
import type { Edit } from "@perceptum/core/edits";
import { freeId, type ModeId, type ResponseId, type TargetId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";

const idsOfResponses = ({ behaviour }: ProjectDocument) =>
  behaviour.modes.flatMap((mode) => mode.responses.map((response) => response.id));

/** A response without steps, of an id that the project does not have. */
export const newResponse = (project: ProjectDocument, when: Trigger): Response => ({
  id: freeId<ResponseId>(printTrigger(when), idsOfResponses(project)),
  when,
  steps: [],
  fires: "once per visit",
  busy: "let it finish",
  on: true,
});

/** The same response once more, of an id that the project does not have. */
export const copyOf = (project: ProjectDocument, response: Response): Response => ({
  ...response,
  id: freeId<ResponseId>(response.id, idsOfResponses(project)),
});

/** The same response for other targets and in other modes: a copy for each pair; what is there already stays. */
export function copiesOf(
  project: ProjectDocument,
  response: Response,
  targets: readonly TargetId[],
  modes: readonly ModeId[],
): Edit[] {
  const { when } = response;
  const whens = targets.length === 0 ? [when] : targets.map((t) => triggerKindOf(when).about?.(when, t) ?? when);
  const taken = idsOfResponses(project);
  return modes.flatMap((mode) =>
    whens.map((one): Edit => {
      const id = freeId<ResponseId>(printTrigger(one), taken);
      taken.push(id);
      return { edit: "addResponse", args: { mode, response: { ...response, id, when: one }, before: null } };
    }),
  );
}
