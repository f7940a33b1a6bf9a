export * from "./emptyProject";
export * from "./file";
export { Id, TapeId as TapeIdSchema } from "./idSchemas";
export * from "./ids";
export * from "./jsonSchema";
export * from "./readingsApart";
export * from "./schema";
