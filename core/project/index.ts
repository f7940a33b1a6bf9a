export * from "./emptyProject";
export * from "./file";
export * from "./ids";
export * from "./schema";
