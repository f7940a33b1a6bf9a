export { isAside, putAside, takenBack } from "./aside";
export { findAll } from "./findAll";
export type { Finding, FindingCode, Level, Place } from "./finding";
export { applyFix, type FixChange } from "./fix";
export { FixTrial, findProven } from "./proven";
