export { folded, knownOf, withoutIdle } from "./folded";
export { allAlike, Printer, quietly, wellFormed, wrapped } from "./Printer";
export { coded, readExpr, readFns } from "./read";
export * from "./tree";
export { letsIn, NAMED, namesIn, reached, rowsIn, setIn, Types } from "./types";
