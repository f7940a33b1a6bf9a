export * from "./clusterInterval";
export * from "./exactMath";
export * from "./nextFloat";
export * from "./numbers";
export * from "./roots";
export * from "./wilson";
