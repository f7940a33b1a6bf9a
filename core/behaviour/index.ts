export * from "./condition";
export * from "./engine";
export { type Names, type PhraseProblem, parsePhrase } from "./PhraseReader";
export * from "./program";
export * from "./schema";
export * from "./steps";
export { MAIN_LAMP } from "./steps/lamp";
export * from "./triggers";
