import { type Mode, Mode as ModeSchema, Response } from "../behaviour";
import { type ModeId, ModeIdSchema, Name, ResponseIdSchema } from "../names";
import { type ProjectDocument, whyModeStays } from "../project";
import { changed, changeOf, moved, placed, without, withThing } from "./change";
import { editKind } from "./editKind";
import { modeName } from "./words";

const OfMode = { mode: ModeIdSchema };
const OfResponse = { ...OfMode, response: ResponseIdSchema };

const withModes = (project: ProjectDocument, change: (modes: Mode[]) => Mode[]): ProjectDocument => {
  const modes = change(project.behaviour.modes);
  return modes === project.behaviour.modes ? project : { ...project, behaviour: { ...project.behaviour, modes } };
};
const inMode = (project: ProjectDocument, mode: ModeId, change: (mode: Mode) => Mode): ProjectDocument =>
  withModes(project, (modes) => withThing(modes, mode, change));
const withResponses = (project: ProjectDocument, mode: ModeId, change: (responses: Response[]) => Response[]) =>
  inMode(project, mode, (one) => {
    const responses = change(one.responses);
    return responses === one.responses ? one : { ...one, responses };
  });
const responseOf = ({ behaviour }: ProjectDocument, mode: ModeId, response: string) =>
  behaviour.modes.find(({ id }) => id === mode)?.responses.find(({ id }) => id === response);

export const addMode = editKind(
  { ...OfMode, name: ModeSchema.shape.name },
  {
    words: ({ name }) => `mode ${name} added`,
    apply: (project, { mode, name }) =>
      withModes(project, (modes) => [...modes, { id: mode, name, entering: [], responses: [] }]),
  },
);

export const renameMode = editKind(
  { ...OfMode, name: Name },
  {
    words: ({ name }) => `mode named ${name}`,
    apply: (project, { mode, name }) => inMode(project, mode, (one) => ({ ...one, name })),
  },
);

export const startInMode = editKind(OfMode, {
  words: ({ mode }, project) => `start in ${modeName(project, mode)}`,
  apply: (project, { mode }) => ({ ...project, behaviour: { ...project.behaviour, start: mode } }),
});

export const deleteMode = editKind(OfMode, {
  words: ({ mode }, project) => `mode ${modeName(project, mode)} deleted`,
  refused: ({ mode }, project) => whyModeStays(project, mode),
  apply: (project, { mode }) => withModes(project, (modes) => without(modes, mode)),
});

export const addResponse = editKind(
  { ...OfMode, response: Response, before: ResponseIdSchema.nullable() },
  {
    words: ({ mode }, project) => `response in ${modeName(project, mode)} added`,
    apply: (project, { mode, response, before }) =>
      withResponses(project, mode, (all) => placed(all, response, before)),
  },
);

/** A response with another trigger, guard, next mode or way to fire, or switched; its steps stay. */
export const changeResponse = editKind(
  { ...OfResponse, change: changeOf(Response, "when", "guard", "then", "fires", "restMs", "busy", "on") },
  {
    words: ({ mode, change }, project) =>
      `response in ${modeName(project, mode)} ${change.on === undefined ? "changed" : `switched ${change.on ? "on" : "off"}`}`,
    apply: (project, { mode, response, change }) =>
      withResponses(project, mode, (all) => withThing(all, response, (one) => changed(one, change))),
  },
);

/** Among several that could start, the first one does. */
export const moveResponse = editKind(
  { ...OfResponse, before: ResponseIdSchema.nullable() },
  {
    words: ({ mode }, project) => `response in ${modeName(project, mode)} moved`,
    apply: (project, { mode, response, before }) => withResponses(project, mode, (all) => moved(all, response, before)),
  },
);

/** A response to the end of another mode’s order. */
export const moveResponseTo = editKind(
  { ...OfResponse, to: ModeIdSchema },
  {
    words: ({ to }, project) => `response moved to ${modeName(project, to)}`,
    apply(project, { mode, response, to }) {
      const one = responseOf(project, mode, response);
      if (one === undefined || mode === to) return project;
      const left = withResponses(project, mode, (all) => without(all, response));
      return withResponses(left, to, (all) => [...all, one]);
    },
  },
);

export const deleteResponse = editKind(OfResponse, {
  words: ({ mode }, project) => `response in ${modeName(project, mode)} deleted`,
  apply: (project, { mode, response }) => withResponses(project, mode, (all) => without(all, response)),
});
