export { asideOf, isAside } from "./aside";
export { findAll } from "./findAll";
export type { Finding, FindingCode, Level, Place } from "./finding";
export { applyFix, FixChange } from "./fix";
export { FixTrial, findProven } from "./proven";
