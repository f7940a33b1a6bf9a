export * from "./marked";
export * from "./score";
export * from "./spread";
