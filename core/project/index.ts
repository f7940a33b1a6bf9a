export * from "./emptyProject";
export * from "./file";
export * from "./jsonSchema";
export * from "./names";
export { newCamera } from "./newCamera";
export { takenIds } from "./phraseIds";
export * from "./readingsApart";
export { renew } from "./renewed";
export * from "./schema";
