import type { Heavy } from "./heavy/Heavy";
import type { ProjectStore } from "./storage/ProjectStore";
import type { ReadingsStore } from "./storage/ReadingsStore";

/** What the routes work with. */
export interface Scene {
  projects: ProjectStore;
  readings: ReadingsStore;
  heavy: Heavy;
  /** The data folder: large bodies come in there. */
  folder: string;
}
