import { glasshouseRound } from "@perceptum/core/demo";
import type { Project } from "@perceptum/core/project";

/** A demo to change. */
export const demoProject = (): Project => ({ ...glasshouseRound(), name: "Glasshouse round, to change" });
