import { Name } from "../names";
import { editKind } from "./editKind";

export const renameProject = editKind(
  { name: Name },
  {
    words: ({ name }) => `project named ${name}`,
    apply: (project, { name }) => ({ ...project, name }),
  },
);
