import * as z from "zod";
import { Table } from "../../names";
import { cart } from "./cart";
import type { CartRobot } from "./cartSchema";
import { type HandRobot, hand } from "./hand";
import type { RobotKind } from "./RobotKind";
import { shuttle } from "./shuttle";
import type { ShuttleRobot } from "./shuttleSchema";
import { sorter } from "./sorter";
import type { SorterRobot } from "./sorterSchema";

export type { CartRobot } from "./cartSchema";
export { type AnyRobot, LOOKS, looksAhead, Motor, Mount, Servo } from "./parts";
export type { Around, Beginning, Drive, RobotKind } from "./RobotKind";
export type { ShuttleRobot } from "./shuttleSchema";
export { Crate, Gate, type SorterRobot } from "./sorterSchema";

/** The simulated machine. */
export type Robot = CartRobot | HandRobot | ShuttleRobot | SorterRobot;

/** Every kind of robot. */
export const ROBOTS = new Table<RobotKind<Robot>>([cart, hand, shuttle, sorter] as unknown as RobotKind<Robot>[]);
export const Robot: z.ZodType<Robot> = z.union(ROBOTS.schemas as unknown as [z.ZodType<Robot>, z.ZodType<Robot>]);

/** The table entry of a robot. */
export const robotKindOf = (robot: { kind: string }): RobotKind<Robot> => ROBOTS.get(robot.kind);

/** A robot as behaviour knows it. */
export const machineOf = (robot: Robot) => robotKindOf(robot).machine(robot);
