export { classifyName, LANGUAGES, type Language, writeEngine, writeRules } from "./languages";
export { camelName } from "./writers/javascript";
