export * from "./firstBands";
export * from "./hueSeam";
export * from "./judge";
export * from "./marked";
export * from "./score";
export * from "./spread";
