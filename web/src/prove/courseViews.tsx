import type { Course } from "@perceptum/core/world";
import type { ComponentType } from "react";
import { BeltFields } from "./belt/BeltFields";
import { BeltView } from "./belt/BeltView";
import { EditableBelt } from "./belt/EditableBelt";
import { CourseView } from "./CourseView";
import { EditableCourse } from "./course/EditableCourse";
import type { CourseEditProps, CourseRunProps } from "./courseProps";
import { EditableHand } from "./hand/EditableHand";
import { HandView } from "./hand/HandView";
import { EditableRail } from "./rail/EditableRail";
import { RailFields } from "./rail/RailFields";

/** How one kind of course is shown in a run and edited. */
export interface CourseViews {
  Run: ComponentType<CourseRunProps>;
  /** Whether what the robot shows stands large beside the course; else it is a strip below. */
  largeFace: boolean;
  Edit: ComponentType<CourseEditProps>;
  /** What of it stands beside the drawing, beyond what every course has. */
  Fields?: ComponentType<{ course: Course }>;
  /** What its ground is called. */
  ground: string;
  /** Cards are all that happens on it. */
  cardsAlone?: true;
  /** How it is edited by hand, in one line. */
  hint: string;
}

/** The views of each kind of course, by the key that it has in core's table. */
export const COURSE_VIEWS: Record<string, CourseViews> = {
  floor: {
    ground: "ground",
    Run: CourseView,
    largeFace: false,
    Edit: EditableCourse,
    hint: "drag, or arrow keys; snaps to 1 cm, with Alt to 1 mm; Page Down: the next part; Delete removes",
  },
  rail: {
    ground: "ground",
    Run: CourseView,
    largeFace: false,
    Edit: EditableRail,
    Fields: RailFields,
    hint: "drag plates, ends of sections, the ring to go on; or arrow keys; Delete removes",
  },
  belt: {
    ground: "the belt is",
    Run: BeltView,
    largeFace: false,
    Edit: EditableBelt,
    Fields: BeltFields,
    hint: "pieces stand below, gates and crates on the robot’s sheet",
  },
  hand: {
    ground: "between cards",
    cardsAlone: true,
    Run: HandView,
    largeFace: true,
    Edit: EditableHand,
    hint: "drag, or arrow keys: across for the time, up and down for the height; Delete removes",
  },
};
