import { writeFileSync } from "node:fs";
import { bedWatch, glasshouseRound, pipeRailCarrier, pottingShed, routeCards } from "@perceptum/core/demo";
import { type Project, writeProject } from "@perceptum/core/project";
import { packFrame } from "./packFrame";

/** Writes the demo projects; its output is committed, and a test holds that it is what the generator gives. */
const write = (name: string, project: Project) =>
  writeFileSync(new URL(`./${name}.perceptum.json`, import.meta.url), writeProject(project));
write("glasshouse-round", glasshouseRound());
write("route-cards", routeCards());
write("pipe-rail-carrier", pipeRailCarrier());
write("potting-shed", pottingShed());
write("bed-watch", bedWatch(packFrame));
