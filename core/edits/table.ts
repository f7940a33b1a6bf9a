import * as z from "zod";
import { zodProblem } from "../names";
import type { ProjectDocument } from "../project";
import {
  addMode,
  addResponse,
  changeResponse,
  deleteMode,
  deleteResponse,
  moveResponse,
  moveResponseTo,
  renameMode,
  startInMode,
} from "./behaviourEdits";
import {
  addCheck,
  addCourse,
  addThing,
  changeCourse,
  copyCourse,
  deleteCheck,
  deleteCourse,
  deleteThing,
  keepHeld,
  paintCourse,
  replaceCheck,
  setPieces,
  setRail,
  setSleepers,
  setThing,
} from "./courseEdits";
import { type EditKind, editKind } from "./editKind";
import { makeItSo, mend, putFindingAside, takeFindingBack } from "./findingEdits";
import { addInput, changeInput, deleteInput, renameInput } from "./inputEdits";
import { addLight, changeLight, deleteLight } from "./lightEdits";
import { nameRobotSensor, setLink } from "./linkEdits";
import { addOwnName, deleteOwnName, renameOwnName } from "./ownNameEdits";
import { problemIn } from "./problemIn";
import { renameProject } from "./projectEdits";
import {
  addCrate,
  addGate,
  addMount,
  addRobotName,
  addServo,
  becomeRobot,
  changeGate,
  changeMotor,
  changeMount,
  changeRobot,
  changeServo,
  deleteCrate,
  deleteGate,
  deleteMount,
  deleteRobotName,
  deleteServo,
  renameCrate,
} from "./robotEdits";
import {
  addClause,
  addReference,
  addRule,
  changeReference,
  deleteClause,
  deleteReference,
  deleteRule,
  deleteTest,
  moveBound,
  moveBox,
  moveRule,
  setMethod,
  setReject,
  setSteady,
  setTests,
  switchRule,
  switchRules,
  takeReferences,
  takeRules,
} from "./ruleEdits";
import { addSensor, deleteSensor, replaceSensor, setStrip, setWhiteDark } from "./sensorEdits";
import { addStep, deleteStep, makeRoutine, moveStep, replaceStep } from "./stepEdits";
import {
  addBox,
  addMark,
  addTapes,
  changeBox,
  changeMark,
  deleteBox,
  deleteMark,
  deleteTape,
  renameTape,
  setTapeLight,
  splitMark,
} from "./tapeEdits";
import { addTarget, changeTarget, deleteTarget } from "./targetEdits";

/** Whether something names a kind of edit; `applyEdit` looks at its arguments. */
const isEdit = (value: unknown): value is Edit =>
  typeof value === "object" && value !== null && "edit" in value && Object.hasOwn(EDITS, String(value.edit));

/** Several edits that are one change: undone together, and none is made where one cannot be. */
const together: EditKind<{ did: string; edits: readonly Edit[] }> = editKind(
  { did: z.string().max(200), edits: z.array(z.custom<Edit>(isEdit)).max(2000) },
  {
    words: ({ did }) => did,
    apply(project, { edits }) {
      let now = project;
      for (const edit of edits) {
        const made = applyEdit(now, edit);
        if ("problem" in made) return made;
        now = made.project;
      }
      return now;
    },
  },
);

/** Every change that can be made to a project, by its name, in the order of the job. */
export const EDITS = {
  renameProject,
  addTarget,
  changeTarget,
  deleteTarget,
  addLight,
  changeLight,
  deleteLight,
  addSensor,
  replaceSensor,
  setWhiteDark,
  setStrip,
  deleteSensor,
  setMethod,
  addRule,
  takeRules,
  setTests,
  switchRules,
  switchRule,
  moveRule,
  deleteRule,
  addClause,
  deleteClause,
  moveBound,
  moveBox,
  deleteTest,
  setSteady,
  addReference,
  changeReference,
  deleteReference,
  takeReferences,
  setReject,
  addMode,
  renameMode,
  startInMode,
  deleteMode,
  addResponse,
  changeResponse,
  moveResponse,
  moveResponseTo,
  deleteResponse,
  addStep,
  replaceStep,
  moveStep,
  deleteStep,
  makeRoutine,
  addOwnName,
  renameOwnName,
  deleteOwnName,
  addInput,
  changeInput,
  renameInput,
  deleteInput,
  becomeRobot,
  changeRobot,
  changeMotor,
  addMount,
  changeMount,
  deleteMount,
  addRobotName,
  deleteRobotName,
  addServo,
  changeServo,
  deleteServo,
  addGate,
  changeGate,
  deleteGate,
  addCrate,
  renameCrate,
  deleteCrate,
  addCourse,
  copyCourse,
  changeCourse,
  deleteCourse,
  setRail,
  setSleepers,
  setPieces,
  paintCourse,
  addThing,
  setThing,
  deleteThing,
  keepHeld,
  addCheck,
  replaceCheck,
  deleteCheck,
  addTapes,
  renameTape,
  deleteTape,
  setTapeLight,
  addMark,
  changeMark,
  splitMark,
  deleteMark,
  addBox,
  changeBox,
  deleteBox,
  setLink,
  nameRobotSensor,
  mend,
  makeItSo,
  putFindingAside,
  takeFindingBack,
  together,
};

export type EditName = keyof typeof EDITS;
/** The arguments of an edit of a kind. */
export type ArgsOf<K extends EditName> = (typeof EDITS)[K] extends EditKind<infer A> ? A : never;
/** A change of a project as plain data. */
export type Edit = { [K in EditName]: { edit: K; args: ArgsOf<K> } }[EditName];

/** The kind of an edit. */
export const kindOfEdit = (edit: EditName): EditKind<unknown> => EDITS[edit] as unknown as EditKind<unknown>;

/**
 * The project with an edit made, or a sentence that says why it is not. A project that its schema accepts stays one; a
 * move of a gesture keeps it so by itself, and the project is not looked through again.
 */
export function applyEdit(
  project: ProjectDocument,
  { edit, args }: Edit,
  inGesture = false,
): { project: ProjectDocument } | { problem: string } {
  if (!Object.hasOwn(EDITS, edit)) return { problem: `Nothing was changed: there is no edit “${edit}”.` };
  const kind = kindOfEdit(edit);
  const wrong = (what: string) => ({ problem: `Nothing was changed: ${what}.` });
  const read = kind.schema.safeParse(args);
  if (!read.success) return wrong(zodProblem(read.error).message);
  const refused = kind.refused?.(args, project);
  if (refused !== undefined) return { problem: refused };
  const made = kind.apply(project, args);
  if ("problem" in made) return wrong(made.problem);
  if (made === project || (inGesture && kind.gathers !== undefined)) return { project: made };
  const problem = problemIn(made, project);
  return problem === undefined ? { project: made } : wrong(problem);
}
