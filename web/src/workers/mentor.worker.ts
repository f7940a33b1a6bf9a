import { expose } from "comlink";
import { mentorWork } from "./mentorWork";

export type MentorWorker = typeof mentorWork;
expose(mentorWork);
