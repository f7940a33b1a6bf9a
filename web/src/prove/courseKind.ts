import type { Course, Robot } from "@perceptum/core/world";

/** The kind of course that a kind of robot needs. */
export const courseKindFor = (robot: Robot["kind"]): Course["kind"] => (robot === "hand" ? "hand" : "floor");
