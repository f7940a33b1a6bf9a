import { mkdirSync, writeFileSync } from "node:fs";
import { projectJsonSchema } from "@perceptum/core/project";

/** Writes the JSON Schema of a project file; a test holds that it is the present one. */
mkdirSync(new URL("../docs/", import.meta.url), { recursive: true });
writeFileSync(new URL("../docs/project.schema.json", import.meta.url), projectJsonSchema());
