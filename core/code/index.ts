export { classifyName, LANGUAGES, type Language, writeRules } from "./languages";
