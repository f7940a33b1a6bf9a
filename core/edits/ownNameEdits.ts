import * as z from "zod";
import { OWN_NAMES, type OwnNames } from "../behaviour";
import { Id } from "../names";
import { inUse, renamedUses, tellUses } from "../project";
import { editKind } from "./editKind";

const Kind = z.enum(Object.keys(OWN_NAMES) as [OwnNames, ...OwnNames[]]);
const Own = { kind: Kind, name: Id };

export const addOwnName = editKind(Own, {
  words: ({ kind, name }) => `${OWN_NAMES[kind]} ${name} added`,
  apply(project, { kind, name }) {
    const { behaviour } = project;
    if (kind === "routines") {
      const routines = [...behaviour.routines, { id: name, name, steps: [] }];
      return { ...project, behaviour: { ...behaviour, routines } };
    }
    return { ...project, behaviour: { ...behaviour, [kind]: [...behaviour[kind], name] } };
  },
});

/** Another name of a counter, list or routine wherever it is named, in checks too. */
export const renameOwnName = editKind(
  { ...Own, to: Id },
  {
    words: ({ kind, to }) => `${OWN_NAMES[kind]} named ${to}`,
    apply(project, { kind, name, to }) {
      const renamed = renamedUses(project, OWN_NAMES[kind], name, to);
      const { behaviour } = renamed;
      if (kind === "routines") {
        const routines = behaviour.routines.map((one) =>
          one.id === name ? { ...one, id: to, name: one.name === name ? to : one.name } : one,
        );
        return { ...renamed, behaviour: { ...behaviour, routines } };
      }
      const own = behaviour[kind].map((one) => (one === name ? to : one));
      return { ...renamed, behaviour: { ...behaviour, [kind]: own } };
    },
  },
);

export const deleteOwnName = editKind(Own, {
  words: ({ kind, name }) => `${OWN_NAMES[kind]} ${name} deleted`,
  refused: ({ kind, name }, project) =>
    inUse(`The ${OWN_NAMES[kind]} ${name}`, tellUses(project, OWN_NAMES[kind], name)),
  apply(project, { kind, name }) {
    const { behaviour } = project;
    return {
      ...project,
      behaviour:
        kind === "routines"
          ? { ...behaviour, routines: behaviour.routines.filter(({ id }) => id !== name) }
          : { ...behaviour, [kind]: behaviour[kind].filter((one) => one !== name) },
    };
  },
});
