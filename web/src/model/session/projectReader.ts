export { MAX_PROJECT_FILE_BYTES } from "@perceptum/core/names";
export { readProject } from "@perceptum/core/project";
