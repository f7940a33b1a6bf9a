import type { PartThing } from "@perceptum/core/edits";
import type { Course } from "@perceptum/core/world";
import type { ReactNode } from "react";
import type { LastRun } from "../model/judging/Mentor";
import type { RunMoment } from "./momentOf";

/** A course with a run on it at time t, or without one. */
export interface CourseRunProps {
  course: Course;
  start: { name: string };
  run: LastRun | null;
  t: number;
  /** The robot at that time. */
  now: RunMoment;
  /** What it shows. */
  face: ReactNode;
}

/** A course that is edited, and the part of it that is chosen. */
export interface CourseEditProps {
  course: Course;
  thing: PartThing | null;
  onChoose: (thing: PartThing | null) => void;
  /** Gives whether it is gone. */
  onRemove: (thing: PartThing) => boolean;
  onDuplicate: (thing: PartThing) => void;
}
