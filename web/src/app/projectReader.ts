export { MAX_PROJECT_BYTES, readProject } from "@perceptum/core/project";
