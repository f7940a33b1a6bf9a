import type { Heavy } from "./heavy/Heavy";
import type { LinkHub } from "./links/LinkHub";
import type { FrameStore } from "./storage/FrameStore";
import type { ProjectStore } from "./storage/ProjectStore";
import type { ReadingsStore } from "./storage/ReadingsStore";

/** What the routes work with. */
export interface Scene {
  projects: ProjectStore;
  readings: ReadingsStore;
  frames: FrameStore;
  heavy: Heavy;
  links: LinkHub;
  /** The data folder: large bodies come in there. */
  folder: string;
}
