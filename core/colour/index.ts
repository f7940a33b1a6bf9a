export * from "./circle";
export * from "./hex";
export * from "./lightChroma";
export * from "./rgbToHsv";
export * from "./srgb";
