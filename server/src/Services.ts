import type { LinkHub } from "./links/LinkHub";
import type { FrameStore } from "./storage/FrameStore";
import type { ProjectStore } from "./storage/ProjectStore";
import type { ReadingsStore } from "./storage/ReadingsStore";
import type { WorkPool } from "./work/WorkPool";

/** What the routes work with. */
export interface Services {
  projects: ProjectStore;
  readings: ReadingsStore;
  frames: FrameStore;
  pool: WorkPool;
  links: LinkHub;
  /** The data folder: large bodies come in there. */
  folder: string;
}
