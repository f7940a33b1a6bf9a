export type Ending = "finished" | "left the course" | "ran into the end" | "the belt is empty" | "time is over";

/** Whether a run came to its own end: nothing more could have happened in it. */
export const cameToItsEnd = (ending: Ending): boolean => ending === "finished" || ending === "the belt is empty";

/** How people are told of how a run ended, before the time at which it did. */
export const ENDING_WORDS: Readonly<Record<Ending, string>> = {
  finished: "Finished",
  "left the course": "Left the course",
  "ran into the end": "Ran into the end of the rail",
  "the belt is empty": "Every piece has left the belt",
  "time is over": "Time was over",
};
