import { cardsInTheHand } from "./cardsInTheHand";
import { carrierLoop } from "./carrierLoop";
import { countCrossings } from "./countCrossings";
import { followTheLine } from "./followTheLine";
import type { Job } from "./Job";
import { readingsFromAFile } from "./readingsFromAFile";
import { sortRims } from "./sortRims";
import { stopAtTags } from "./stopAtTags";
import { teachACamera } from "./teachACamera";

/** The jobs of the guide, the simplest first. */
export const JOBS: readonly Job[] = [
  stopAtTags,
  followTheLine,
  countCrossings,
  cardsInTheHand,
  readingsFromAFile,
  carrierLoop,
  sortRims,
  teachACamera,
];
