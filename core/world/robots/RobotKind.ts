import type * as z from "zod";
import type { Machine } from "../../behaviour";
import type { Body } from "../body";
import type { Chance } from "../chance";
import type { DrawnCourse } from "../courses/DrawnCourse";
import type { Floor } from "../floor";
import type { RailBeginning } from "../rail/Carrier";
import type { AnyRobot, Motor } from "./parts";

/** Where a run begins. */
export interface Beginning {
  x: number;
  y: number;
  heading: number;
  /** On a rail: which, and where along it. */
  rail?: RailBeginning;
}

/** The course that a robot is put on, as a run takes place on it. */
export interface Around {
  course: Pick<DrawnCourse, "patches" | "size">;
  floor: Pick<Floor, "lift">;
}

/** What findings ask of a machine that drives. */
export interface Drive {
  motors: readonly Motor[];
  tractionMmS2: number;
}

/**
 * One kind of robot, whole: how it is kept, what it offers to behaviour, and how it moves. Its drawing stands in the
 * page under the same key.
 */
export interface RobotKind<R extends AnyRobot & { kind: string } = AnyRobot & { kind: string }> {
  key: R["kind"];
  /** What a person calls it. */
  name: string;
  /** What the places of its sensors are measured from, in words. */
  origin: string;
  schema: z.ZodType<R>;
  /** The kind of course that it runs on. */
  course: string;
  /** One as it is at first, with what it shares with another kind. */
  fresh(shared: AnyRobot): R;
  machine(robot: R): Machine;
  body(robot: R, start: Beginning, chance: Chance, tickMs: number, around: Around): Body;
  /** The robot with everything that moves it `factor` times as fast. */
  faster(robot: R, factor: number): R;
  /** How wide it is over its wheels, in mm; 0 where it does not move. */
  widthMm(robot: R): number;
  /** Its motors and what the floor holds; missing where it has none. */
  drive?(robot: R): Drive;
  /** The robot with a motor changed. */
  withMotor?(robot: R, motor: string, change: Partial<Motor>): R;
}
