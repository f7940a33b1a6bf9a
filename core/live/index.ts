export * from "./link";
