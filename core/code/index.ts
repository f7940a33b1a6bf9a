export { LANGUAGES, type Language } from "./languages";
