import type { ProjectDocument } from "../project";
import type { Sensor } from "../readings";
import { writePython } from "./python";

/** A language that code for a robot is written in. */
export interface Language {
  key: string;
  name: string;
  /** The ending of its files, and their media type. */
  ending: string;
  mime: string;
  /** The code of these sensors' rules and steadying, one at least. */
  write(project: ProjectDocument, sensors: readonly Sensor[]): string;
}

/** Every language there is. A new one is one more entry. */
export const LANGUAGES: readonly Language[] = [
  { key: "python", name: "Python", ending: "py", mime: "text/x-python", write: writePython },
];
