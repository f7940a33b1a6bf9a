import { mkdirSync, writeFileSync } from "node:fs";
import { protocolJsonSchema } from "@perceptum/core/live";
import { projectJsonSchema } from "@perceptum/core/project";

/** Writes the JSON Schemas of a project file and of the protocol; tests hold that they are the present ones. */
mkdirSync(new URL("../docs/", import.meta.url), { recursive: true });
writeFileSync(new URL("../docs/project.schema.json", import.meta.url), projectJsonSchema());
writeFileSync(new URL("../docs/protocol.schema.json", import.meta.url), protocolJsonSchema());
