export { writePython } from "./python";
