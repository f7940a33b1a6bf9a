export * from "./fileName";
export * from "./idSchemas";
export * from "./ids";
export * from "./limits";
export * from "./nameSchema";
export * from "./numbered";
export * from "./Table";
export * from "./zodProblem";
