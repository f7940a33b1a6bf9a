export { allAlike, Printer, quietly, wellFormed } from "./Printer";
export { readExpr, readFns } from "./read";
export * from "./tree";
export { NAMED, namesIn, reached, setIn, Types } from "./types";
