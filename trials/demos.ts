import { bedWatch, glasshouseRound, pipeRailCarrier, pottingShed, routeCards } from "@perceptum/core/demo";
import { type Project, type ProjectDocument, splitProject } from "@perceptum/core/project";
import { packFrame } from "../demo/packFrame";

/** Every demo, without its readings. */
export const demos: readonly ProjectDocument[] = [
  glasshouseRound(),
  routeCards(),
  pipeRailCarrier(),
  pottingShed(),
  bedWatch(packFrame),
].map((project) => splitProject(project).document);

/** A project without its tapes, as what is tried on a course needs none. */
export const withoutTapes = (project: Project): Project => ({ ...project, tapes: [] });
