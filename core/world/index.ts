export * from "./bench";
export * from "./chance";
export * from "./checks";
export { Floor } from "./floor";
export * from "./optics";
export * from "./run";
export * from "./schema";
export * from "./tapeOfRun";
export * from "./trace";
