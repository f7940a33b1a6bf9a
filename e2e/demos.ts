import { bedWatch, glasshouseRound, pipeRailCarrier, pottingShed, routeCards } from "@perceptum/core/demo";
import { type ProjectDocument, splitProject } from "@perceptum/core/project";
import { packFrame } from "../demo/packFrame";

/** Every demo, without its readings. */
export const demos: readonly ProjectDocument[] = [
  glasshouseRound(),
  routeCards(),
  pipeRailCarrier(),
  pottingShed(),
  bedWatch(packFrame),
].map((project) => splitProject(project).document);
