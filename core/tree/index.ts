export { folded } from "./folded";
export { allAlike, laidOut, Printer, quietly, wellFormed, wrapped } from "./Printer";
export { coded, readExpr, readFns } from "./read";
export * from "./tree";
export { letsIn, NAMED, namesIn, reached, setIn, Types } from "./types";
