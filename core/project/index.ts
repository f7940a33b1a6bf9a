export * from "./emptyProject";
export * from "./file";
export * from "./jsonSchema";
export { takenIds } from "./missingNames";
export * from "./names";
export * from "./readingsApart";
export * from "./schema";
