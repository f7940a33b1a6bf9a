export { allAlike, Printer, quietly, wellFormed } from "./Printer";
export { readExpr, readFns } from "./read";
export * from "./tree";
export { letsIn, NAMED, namesIn, reached, setIn, Types } from "./types";
