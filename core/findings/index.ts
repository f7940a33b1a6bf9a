export { asideOf, isAside } from "./aside";
export { findAll } from "./findAll";
export type { Finding, FindingCode, FindingPlace, Level } from "./finding";
export { applyFix, FixChange } from "./fix";
export { FixTrial, findProven } from "./proven";
