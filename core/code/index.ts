export { LANGUAGES, type Language, writeRules } from "./languages";
