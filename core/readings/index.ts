export * from "./channels";
export * from "./csv";
export * from "./feature";
export * from "./jsonLines";
export * from "./ReadingBlock";
export * from "./rawReadings";
