export { classifyName, LANGUAGES, type Language, takeName, writeBehaviour, writeEngine, writeRules } from "./languages";
export { heard, type Noted, notedAs } from "./notedAs";
export { camelName } from "./writers/javascript";
