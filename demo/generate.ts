import { writeFileSync } from "node:fs";
import { glasshouseRound } from "@perceptum/core/demo";
import { writeProject } from "@perceptum/core/project";

/** Writes the demo project; its output is committed, and a test holds that it is what the generator gives. */
writeFileSync(new URL("./glasshouse-round.perceptum.json", import.meta.url), writeProject(glasshouseRound()));
