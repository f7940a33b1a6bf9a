export { classifyName, LANGUAGES, type Language, writeBehaviour, writeEngine, writeRules } from "./languages";
export { camelName } from "./writers/javascript";
