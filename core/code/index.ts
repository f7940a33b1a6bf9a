export { classifyName, LANGUAGES, type Language, takeName, writeBehaviour, writeEngine, writeRules } from "./languages";
export { heard, type NoteFields, notedAs } from "./notedAs";
export { camelName } from "./writers/javascript";
