export { type ChangeOf, changed } from "./change";
export type { PartThing } from "./courseEdits";
export type { EditKind } from "./editKind";
export { usesOfInput } from "./inputEdits";
export { type ArgsOf, applyEdit, EDITS, type Edit, type EditName, kindOfEdit } from "./table";
